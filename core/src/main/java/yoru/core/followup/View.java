package yoru.core.followup;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Access;
import yoru.core.access.State;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.rulebook.Target;

/** What is known of one person at the beginning of a round. Access is computed where somebody asks for it, and of
 * what is watched by itself. */
final class View {

    private final String person;
    private final Instant now;
    private final Histories histories;
    private final PersonState state;
    private final Watched watched;
    private final Standing standing;
    private final Supplier<List<Access>> ofAll;

    @Nullable
    private List<Access> access;

    View(
            String person,
            Instant now,
            Histories histories,
            PersonState state,
            Watched watched,
            Standing standing,
            Supplier<List<Access>> ofAll) {
        this.person = person;
        this.now = now;
        this.histories = histories;
        this.state = state;
        this.watched = watched;
        this.standing = standing;
        this.ofAll = ofAll;
    }

    String person() {
        return person;
    }

    Instant now() {
        return now;
    }

    Histories histories() {
        return histories;
    }

    PersonState state() {
        return state;
    }

    /** How what is watched stands. */
    Standing standing() {
        return standing;
    }

    List<Access> access() {
        if (access == null) {
            access = ofAll.get();
        }
        return access;
    }

    History history() {
        return histories.person(person);
    }

    boolean isOpen(Target target) {
        return window(target).isPresent();
    }

    /** The window in which it is open now. */
    Optional<Access> window(Target target) {
        return (watched.contains(target) ? standing.windows() : access())
                .stream()
                        .filter(one ->
                                one.target().equals(target) && one.state().isOpen())
                        .findFirst();
    }

    /** Whether it is over: not open, and no missing payment would bring it back. */
    boolean isOver(Target target) {
        return (watched.contains(target) ? standing.windows(now) : access())
                .stream()
                        .filter(one -> one.target().equals(target))
                        .noneMatch(one -> one.state().isOpen() || one.state() == State.SUSPENDED);
    }
}
