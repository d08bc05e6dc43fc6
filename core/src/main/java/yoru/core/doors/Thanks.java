package yoru.core.doors;

import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What somebody meets who has just bought something.
 *
 * @param note CommonMark, with what it left open filled in
 * @param onOrNone where its button leads; none = it has none
 * @param redirectOrNone where they are sent instead of reading it
 * @param lists whether they are sent to the page that lists all they bought
 */
public record Thanks(
        String note, @Nullable Button onOrNone, @Nullable String redirectOrNone, boolean lists) {

    /** A button that leads into what was bought. */
    public record Button(String label, String address) {}

    public Optional<Button> on() {
        return Optional.ofNullable(onOrNone);
    }

    public String inWords() {
        if (redirectOrNone != null) {
            return "sent to " + redirectOrNone;
        }
        if (lists) {
            return "sent to the page that lists all that was bought";
        }
        return "“" + note + "”" + on().map(it -> " Button: " + it.label()).orElse("");
    }
}
