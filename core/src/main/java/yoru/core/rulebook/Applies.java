package yoru.core.rulebook;

import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Which holdings a link serves: those that begin in [from, until).
 *
 * @param fromOrNone none = from always
 * @param untilOrNone none = for ever
 */
public record Applies(
        @Nullable Instant fromOrNone, @Nullable Instant untilOrNone, Afterwards afterwards) {

    /** What becomes of access that the link gave when its time is over. */
    public enum Afterwards {
        TAKE_BACK,
        RUN_OUT
    }

    public static final Applies ALWAYS = new Applies(null, null, Afterwards.RUN_OUT);

    public Optional<Instant> from() {
        return Optional.ofNullable(fromOrNone);
    }

    public Optional<Instant> until() {
        return Optional.ofNullable(untilOrNone);
    }

    public boolean covers(Instant start) {
        return (fromOrNone == null || !start.isBefore(fromOrNone))
                && (untilOrNone == null || start.isBefore(untilOrNone));
    }
}
