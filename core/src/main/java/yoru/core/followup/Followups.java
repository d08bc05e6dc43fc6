package yoru.core.followup;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Engine;
import yoru.core.ledger.ByCodePoint;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Followup.Code;
import yoru.core.rulebook.Followup.Condition;
import yoru.core.rulebook.Rulebook;

/**
 * Computes what follow-ups do from a ledger and a rulebook. A pure function, as access is: the server, the preview of a
 * change and the command call it.
 */
public final class Followups {

    /** The source of all facts that follow-ups make. */
    public static final String SOURCE = "yoru:followups";

    /** Nothing is done. */
    public static final Done NOTHING = new Done(List.of(), List.of(), List.of(), List.of(), Map.of());

    private final Engine engine;
    private final Wording wording;
    private final Watched watched;

    public Followups(Rulebook rulebook) {
        this(new Engine(rulebook), Wording.PLAIN);
    }

    public Followups(Engine engine, Wording wording) {
        this(engine, wording, Watched.of(engine));
    }

    private Followups(Engine engine, Wording wording, Watched watched) {
        this.engine = engine;
        this.wording = wording;
        this.watched = watched;
    }

    /** The same, that call people and places otherwise. */
    public Followups saying(Wording other) {
        return new Followups(engine, other, watched);
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
     * What a step says, in its own words.
     *
     * @param subject of a letter; of a message to the team empty
     * @param code of their own that goes with the letter; none = there is none
     */
    public record Said(
            String step,
            String subject,
            String text,
            @Nullable Code code) {}

    /**
     * A condition that was asked, and what came out.
     *
     * @param count how many orders were counted, where it counts any
     */
    public record Answer(
            Condition condition, boolean holds, @Nullable Integer count) {}

    /** Conditions that were asked together: at a step, before it began ({@code only}), or after a wait ({@code while}). */
    public record Question(String step, boolean holds, List<Answer> answers) {
        public Question {
            answers = List.copyOf(answers);
        }
    }

    /**
     * A stretch of a run that was decided now.
     *
     * @param mark stands from now on once a ledger has it
     * @param person whom the run is about now, after they were joined
     * @param moment when the occasion was
     * @param orderOrNone the order that the run is about
     * @param thingOrNone the path of the thing that it is about
     * @param about what that is called; empty = there is none
     * @param said what its letters and messages say
     * @param questions what was asked on the way
     * @param isAnswered whether what it says answers something the person did: not after a wait
     */
    public record Decided(
            Fact mark,
            String person,
            Instant moment,
            @Nullable String orderOrNone,
            @Nullable String thingOrNone,
            String about,
            List<Said> said,
            List<Question> questions,
            boolean isAnswered) {
        public Decided {
            said = List.copyOf(said);
            questions = List.copyOf(questions);
        }

        public Happening.FollowupWent went() {
            return (Happening.FollowupWent) mark.happening();
        }
    }

    /** What came of asking whether a follow-up serves an occasion. */
    public enum Outcome {
        SERVED,
        /** All that was reported at that time was brought in as long past. */
        LONG_PAST,
        OFF,
        BEFORE_SINCE,
        /** It was decided before, and stands. */
        STANDS,
        SERVED_BEFORE,
        NO_ROW,
        NOT_SO
    }

    /** That a follow-up was asked whether it serves an occasion; {@code only} says why not. */
    public record Asked(
            Instant at,
            String person,
            String followup,
            String occasion,
            Outcome outcome,
            @Nullable Question only) {}

    /**
     * What is done until a time, and what it makes.
     *
     * @param rows sorted by time, person, follow-up, occasion, step and what is done
     * @param facts what opens and ends access because of it
     * @param decided what was decided now, in its order
     * @param asked which follow-ups were asked
     * @param next when something is due next, by person; whoever has nothing due is not among them
     */
    public record Done(
            List<Row> rows, List<Fact> facts, List<Decided> decided, List<Asked> asked, Map<String, Instant> next) {
        public Done {
            rows = rows.stream().sorted(Row.ORDER).toList();
            facts = List.copyOf(facts);
            decided = List.copyOf(decided);
            asked = List.copyOf(asked);
            next = Map.copyOf(next);
        }

        /** The ledger that it was computed from, with what was made of it. */
        public Ledger over(Ledger ledger) {
            return Ledger.of(Stream.concat(ledger.facts().stream().filter(fact -> !isOwn(fact)), facts.stream())
                    .toList());
        }

        /** What stands from now on once a ledger has it. */
        public List<Fact> marks() {
            return decided.stream().map(Decided::mark).toList();
        }
    }

    /** The ledger with what follow-ups made of it until a time, for whoever asks who has access. */
    public Ledger with(Ledger ledger, Instant asOf) {
        return until(ledger, asOf).over(ledger);
    }

    /** What is done until a time, by everybody of whom the ledger tells. */
    public Done until(Ledger ledger, Instant asOf) {
        var rows = new ArrayList<Row>();
        var facts = new ArrayList<Fact>();
        var decided = new ArrayList<Decided>();
        var asked = new ArrayList<Asked>();
        Map<String, Instant> next = new HashMap<>();
        for (List<Fact> some : Together.of(ledger.asOf(asOf).facts())) {
            var done = new Going(engine, wording, watched, some, asOf).done();
            rows.addAll(done.rows());
            facts.addAll(done.facts());
            decided.addAll(done.decided());
            asked.addAll(done.asked());
            next.putAll(done.next());
        }
        return new Done(rows, facts, decided, asked, next);
    }

    /** Whether a fact is one that follow-ups made. */
    public static boolean isOwn(Fact fact) {
        return fact.id().source().equals(SOURCE);
    }
}
