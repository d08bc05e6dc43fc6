package yoru.core.findings;

import java.time.Period;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** The time that a name promises: "First Hive, 1 year". */
public final class Promise {

    private static final Pattern TIME =
            Pattern.compile("\\b(one|two|three|six|\\d{1,3})[ -](day|week|month|year)s?\\b", Pattern.CASE_INSENSITIVE);
    private static final Map<String, Integer> NUMBERS = Map.of("one", 1, "two", 2, "three", 3, "six", 6);

    private Promise() {}

    public static Optional<Period> in(String text) {
        Matcher match = TIME.matcher(text);
        if (!match.find()) {
            return Optional.empty();
        }
        var number = match.group(1).toLowerCase(Locale.ROOT);
        var word = NUMBERS.get(number);
        int count = word == null ? Integer.parseInt(number) : word;
        return Optional.of(
                switch (match.group(2).toLowerCase(Locale.ROOT)) {
                    case "day" -> Period.ofDays(count);
                    case "week" -> Period.ofWeeks(count);
                    case "month" -> Period.ofMonths(count);
                    default -> Period.ofYears(count);
                });
    }
}
