package yoru.core.letters;

import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;

/**
 * A school's own words for a letter that Yoru writes by itself.
 *
 * @param text CommonMark
 */
public record LetterWording(String subject, String text) {

    private static final Pattern GAP = Pattern.compile("\\n{3,}");

    /** The letters that can be worded. */
    public enum Kind {
        /** What has opened for somebody. */
        OPENED,
        /** That somebody was given something. */
        GIFT;

        /** What its text may leave open. */
        public List<String> placeholders() {
            return switch (this) {
                case OPENED -> List.of("person.name", "person.address", "titles", "opened", "places", "page", "school");
                case GIFT -> List.of("from", "what", "link", "until", "school");
            };
        }

        /** What its text must leave open: without it the letter would be of no use. */
        public String needed() {
            return switch (this) {
                case OPENED -> "opened";
                case GIFT -> "link";
            };
        }
    }

    /** The placeholders of the text or the subject that a letter of a kind does not have. */
    public List<String> unknown(Kind kind) {
        return Placeholders.in(subject + text)
                .filter(name -> !kind.placeholders().contains(name))
                .distinct()
                .toList();
    }

    /** Whether it says what a letter of a kind has to. */
    public boolean isComplete(Kind kind) {
        return Placeholders.in(text).anyMatch(kind.needed()::equals);
    }

    /** With what it leaves open; where there is nothing to say, no gap stays. */
    public LetterWording fill(Map<String, String> values) {
        return new LetterWording(
                Placeholders.fill(subject, values).strip().replaceAll("\\s+", " "),
                GAP.matcher(Placeholders.fill(text, values)).replaceAll("\n\n").strip());
    }
}
