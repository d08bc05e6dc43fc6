package yoru.core.followup;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;

/** What follow-ups have done so far, and what is known at the instant at hand. */
final class Book {

    final List<Followups.Row> rows = new ArrayList<>();
    /** What opens and ends access. */
    final List<Fact> own = new ArrayList<>();

    final List<Followups.Decided> decided = new ArrayList<>();
    final List<Followups.Asked> asked = new ArrayList<>();
    /** In the order in which they began to wait. */
    final List<Run> waiting = new ArrayList<>();

    final List<Given> given = new ArrayList<>();

    Instant now = Instant.MIN;
    int round;
    /** What steps of this round gave and took: seen from the next one on. */
    List<Fact> made = new ArrayList<>();

    Map<String, View> views = Map.of();
    Histories histories = Histories.of(Ledger.of(List.of()));

    /** The person a run is about now. */
    View view(Run run) {
        return Objects.requireNonNull(views.get(histories.personOf(run.person)));
    }

    void end(Given one, List<Fact> to) {
        over(one);
        to.add(fact(one.run(), one.id() + "|end", new Happening.GrantEnded(one.id())));
    }

    /** It ends by itself. */
    void over(Given one) {
        given.remove(one);
        row(one.run(), one.step(), "end " + one.target().path());
    }

    Fact fact(Run run, String id, Happening happening) {
        return new Fact(new FactId(Followups.SOURCE, id), run.person, now, happening);
    }

    /** A step of a stretch that is decided now. */
    void does(Run run, String step, String does) {
        run.did.add(new Happening.Did(step, does));
        row(run, step, does);
    }

    void row(Run run, String step, String does) {
        rows.add(new Followups.Row(now, run.person, run.as.id(), run.occasion.key(), step, does));
    }
}
