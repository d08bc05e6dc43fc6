package yoru.core.access;

import java.util.Objects;
import org.jspecify.annotations.Nullable;
import yoru.core.rulebook.Target;

/**
 * What one holding gives through one link to one target, or what is given without a link.
 *
 * @param stretch when
 * @param ending why it ends, none = it does not
 */
public record Entitlement(
        String person,
        Target target,
        Stretch stretch,
        Reason reason,
        @Nullable Ending ending) {

    Entitlement without(Windows others) {
        return new Entitlement(person, target, stretch.without(others), reason, ending);
    }

    /** Whether a payment not yet made would have it go on longer. */
    public boolean renews() {
        if (ending != null && ending.renews()) {
            return true;
        }
        var suspended = stretch.suspended().asList();
        var end = stretch.span().endOrNone();
        return !suspended.isEmpty() && Objects.equals(suspended.getLast().endOrNone(), end);
    }
}
