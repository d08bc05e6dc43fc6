package yoru.server.followups;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.data.domain.PageRequest;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.followup.FollowupWords;
import yoru.server.deliveries.Deliveries.Progress;
import yoru.server.deliveries.DeliveryState;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.ProblemException;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Connections;

/** What follow-ups did and are doing, to be looked at. */
@Service
public class RunList {

    private static final int AT_A_TIME = 50;

    private final FollowupRuns runs;
    private final FollowupSteps steps;
    private final StepProgress progress;
    private final Connections connections;
    private final Register register;
    private final Rulebooks rulebooks;

    RunList(
            FollowupRuns runs,
            FollowupSteps steps,
            StepProgress progress,
            Connections connections,
            Register register,
            Rulebooks rulebooks) {
        this.runs = runs;
        this.steps = steps;
        this.progress = progress;
        this.connections = connections;
        this.register = register;
        this.rulebooks = rulebooks;
    }

    /** How far a run is. */
    public enum RunState {
        /** A step cannot be carried out. */
        HELD_UP,
        GOING,
        /** Until its time has come. */
        WAITING,
        DONE,
        STOPPED
    }

    /**
     * What a system said about a step.
     *
     * @param delivery by which it is told again
     */
    public record RunAnswer(
            long delivery,
            String system,
            boolean done,
            boolean failing,
            @Nullable String answer) {}

    /**
     * A step of a run.
     *
     * @param does in words
     * @param note what the systems answered, or what stands in its way
     * @param subject of a letter, as it was written
     */
    public record RunStep(
            long id,
            String step,
            String does,
            StepState state,
            Instant dueAt,
            @Nullable Instant endedAt,
            String note,
            List<RunAnswer> answers,
            @Nullable String subject,
            @Nullable String text,
            @Nullable String code) {}

    /** Conditions that were asked together, in words. */
    public record RunQuestion(String step, boolean holds, List<String> answers) {}

    /** A run. */
    public record RunShown(
            long id,
            long person,
            String name,
            String followup,
            String title,
            String occasion,
            String about,
            @Nullable String order,
            Instant moment,
            RunState state,
            @Nullable Silence silence,
            @Nullable Instant waitsUntil,
            @Nullable Instant stoppedAt,
            List<RunQuestion> questions,
            List<RunStep> steps) {}

    /** @param more whether there are further pages */
    public record FollowupRunPage(List<RunShown> runs, int page, boolean more) {}

    /**
     * The latest first.
     *
     * @param followup of which; none = of all
     * @param state in which state; none = in any
     */
    @Transactional(readOnly = true)
    public FollowupRunPage page(@Nullable String followup, @Nullable RunState state, int page) {
        var asked = followup == null ? "" : followup;
        var ids = runs.page(asked, state == null ? "" : state.name(), AT_A_TIME + 1, (long) page * AT_A_TIME);
        var some = ids.subList(0, Math.min(AT_A_TIME, ids.size()));
        return new FollowupRunPage(shown(inOrder(some)), page, ids.size() > AT_A_TIME);
    }

    private List<FollowupRun> inOrder(List<Long> ids) {
        var byId = runs.findAllById(ids).stream().collect(Collectors.toMap(FollowupRun::id, Function.identity()));
        return ids.stream()
                .flatMap(id -> Optional.ofNullable(byId.get(id)).stream())
                .toList();
    }

    /** Those of a person, the latest first. */
    @Transactional(readOnly = true)
    public List<RunShown> of(long person) {
        return shown(runs.of(person, Limit.of(AT_A_TIME)));
    }

    /** Those about an order, the latest first. */
    @Transactional(readOnly = true)
    public List<RunShown> ofOrder(String order) {
        return shown(runs.findByOrderIdOrderByMomentDescIdDesc(order));
    }

    @Transactional(readOnly = true)
    public RunShown one(long id) {
        return shown(List.of(runs.findById(id).orElseThrow(() -> ProblemException.notFound("No run " + id + "."))))
                .getFirst();
    }

    /** Those that cannot go on by themselves, the oldest first. */
    @Transactional(readOnly = true)
    public List<RunShown> heldUp() {
        return shown(inOrder(runs.page("", RunState.HELD_UP.name(), AT_A_TIME, 0)))
                .reversed();
    }

    /** What the team was told last, the latest first. */
    public record TeamMessage(long run, long person, String name, String title, String text, Instant at) {}

