package yoru.core.access;

import java.util.List;
import yoru.core.rulebook.Target;

/**
 * A maximal window in which a person may be at a target.
 *
 * @param entitlements all that make it up, by start
 */
public record Access(String person, Target target, Window window, State state, List<Entitlement> entitlements) {
    public Access {
        entitlements = List.copyOf(entitlements);
    }
}
