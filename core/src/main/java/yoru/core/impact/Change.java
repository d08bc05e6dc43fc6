package yoru.core.impact;

import java.util.List;
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

    /** The sort of difference. */
    public enum Kind {
        /** Had nothing from now on, gets something. */
        GAINS,
        /** Had something, keeps nothing from now on. */
        LOSES,
        /** Ends later than it would have. */
        LONGER,
        /** Ends earlier than it would have. */
        SHORTER,
        /** Ends at the same time, but is open at other times before. */
        OTHERWISE
    }
}
