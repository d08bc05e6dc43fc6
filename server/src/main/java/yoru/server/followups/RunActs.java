package yoru.server.followups;

import java.time.Clock;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import yoru.core.followup.Followups;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.server.deliveries.Repeats;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.FactKeeper;
import yoru.server.ledger.Origin;
import yoru.server.ledger.Register;
import yoru.server.platform.ProblemException;

/** What somebody can do about a run: have it tried again, not wait for a step, stop it. */
@Service
public class RunActs {

    private static final Logger LOG = LoggerFactory.getLogger(RunActs.class);

    /** So many runs are stopped in one act. */
    private static final int AT_ONCE = 1_000;

    private final FollowupRuns runs;
    private final FollowupSteps steps;
    private final CarryingOut carrying;
    private final StepProgress progress;
    private final Repeats repeats;
    private final FactKeeper keeper;
    private final Register register;
    private final Journal journal;
    private final TransactionTemplate transactions;
    private final Clock clock;

    RunActs(
            FollowupRuns runs,
            FollowupSteps steps,
            CarryingOut carrying,
            StepProgress progress,
            Repeats repeats,
            FactKeeper keeper,
            Register register,
            Journal journal,
            PlatformTransactionManager transactions,
            Clock clock) {
        this.runs = runs;
        this.steps = steps;
        this.carrying = carrying;
        this.progress = progress;
        this.repeats = repeats;
        this.keeper = keeper;
        this.register = register;
        this.journal = journal;
        this.transactions = new TransactionTemplate(transactions);
        this.clock = clock;
    }

    /** Has the systems told once more what a step has them told. */
    @Transactional
    public void again(long step, String operator) {
        var known = locked(step);
        var told = progress.of(known);
        if (told.isEmpty() && !known.isOpen()) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "There is nothing to send again",
                    "What was sent is kept for 30 days, and this step sent nothing that is still kept.");
        }
        told.forEach(it -> repeats.one(it.id(), operator));
        carrying.goOn(List.of(known.personId), false);
    }

    /** Has a run not wait for a step any longer. */
    @Transactional
    public void skip(long step, String operator) {
        var known = locked(step);
        if (!known.isOpen()) {
            throw new ProblemException(HttpStatus.CONFLICT, "The step is over", "There is nothing to skip.");
        }
        known.end(StepState.SKIPPED, clock.instant());
        steps.save(known);
        note("Step skipped", known.does, known.runId, operator);
        carrying.goOn(List.of(known.personId), false);
    }

    /**
     * Ends a run. What was decided before stands: what it gives and takes is still given and taken, but nothing more is
     * written, told or set.
     */
    @Transactional
    public void stop(long id, String operator) {
        var run = runs.findById(id).orElseThrow(() -> ProblemException.notFound("No run " + id + "."));
        register.lock(run.personId);
        var all = steps.findByRunIdInOrderByRunIdAscStretchAscNumberAsc(List.of(id));
        if (run.stoppedAt != null || (run.waitsUntil == null && all.stream().noneMatch(FollowupStep::isOpen))) {
            throw new ProblemException(HttpStatus.CONFLICT, "The run is over", "There is nothing to stop.");
        }
        var now = clock.instant();
        run.stoppedAt = now;
        run.waitsUntil = null;
        runs.save(run);
        all.stream()
                .filter(step -> step.state == StepState.DUE && !step.kind().movesAccess())
                .forEach(step -> step.end(StepState.STOPPED, now));
        steps.saveAll(all);
        keeper.keepComputed(
                new Origin.OfOperator(operator),
                List.of(new Fact(
                        new FactId(Followups.SOURCE, run.key().stopped()),
                        run.subject,
                        now,
                        new Happening.FollowupStopped(run.followup, run.occasion))));
        note("Run stopped", run.title, id, operator);
        carrying.goOn(List.of(run.personId), false);
    }

    /** @param left whether others are still under way */
    public record Stopped(int runs, boolean left) {}

    /** Ends all runs of a follow-up that are under way or wait, each by itself. */
    public Stopped stopAll(String followup, String operator) {
        int stopped = 0;
        for (long id : runs.underWay(followup, AT_ONCE)) {
            try {
                transactions.executeWithoutResult(status -> stop(id, operator));
                stopped++;
            } catch (ProblemException e) {
                LOG.info("Run {} was over before it was stopped", id, e);
            }
        }
        return new Stopped(stopped, !runs.underWay(followup, 1).isEmpty());
    }

    private FollowupStep locked(long step) {
        var known = steps.findById(step).orElseThrow(() -> ProblemException.notFound("No step " + step + "."));
        register.lock(known.personId);
        return known;
    }

    private void note(String what, String text, long run, String operator) {
        var of = runs.findById(run);
        journal.write(new Journal.Line(
                Kind.OPERATOR, what, text, operator, of.map(it -> it.personId).orElse(null), null));
    }
}
