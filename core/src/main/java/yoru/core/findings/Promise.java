package yoru.core.findings;

import java.time.Period;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** The time that a name promises: "First Hive, 1 year", "Half a year of Queen Rearing", "open for a month". */
public final class Promise {

    private static final List<String> NUMBERS =
            List.of("one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve");
    private static final String COUNT = "(?<![\\d.,½])(?<count>" + String.join("|", NUMBERS) + "|\\d{1,3}|for an?)";
    private static final Pattern TIME = Pattern.compile(
            "\\b" + COUNT + "[\\s\u00a0-]+(?<unit>day|week|month|year)s?\\b(?! and a half)"
                    + "|(?<!and a )(?<!and )\\b(?<half>half[\\s\u00a0-]+(a[\\s\u00a0-]+)?year)\\b",
            Pattern.CASE_INSENSITIVE);

    private Promise() {}

    public static Optional<Period> in(String text) {
        Matcher match = TIME.matcher(text);
        if (!match.find()) {
            return Optional.empty();
        }
        if (match.group("half") != null) {
            return Optional.of(Period.ofMonths(6));
        }
        int count = count(match.group("count").toLowerCase(Locale.ROOT));
        return Optional.of(
                switch (match.group("unit").toLowerCase(Locale.ROOT)) {
                    case "day" -> Period.ofDays(count);
                    case "week" -> Period.ofWeeks(count);
                    case "month" -> Period.ofMonths(count);
                    default -> Period.ofYears(count);
                });
    }

    private static int count(String said) {
        if (said.startsWith("for a")) {
            return 1;
        }
        int number = NUMBERS.indexOf(said);
        return number < 0 ? Integer.parseInt(said) : number + 1;
    }
}
