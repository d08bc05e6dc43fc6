package yoru.core.time;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.LocalDate;
import java.time.Period;
import java.time.ZoneId;
import java.time.ZoneOffset;
import org.dmfs.rfc5545.DateTime;
import org.dmfs.rfc5545.recur.RecurrenceRule;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SchoolCalendarTests {

    private static final SchoolCalendar DUBLIN = new SchoolCalendar(ZoneId.of("Europe/Dublin"));

    /** Dublin's clocks go on by an hour on 30 March 2025 at 01:00 and back on 26 October 2025 at 02:00 (IANA tzdata). */
    @ParameterizedTest
    @CsvSource({
        "2025-02-28T01:30:00Z, P1M2D, 2025-03-30T01:30:00Z", // 01:30 is skipped: 02:30 summer time
        "2025-09-26T00:30:00Z, P1M, 2025-10-26T00:30:00Z", // 01:30 occurs twice: the first, still in summer time
        "2025-10-26T01:30:00Z, P0D, 2025-10-26T01:30:00Z", // a period of zero does not move to the first
        "2025-01-15T10:00:00Z, P6M, 2025-07-15T09:00:00Z", // local time is kept
    })
    void keepsLocalTimeOverClockChanges(Instant start, Period period, Instant expected) {
        assertThat(DUBLIN.plus(start, period)).isEqualTo(expected);
    }

    /** RFC 7529, SKIP=BACKWARD, expanded by lib-recur 0.17.1. */
    @Test
    void clampsMonthEndsLikeRfc7529() throws Exception {
        var utc = new SchoolCalendar(ZoneOffset.UTC);
        for (var anchor = LocalDate.of(2023, 12, 28);
                anchor.isBefore(LocalDate.of(2024, 3, 2));
                anchor = anchor.plusDays(1)) {
            var rule = new RecurrenceRule("FREQ=MONTHLY;COUNT=15;RSCALE=GREGORIAN;SKIP=BACKWARD");
            var series =
                    rule.iterator(new DateTime(anchor.getYear(), anchor.getMonthValue() - 1, anchor.getDayOfMonth()));
            var start = anchor.atStartOfDay(ZoneOffset.UTC).toInstant();
            for (int month = 0; month < 15; month++) {
                var due = series.nextDateTime();
                assertThat(utc.plus(start, Period.ofMonths(1), month))
                        .as("%s plus %d months", anchor, month)
                        .isEqualTo(LocalDate.of(due.getYear(), due.getMonth() + 1, due.getDayOfMonth())
                                .atStartOfDay(ZoneOffset.UTC)
                                .toInstant());
            }
        }
    }
}
