package yoru.server.mapping;

import java.time.Clock;
import java.util.ArrayList;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Consumer;
import org.springframework.stereotype.Service;
import yoru.core.impact.Change;
import yoru.core.impact.Headcount;
import yoru.core.impact.Impact;
import yoru.core.rulebook.Rulebook;
import yoru.formats.RulebookDocument;
import yoru.formats.RulebookEdit;
import yoru.server.doors.SchoolDoors;
import yoru.server.ledger.LedgerReader;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.rulebooks.Rulebooks.Numbered;

/** Computes what a draft would change, some people at a time, so that it can be watched and given up. */
@Service
public class Consequences {

    /** As many as a margin can search through; the figures count everybody, and the list has everybody. */
    private static final int KEPT_CHANGES = 1_000;

    private final Rulebooks rulebooks;
    private final LedgerReader ledger;
    private final SchoolDoors doors;
    private final Clock clock;

    Consequences(Rulebooks rulebooks, LedgerReader ledger, SchoolDoors doors, Clock clock) {
        this.rulebooks = rulebooks;
        this.ledger = ledger;
        this.doors = doors;
        this.clock = clock;
    }

    /** Is told how far it is; what it throws ends the work. */
    @FunctionalInterface
    interface Progress {
        void done(int people, int of);
    }

    /** @throws yoru.formats.UnreadableException where the draft is no rulebook, naming the place of every fault */
    public Consequence of(Wanted wanted) {
        return of(rulebooks.overTodaysCatalogue(), wanted);
    }

    Consequence of(Numbered now, Wanted wanted) {
        return of(now, wanted, (people, of) -> {});
    }

    Consequence of(Numbered now, Wanted wanted, Progress progress) {
        var after = rulebook(now, wanted);
        var people = new Headcount();
        var first = new ArrayList<Change>();
        var total = new AtomicInteger();
        forEach(now, after, progress, ofOne -> {
            people.add(ofOne);
            total.addAndGet(ofOne.changes().size());
            ofOne.changes().stream().limit(KEPT_CHANGES - first.size()).forEach(first::add);
        });
        return new Consequence(now.rulebook(), after, total.get(), first, people);
    }

    /** Every change, in the order of people and targets. */
    void forEach(Wanted wanted, Consumer<Change> each) {
        var now = rulebooks.overTodaysCatalogue();
        forEach(
                now,
                rulebook(now, wanted),
                (done, of) -> {},
                ofOne -> ofOne.changes().forEach(each));
    }

    private void forEach(Numbered now, Rulebook after, Progress progress, Consumer<Impact.OfOne> each) {
        var impact = new Impact(now.rulebook(), after);
        var concerned = ledger.concernedBy(impact.concern());
        var asOf = clock.instant();
        ledger.walk(
                concerned,
                asOf,
                done -> progress.done(done, concerned.size()),
                history -> each.accept(impact.of(history, asOf)));
    }

    /** The rulebook that a draft makes, checked like a document from outside. */
    public Rulebook rulebook(Numbered now, Wanted wanted) {
        var from = wanted.document() == null
                ? now.rulebook()
                : rulebooks.overTodaysCatalogue(RulebookDocument.read(wanted.document()));
        var after = RulebookEdit.edited(from, wanted.things(), wanted.cells());
        doors.refuseOutside(now.rulebook(), after);
        return after;
    }
}
