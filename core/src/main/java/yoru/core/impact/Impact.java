package yoru.core.impact;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import yoru.core.access.Engine;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;

/** Compares two rulebooks over the same ledger. */
public final class Impact {

    private final Engine before;
    private final Engine after;
    private final Concern concern;

    public Impact(Rulebook before, Rulebook after) {
        this.before = new Engine(before);
        this.after = new Engine(after);
        this.concern = Concern.of(before, after);
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
        if (!concern.isOf(history)) {
            return List.of();
        }
        return Changes.between(before.access(history, asOf), after.access(history, asOf), asOf).stream()
                .filter(change -> isKnownToBoth(change.target()))
                .toList();
    }

    /** Whoever has a course can do no more there, or less, because its parts are written down or no longer are. */
    private boolean isKnownToBoth(Target target) {
        return !(target instanceof Target.OfSection section) || (knows(before, section) && knows(after, section));
    }

    private static boolean knows(Engine engine, Target.OfSection section) {
        return engine.index().knows(new Destination.Exactly(section));
    }
}
