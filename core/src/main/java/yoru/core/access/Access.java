package yoru.core.access;

import java.util.List;
import java.util.Objects;
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

    /** Whether a payment not yet made would move its end on. */
    public boolean renews() {
        return window.endOrNone() != null && entitlements.stream().anyMatch(this::renewsTheEnd);
    }

    private boolean renewsTheEnd(Entitlement entitlement) {
        var last = entitlement.stretch().open().asList().getLast();
        return entitlement.renews() && Objects.equals(last.endOrNone(), window.endOrNone());
    }
}
