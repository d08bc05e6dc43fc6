package yoru.core.impact;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import yoru.core.access.Engine;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.moves.Moves;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;

/** Compares two rulebooks over the same ledger. */
public final class Impact {

    private final Engine before;
    private final Engine after;
    private final Concern concern;
    private final NoGain noGain;

    public Impact(Rulebook before, Rulebook after) {
        this.before = new Engine(before);
        this.after = new Engine(after);
        this.concern = Concern.of(before, after);
        this.noGain = new NoGain(before, this.after);
    }

    /** Whom the difference can concern; nobody else need be looked at. */
    public Concern concern() {
        return concern;
    }

    /** What changes for whom, by person and target, in code point order. */
    public List<Change> over(Ledger ledger, Instant asOf) {
        var changes = new ArrayList<Change>();
        for (History history : Histories.of(ledger.asOf(asOf)).all()) {
            changes.addAll(over(history, asOf));
        }
        return changes;
    }

    /** What changes for one person, by target. */
    public List<Change> over(History history, Instant asOf) {
        return of(history, asOf).changes();
    }

    /**
     * What the other rulebook means to one person.
     *
     * @param changes by target
     * @param letter whether they would be written to that something has opened
     * @param noGain where they bought what it lets open more and gain nothing by it, why
     */
    public record OfOne(List<Change> changes, boolean letter, Optional<NoGain.Why> noGain) {

        static final OfOne NOTHING = new OfOne(List.of(), false, Optional.empty());

        public OfOne {
            changes = List.copyOf(changes);
        }
    }

    /** @param history no fact later than {@code asOf} */
    public OfOne of(History history, Instant asOf) {
        if (!concern.isOf(history)) {
            return OfOne.NOTHING;
        }
        var was = before.access(history, asOf);
        var is = after.access(history, asOf);
        var changes = Changes.between(was, is, asOf).stream()
                .filter(change -> isKnownToBoth(change.target()))
                .toList();
        var moves = Moves.between(was, is, section -> knows(before, section), section -> knows(after, section));
        return new OfOne(changes, !moves.news(asOf).isEmpty(), noGain.of(history, was, changes, asOf));
    }

    /** Whoever has a course can do no more there, or less, because its parts are written down or no longer are. */
    private boolean isKnownToBoth(Target target) {
        return !(target instanceof Target.OfSection section) || (knows(before, section) && knows(after, section));
    }

    private static boolean knows(Engine engine, Target.OfSection section) {
        return engine.index().knows(new Destination.Exactly(section));
    }
}
