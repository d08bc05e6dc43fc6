package yoru.core.followup;

import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Access;
import yoru.core.rulebook.Target;

/**
 * How what is watched stands for one person from one instant to another, by all that is known: nothing of it begins, ends
 * or comes near its end between them.
 */
final class Standing {

    private final Watched watched;
    private final Function<Instant, List<Access>> access;
    private final Instant from;
    private final @Nullable Instant until;
    private final List<Access> windows;
    private final Set<Target> open = new HashSet<>();

    Standing(Watched watched, Function<Instant, List<Access>> access, Instant now) {
        this.watched = watched;
        this.access = access;
        this.from = now;
        this.windows = access.apply(now);
        var first = new Earliest(now);
        for (Access one : windows) {
            if (one.state().isOpen()) {
                open.add(one.target());
            }
            watched.turns(one, first::with);
        }
        this.until = first.orNone();
    }

    /** The same at a later time, as long as nothing more is known. */
    Standing at(Instant now) {
        return now.isBefore(from) || (until != null && !now.isBefore(until))
                ? new Standing(watched, access, now)
                : this;
    }

    Optional<Instant> until() {
        return Optional.ofNullable(until);
    }

    List<Access> windows() {
        return windows;
    }

    /** Also how it is suspended, which may change in between. */
    List<Access> windows(Instant now) {
        return access.apply(now);
    }

    /** Always the same set as long as this stands. */
    Set<Target> open() {
        return open;
    }
}
