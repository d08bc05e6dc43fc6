package yoru.core.followup;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import yoru.core.access.Engine;
import yoru.core.followup.Followups.Asked;
import yoru.core.followup.Followups.Decided;
import yoru.core.followup.Followups.Outcome;
import yoru.core.followup.Followups.Row;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Rulebook;

/**
 * What a follow-up would have done had it been on all along, and what it would do at once if what was before counted. The
 * others did what the ledger says that they did.
 */
public final class Preview {

    private final Followups followups;
    private final String followup;
    private final Instant now;

    /** @throws IllegalArgumentException where the rulebook has no such follow-up */
    public Preview(Rulebook rulebook, String followup, Wording wording, Instant now) {
        if (rulebook.followups().stream().noneMatch(it -> it.id().equals(followup))) {
            throw new IllegalArgumentException("no follow-up " + followup);
        }
        // what the others did stands in the ledger; what they would do is another preview's affair
        var on = rulebook.withFollowups(rulebook.followups().stream()
                .filter(it -> it.id().equals(followup))
                .map(Preview::allAlong)
                .toList());
        this.followups = new Followups(new Engine(on), wording);
        this.followup = followup;
        this.now = now;
    }

    private static Followup allAlong(Followup it) {
        return new Followup(
                it.id(),
                it.title(),
                true,
                null,
                it.when(),
                it.eachLine(),
                it.statedOnce(),
                it.only(),
                it.whilst(),
                it.always(),
                it.steps(),
                it.rows());
    }

    /**
     * A run there would have been.
     *
     * @param first how it would have begun
     * @param stretches all that was decided of it, the first with it
     * @param rows what it would have done by now, also what ended
     */
    public record Run(Decided first, List<Decided> stretches, List<Row> rows) {
        public Run {
            stretches = List.copyOf(stretches);
            rows = List.copyOf(rows);
        }
    }

    /**
     * What comes out for some people.
     *
     * @param runs in the order in which they would have begun
     * @param passed occasions that it would have left alone
     */
    public record Outcomes(List<Run> runs, List<Asked> passed) {
        public Outcomes {
            runs = List.copyOf(runs);
            passed = List.copyOf(passed);
        }
    }

    /** What it would have done for all of whom the ledger tells, whatever it did. */
    public Outcomes of(Ledger ledger) {
        var without = Ledger.of(ledger.facts().stream()
                .filter(fact -> !(fact.happening() instanceof Happening.OfFollowup && isOfIt(fact.happening())))
                .toList());
        var done = followups.until(without, now);
        Map<RunKey, List<Decided>> runs = new LinkedHashMap<>();
        done.decided().stream()
                .filter(it -> it.went().followup().equals(followup))
                .forEach(it -> runs.computeIfAbsent(RunKey.of(it), key -> new ArrayList<>())
                        .add(it));
        Map<RunKey, List<Row>> rows = new LinkedHashMap<>();
        done.rows().stream()
                .filter(it -> it.followup().equals(followup))
                .forEach(it -> rows.computeIfAbsent(
                                new RunKey(it.person(), it.followup(), it.occasion()), key -> new ArrayList<>())
                        .add(it));
        return new Outcomes(
                runs.entrySet().stream()
                        .map(it -> new Run(
                                it.getValue().getFirst(), it.getValue(), rows.getOrDefault(it.getKey(), List.of())))
                        .toList(),
                done.asked().stream()
                        .filter(it -> it.followup().equals(followup) && it.outcome() != Outcome.SERVED)
                        .toList());
    }

    private boolean isOfIt(Happening happening) {
        return switch (happening) {
            case Happening.FollowupWent it -> it.followup().equals(followup);
            case Happening.FollowupStopped it -> it.followup().equals(followup);
            default -> false;
        };
    }

    /** The runs that would begin at once if what was before counted: what was served stays served. */
    public List<Decided> atOnce(Ledger ledger) {
        return followups.until(ledger, now).decided().stream()
                .filter(it -> it.went().followup().equals(followup) && it.went().as() != null)
                .toList();
    }
}