    /** @param since only what was told from then on */
    @Transactional(readOnly = true)
    public List<TeamMessage> told(Instant since) {
        var told = steps.told(StepState.DONE, since, PageRequest.of(0, AT_A_TIME));
        var of = runs.findAllById(told.stream().map(step -> step.runId).toList()).stream()
                .collect(Collectors.toMap(FollowupRun::id, Function.identity()));
        var people = register.byId(told.stream().map(step -> step.personId).toList());
        return told.stream()
                .map(step -> new TeamMessage(
                        step.runId,
                        step.personId,
                        name(people, step.personId),
                        Optional.ofNullable(of.get(step.runId))
                                .map(run -> run.title)
                                .orElse(""),
                        step.said == null ? step.object() : step.said.text(),
                        step.dueAt))
                .toList();
    }

    /** How often each follow-up served since a time, and how many of its runs are where. */
    public record FollowupFigures(
            String followup,
            long since,
            long going,
            long waiting,
            long heldUp,
            @Nullable Instant last) {}

    @Transactional(readOnly = true)
    public Map<String, FollowupFigures> figures(Instant since) {
        return runs.figures(since).stream()
                .map(row -> new FollowupFigures(
                        row.getFollowup(),
                        row.getRecent(),
                        row.getGoing(),
                        row.getWaiting(),
                        row.getHeldUp(),
                        row.getLast()))
                .collect(Collectors.toMap(FollowupFigures::followup, Function.identity()));
    }

    private List<RunShown> shown(List<FollowupRun> some) {
        var words = new FollowupWords(rulebooks.current().rulebook());
        var people = register.byId(some.stream().map(run -> run.personId).collect(Collectors.toSet()));
        var byRun =
                steps
                        .findByRunIdInOrderByRunIdAscStretchAscNumberAsc(
                                some.stream().map(FollowupRun::id).toList())
                        .stream()
                        .collect(Collectors.groupingBy(step -> step.runId));
        return some.stream()
                .map(run -> shown(run, byRun.getOrDefault(run.id(), List.of()), people, words))
                .toList();
    }

    private RunShown shown(FollowupRun run, List<FollowupStep> all, Map<Long, Person> people, FollowupWords words) {
        var shown = all.stream().map(step -> shown(step, words)).toList();
        return new RunShown(
                run.id(),
                run.personId,
                name(people, run.personId),
                run.followup,
                run.title,
                run.occasion,
                run.about,
                run.orderId,
                run.moment,
                state(run, all),
                run.silence,
                run.waitsUntil,
                run.stoppedAt,
                run.questions.stream()
                        .map(it -> new RunQuestion(it.step(), it.holds(), it.answers()))
                        .toList(),
                shown);
    }

    private static String name(Map<Long, Person> people, long id) {
        return Optional.ofNullable(people.get(id)).map(Person::name).orElse("");
    }

    private static RunState state(FollowupRun run, List<FollowupStep> steps) {
        var open = steps.stream().filter(FollowupStep::isOpen).toList();
        if (open.stream().anyMatch(FollowupStep::isHeldUp)) {
            return RunState.HELD_UP;
        }
        if (!open.isEmpty()) {
            return RunState.GOING;
        }
        if (run.stoppedAt != null) {
            return RunState.STOPPED;
        }
        return run.waitsUntil == null ? RunState.DONE : RunState.WAITING;
    }

    private static @Nullable String spoken(FollowupStep step) {
        if (step.said == null) {
            return null;
        }
        return step.said.subject().isEmpty() ? step.said.text() : step.said.subject();
    }

    private RunStep shown(FollowupStep step, FollowupWords words) {
        var answers = step.isOpen() && step.state != StepState.DUE
                ? progress.of(step).stream().map(this::answer).toList()
                : List.<RunAnswer>of();
        return new RunStep(
                step.id(),
                step.step,
                words.done(step.does, spoken(step)),
                step.state,
                step.dueAt,
                step.endedAt,
                step.note,
                answers,
                step.said == null ? null : step.said.subject(),
                step.said == null ? null : step.said.text(),
                step.code);
    }

    private RunAnswer answer(Progress progress) {
        return new RunAnswer(
                progress.id(),
                connections.title(progress.connection()),
                progress.state() == DeliveryState.ANSWERED,
                progress.failing(),
                progress.answer());
    }
}
