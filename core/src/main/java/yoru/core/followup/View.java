package yoru.core.followup;

import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Access;
import yoru.core.access.State;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.rulebook.Target;

/** What is known of one person at the beginning of a round. Access is computed where somebody asks for it. */
final class View {

    private final String person;
    private final Instant now;
    private final Histories histories;
    private final PersonState state;
    private final Supplier<List<Access>> computed;

    @Nullable
    private List<Access> access;

    View(String person, Instant now, Histories histories, PersonState state, Supplier<List<Access>> computed) {
        this.person = person;
        this.now = now;
        this.histories = histories;
        this.state = state;
        this.computed = computed;
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

    List<Access> access() {
        if (access == null) {
            access = computed.get();
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
        return access().stream()
                .filter(one -> one.target().equals(target) && one.state().isOpen())
                .findFirst();
    }

    /** Whether it is over: not open, and no missing payment would bring it back. */
    boolean isOver(Target target) {
        return access().stream()
                .filter(one -> one.target().equals(target))
                .noneMatch(one -> one.state().isOpen() || one.state() == State.SUSPENDED);
    }

    Set<Target> open() {
        Set<Target> open = new HashSet<>();
        access().stream().filter(one -> one.state().isOpen()).forEach(one -> open.add(one.target()));
        return open;
    }
}
