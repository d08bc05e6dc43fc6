package yoru.core.letters;

import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** What a text of the school's own leaves open: {@code {{person.name}}}. */
public final class Placeholders {

    private static final Pattern NAME = Pattern.compile("\\{\\{\\s*([^{}\\s]+)\\s*}}");

    private Placeholders() {}

    /** Their names, as often as they stand there. */
    public static Stream<String> in(String text) {
        return NAME.matcher(text).results().map(found -> found.group(1));
    }

    /** The text with what it leaves open; a name that nothing is known of stays. */
    public static String fill(String text, Map<String, String> values) {
        return NAME.matcher(text)
                .replaceAll(found -> Matcher.quoteReplacement(values.getOrDefault(found.group(1), found.group())));
    }
}
