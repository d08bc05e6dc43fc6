package yoru.core.impact;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import yoru.core.access.Access;
import yoru.core.rulebook.Target;

/**
 * What another rulebook changes for one person at one target, from the as-of time on.
 *
 * @param now whether it opens or closes at once; otherwise only later
 * @param before windows that reach past the as-of time under the present rulebook
 * @param after the same under the other
 */
public record Change(String person, Target target, Kind kind, boolean now, List<Access> before, List<Access> after) {

    public Change {
        before = List.copyOf(before);
        after = List.copyOf(after);
    }

    /** Whether it is closed until then and opens now. */
    public boolean opensNow() {
        return now && kind != Kind.LOSES;
    }

    /** Of a loss that lasts only for a time: when it is open again. */
    public Optional<Instant> backOn() {
        return kind == Kind.LOSES && !after.isEmpty()
                ? Optional.of(after.getFirst().window().start())
                : Optional.empty();
    }

    /** The sort of difference, the worst first. */
    public enum Kind {
        /** Keeps nothing from now on, or is out from now on until some later day: a gap is a loss. */
        LOSES,
        /** Has it for less time. */
        SHORTER,
        /** Has it at some times that were not, and not at some that were. */
        OTHERWISE,
        /** Had nothing from now on, or nothing yet, and gets something. */
        GAINS,
        /** Has it for more time. */
        LONGER
    }
}
