package yoru.core.access;

import java.math.BigDecimal;
import java.text.NumberFormat;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.Period;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Locale;

/** Dates, periods and money as people read them. */
public record Words(ZoneId zone) {

    /** The same as in the browser: CLDR's English of Ireland. */
    private static final Locale MONEY = Locale.of("en", "IE");

    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM uuuu", Locale.ENGLISH);

    /** "12 Oct 2026", the day in the school's zone. */
    public String day(Instant instant) {
        return DAY.format(instant.atZone(zone));
    }

    /** "12 Oct 2026", the day of a time in the school. */
    public static String day(LocalDateTime time) {
        return DAY.format(time);
    }

    /** "1 year", "2 months 10 days". */
    public static String period(Period period) {
        List<String> parts = new ArrayList<>();
        counted(parts, period.getYears(), "year");
        counted(parts, period.getMonths(), "month");
        counted(parts, period.getDays(), "day");
        return parts.isEmpty() ? "no time" : String.join(" ", parts);
    }

    /** "€180.00"; at least as many decimals as the currency's minor unit has. */
    public static String money(BigDecimal amount, Currency currency) {
        int digits = Math.max(amount.scale(), Math.max(0, currency.getDefaultFractionDigits()));
        var format = NumberFormat.getCurrencyInstance(MONEY);
        format.setCurrency(currency);
        format.setMinimumFractionDigits(digits);
        format.setMaximumFractionDigits(digits);
        return format.format(amount);
    }

    private static void counted(List<String> parts, int count, String unit) {
        if (count != 0) {
            parts.add(count + " " + unit + (count == 1 ? "" : "s"));
        }
    }
}
