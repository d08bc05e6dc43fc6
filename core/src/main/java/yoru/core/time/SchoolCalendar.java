package yoru.core.time;

import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.Period;
import java.time.ZoneId;
import java.time.ZonedDateTime;

/**
 * Calendar arithmetic on local date-times in the school's zone.
 *
 * <p>The end of a month clamps, and the local time is kept over a daylight-saving change. A local time that occurs
 * twice means the first, a skipped one moves on by the gap ({@link ZonedDateTime#ofLocal} without a preferred offset).
 *
 * @param zone the school's zone, of the IANA time zone database
 */
public record SchoolCalendar(ZoneId zone) {

    /** Nothing is counted further than to here; it is as good as never, and can be computed with. */
    private static final Instant LATEST = Instant.parse("+999999-01-01T00:00:00Z");

    /**
     * The instant one period after {@code start}.
     *
     * @param period years, months and days; a period of zero changes nothing
     */
    public Instant plus(Instant start, Period period) {
        return plus(start, period, 1);
    }

    /**
     * The instant several periods after {@code start}, counted in one go: the third month after 31 January is 30 April
     * whatever the second was.
     *
     * @param times not negative
     */
    @SuppressWarnings("JavaPeriodGetDays") // the months are added just before
    public Instant plus(Instant start, Period period, int times) {
        if (period.isZero() || times == 0) {
            return start;
        }
        try {
            var local = start.atZone(zone)
                    .toLocalDateTime()
                    .plusMonths(Math.multiplyExact(period.toTotalMonths(), times))
                    .plusDays(Math.multiplyExact((long) period.getDays(), (long) times));
            var then = ZonedDateTime.ofLocal(local, zone, null).toInstant();
            return then.isBefore(LATEST) ? then : LATEST;
        } catch (ArithmeticException | DateTimeException e) {
            return LATEST;
        }
    }

    /** The instant one period before {@code end}, counted back in local time. */
    @SuppressWarnings("JavaPeriodGetDays") // the months are taken off just before
    public Instant minus(Instant end, Period period) {
        var local = end.atZone(zone)
                .toLocalDateTime()
                .minusMonths(period.toTotalMonths())
                .minusDays(period.getDays());
        return at(local);
    }

    /** The next instant, later than {@code start}, at which it is this time of the day. */
    public Instant next(Instant start, LocalTime time) {
        var day = start.atZone(zone).toLocalDate();
        var then = at(day.atTime(time));
        return then.isAfter(start) ? then : at(day.plusDays(1).atTime(time));
    }

    /** The instant of a local date-time. */
    public Instant at(LocalDateTime local) {
        return ZonedDateTime.ofLocal(local, zone, null).toInstant();
    }
}
