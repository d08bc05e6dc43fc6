package yoru.core.time;

import java.time.Instant;
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

    /**
     * The instant one period after {@code start}.
     *
     * @param period years, months and days; a period of zero changes nothing
     */
    public Instant plus(Instant start, Period period) {
        if (period.isZero()) {
            return start;
        }
        var local = start.atZone(zone).toLocalDateTime().plus(period);
        return ZonedDateTime.ofLocal(local, zone, null).toInstant();
    }
}
