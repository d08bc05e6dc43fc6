package yoru.core.followup;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import yoru.core.access.Engine;
import yoru.core.ledger.ByCodePoint;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Rulebook;

/**
 * Computes what follow-ups do from a ledger and a rulebook. A pure function, as access is: the server, the preview of a
 * change and the command call it.
 */
public final class Followups {

    /** The source of all facts that follow-ups make. */
    public static final String SOURCE = "yoru:followups";

    private final Engine engine;

    public Followups(Rulebook rulebook) {
        this.engine = new Engine(rulebook);
    }

    /**
     * Something that is done.
     *
     * @param step its place in the follow-up: {@code 1}, {@code 4.then.1}
     * @param does as in the rows of the command: {@code give tag/guest}
     */
    public record Row(Instant time, String person, String followup, String occasion, String step, String does) {

        public static final Comparator<Row> ORDER = Comparator.comparing(Row::time)
                .thenComparing(Row::person, ByCodePoint.ORDER)
                .thenComparing(Row::followup, ByCodePoint.ORDER)
                .thenComparing(Row::occasion, ByCodePoint.ORDER)
                .thenComparing(Row::step, ByCodePoint.ORDER)
                .thenComparing(Row::does, ByCodePoint.ORDER);
    }

    /**
     * What is done until a time, and what it makes.
     *
     * @param rows sorted by time, person, follow-up, occasion, step and what is done
     * @param facts what opens and ends access because of it
     * @param marks what was decided now, and stands from then on once a ledger has it
     */
    public record Done(List<Row> rows, List<Fact> facts, List<Fact> marks) {
        public Done {
            rows = rows.stream().sorted(Row.ORDER).toList();
            facts = List.copyOf(facts);
            marks = List.copyOf(marks);
        }
    }

    /** The ledger with what follow-ups made of it until a time, for whoever asks who has access. */
    public Ledger with(Ledger ledger, Instant asOf) {
        return Ledger.of(Stream.concat(
                        ledger.facts().stream().filter(fact -> !isOwn(fact)), until(ledger, asOf).facts().stream())
                .toList());
    }

    /** What is done until a time, by everybody of whom the ledger tells. */
    public Done until(Ledger ledger, Instant asOf) {
        var rows = new ArrayList<Row>();
        var facts = new ArrayList<Fact>();
        var marks = new ArrayList<Fact>();
        for (List<Fact> some : Together.of(ledger.asOf(asOf).facts())) {
            var done = new Going(engine, Ledger.of(some), asOf).done();
            rows.addAll(done.rows());
            facts.addAll(done.facts());
            marks.addAll(done.marks());
        }
        return new Done(rows, facts, marks);
    }

    /** Whether a fact is one that follow-ups made. */
    static boolean isOwn(Fact fact) {
        return fact.id().source().equals(SOURCE);
    }
}
