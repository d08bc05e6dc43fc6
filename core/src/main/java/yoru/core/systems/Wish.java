package yoru.core.systems;

import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.access.HowLong;

/**
 * What one system should hold about one person, whatever it holds now.
 *
 * @param system its id
 * @param isOpen whether the person should have it
 * @param said as JSON what a field should say; none where nothing is said
 */
public record Wish(
        String system,
        Matter matter,
        boolean isOpen,
        HowLong howLong,
        @Nullable String said) {

    private static final String EMPTY = "\"\"";

    public static Wish account(String system) {
        return open(system, new Matter.Account(), HowLong.ALWAYS);
    }

    public static Wish open(String system, Matter matter, HowLong howLong) {
        return new Wish(system, matter, true, howLong, null);
    }

    public static Wish closed(String system, Matter matter) {
        return new Wish(system, matter, false, HowLong.ALWAYS, null);
    }

    /** @param value of the field; an empty one takes off what stands there */
    public static Wish field(String system, String name, String value) {
        return new Wish(system, new Matter.Field(name), true, HowLong.ALWAYS, '"' + escaped(value) + '"');
    }

    /** RFC 8259, 7. */
    private static String escaped(String value) {
        var text = new StringBuilder();
        value.chars()
                .forEach(at -> text.append(
                        at < ' '
                                ? "\\u%04x".formatted(at)
                                : at == '"' || at == '\\' ? "\\" + (char) at : String.valueOf((char) at)));
        return text.toString();
    }

    /** Whether it says no more than that there is nothing. */
    public boolean isOfNothing() {
        return !isOpen || EMPTY.equals(said);
    }

    /** Whether a system is to be told, given what it was told last about the same matter. */
    public boolean isNewsAfter(Optional<Wish> last) {
        return last.map(it -> !it.equals(this)).orElse(!isOfNothing());
    }
}
