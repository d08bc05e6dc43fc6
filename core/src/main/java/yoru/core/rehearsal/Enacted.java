package yoru.core.rehearsal;

import java.time.Instant;
import java.util.List;
import yoru.core.ledger.Fact;
import yoru.core.rehearsal.Script.Scene;

/**
 * A step, and the facts that come in with it.
 *
 * @param facts with times of their own: what was held comes in later than it happened
 * @param held what happened and waits until it is let in
 */
public record Enacted(Scene scene, Instant at, List<Fact> facts, List<Fact> held) {

    public Enacted {
        facts = List.copyOf(facts);
        held = List.copyOf(held);
    }
}
