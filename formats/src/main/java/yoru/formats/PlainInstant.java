package yoru.formats;

import java.time.Instant;
import java.time.LocalDate;
import java.time.YearMonth;
import org.jspecify.annotations.Nullable;

/**
 * Reads the one form of RFC 3339 that nearly every time has, {@code 2026-03-01T10:00:00Z}, ten times as fast as a
 * formatter that reads them all. A ledger of a million facts has a million of them.
 */
final class PlainInstant {

    private static final String FORM = "0000-00-00T00:00:00Z";

    private PlainInstant() {}

    /** @return nothing where the text has another form, right or wrong */
    static @Nullable Instant read(String text) {
        if (text.length() != FORM.length()) {
            return null;
        }
        for (int at = 0; at < FORM.length(); at++) {
            char wanted = FORM.charAt(at);
            char there = text.charAt(at);
            if (wanted == '0' ? there < '0' || there > '9' : there != wanted) {
                return null;
            }
        }
        int year = number(text, 0, 4);
        int month = number(text, 5, 7);
        int day = number(text, 8, 10);
        int hour = number(text, 11, 13);
        int minute = number(text, 14, 16);
        int second = number(text, 17, 19);
        boolean inRange = year >= 1
                && month >= 1
                && month <= 12
                && day >= 1
                && day <= YearMonth.of(year, month).lengthOfMonth()
                && hour <= 23
                && minute <= 59
                && second <= 59;
        return inRange
                ? Instant.ofEpochSecond(
                        LocalDate.of(year, month, day).toEpochDay() * 86_400 + hour * 3_600L + minute * 60L + second)
                : null;
    }

    private static int number(String text, int from, int to) {
        int number = 0;
        for (int at = from; at < to; at++) {
            number = number * 10 + text.charAt(at) - '0';
        }
        return number;
    }
}
