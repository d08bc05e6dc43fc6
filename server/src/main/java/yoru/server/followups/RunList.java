package yoru.server.followups;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.PageRequest;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
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
    private final CarryingOut carrying;
    private final Connections connections;
    private final Register register;
    private final Rulebooks rulebooks;

    RunList(
            FollowupRuns runs,
            FollowupSteps steps,
            CarryingOut carrying,
            Connections connections,
            Register register,
            Rulebooks rulebooks) {
        this.runs = runs;
        this.steps = steps;
        this.carrying = carrying;
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
    public record Answer(
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
    public record ShownStep(
            long id,
            String step,
            String does,
            StepState state,
            Instant dueAt,
            @Nullable Instant endedAt,
            String note,
            List<Answer> answers,
            @Nullable String subject,
            @Nullable String text,
            @Nullable String code) {}

    /** Conditions that were asked together, in words. */
    public record ShownQuestion(String step, boolean holds, List<String> answers) {}

    /** A run. */
    public record ShownRun(
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
            List<ShownQuestion> questions,
            List<ShownStep> steps) {}

    /** @param more whether there are further pages */
    public record RunPage(List<ShownRun> runs, int page, boolean more) {}

    /**
     * The latest first.
     *
     * @param followup of which; none = of all
     * @param state in which state; none = in any
     */
    @Transactional(readOnly = true)
    public RunPage page(@Nullable String followup, @Nullable RunState state, int page) {
        var asked = followup == null ? "" : followup;
        var ids = runs.page(asked, state == null ? "" : state.name(), AT_A_TIME + 1, (long) page * AT_A_TIME);
        var some = ids.subList(0, Math.min(AT_A_TIME, ids.size()));
        return new RunPage(shown(inOrder(some)), page, ids.size() > AT_A_TIME);
    }

    private List<FollowupRun> inOrder(List<Long> ids) {
        var byId = runs.findAllById(ids).stream().collect(Collectors.toMap(FollowupRun::id, Function.identity()));
        return ids.stream()
                .flatMap(id -> Optional.ofNullable(byId.get(id)).stream())
                .toList();
    }

    /** All of some records that are one person, the latest first. */
    @Transactional(readOnly = true)
    public List<ShownRun> of(Collection<Long> people) {
        return shown(runs.findByPersonIdInOrderByMomentDescIdDesc(people));
    }

    /** Those about an order, the latest first. */
    @Transactional(readOnly = true)
    public List<ShownRun> ofOrder(String order) {
        return shown(runs.findByOrderIdOrderByMomentDescIdDesc(order));
    }

    @Transactional(readOnly = true)
    public ShownRun one(long id) {
        return shown(List.of(runs.findById(id).orElseThrow(() -> ProblemException.notFound("No run " + id + "."))))
                .getFirst();
    }

    /** Those that cannot go on by themselves, the oldest first. */
    @Transactional(readOnly = true)
    public List<ShownRun> heldUp() {
        return shown(inOrder(runs.page("", RunState.HELD_UP.name(), AT_A_TIME, 0)))
                .reversed();
    }

    /** What the team was told last, the latest first. */
    public record Said(long run, long person, String name, String title, String text, Instant at) {}

    /** @param since only what was told from then on */
    @Transactional(readOnly = true)
    public List<Said> told(Instant since) {
        var told = steps.told(StepState.DONE, since, PageRequest.of(0, AT_A_TIME));
        var of = runs.findAllById(told.stream().map(step -> step.runId).toList()).stream()
                .collect(Collectors.toMap(FollowupRun::id, Function.identity()));
        var people = register.byId(told.stream().map(step -> step.personId).toList());
        return told.stream()
                .map(step -> new Said(
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
    public record Figures(
            String followup,
            long since,
            long going,
            long waiting,
            long heldUp,
            @Nullable Instant last) {}

    @Transactional(readOnly = true)
    public Map<String, Figures> figures(Instant since) {
        return runs.figures(since).stream()
                .map(row -> new Figures(
                        row.getFollowup(),
                        row.getRecent(),
                        row.getGoing(),
                        row.getWaiting(),
                        row.getHeldUp(),
                        row.getLast()))
                .collect(Collectors.toMap(Figures::followup, Function.identity()));
    }

    private List<ShownRun> shown(List<FollowupRun> some) {
        var rulebook = rulebooks.current().rulebook();
        var people = register.byId(some.stream().map(run -> run.personId).collect(Collectors.toSet()));
        var byRun =
                steps
                        .findByRunIdInOrderByRunIdAscStretchAscNumberAsc(
                                some.stream().map(FollowupRun::id).toList())
                        .stream()
                        .collect(Collectors.groupingBy(step -> step.runId));
        return some.stream()
                .map(run -> shown(run, byRun.getOrDefault(run.id(), List.of()), people, rulebook))
                .toList();
    }

    private ShownRun shown(FollowupRun run, List<FollowupStep> all, Map<Long, Person> people, Rulebook rulebook) {
        var shown = all.stream().map(step -> shown(step, rulebook)).toList();
        return new ShownRun(
                run.id(),
                run.personId,
                name(people, run.personId),
                run.followup,
                run.title,
                run.occasion,
                run.about,
                run.orderId,
                run.moment,
                state(run, shown),
                run.silence,
                run.waitsUntil,
                run.stoppedAt,
                run.questions.stream()
                        .map(it -> new ShownQuestion(it.step(), it.holds(), it.answers()))
                        .toList(),
                shown);
    }

    private static String name(Map<Long, Person> people, long id) {
        return Optional.ofNullable(people.get(id)).map(Person::name).orElse("");
    }

    private static RunState state(FollowupRun run, List<ShownStep> steps) {
        var open = steps.stream()
                .filter(step -> CarryingOut.OPEN.contains(step.state))
                .toList();
        if (open.stream().anyMatch(RunList::isHeldUp)) {
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

    private static boolean isHeldUp(ShownStep step) {
        return step.answers.stream().anyMatch(Answer::failing) || (step.state == StepState.DUE && !step.note.isEmpty());
    }

    private ShownStep shown(FollowupStep step, Rulebook rulebook) {
        var answers = step.isOpen() && step.state != StepState.DUE
                ? carrying.progress(step).stream().map(this::answer).toList()
                : List.<Answer>of();
        return new ShownStep(
                step.id(),
                step.step,
                inWords(step, rulebook),
                step.state,
                step.dueAt,
                step.endedAt,
                step.note,
                answers,
                step.said == null ? null : step.said.subject(),
                step.said == null ? null : step.said.text(),
                step.code);
    }

    private Answer answer(Progress progress) {
        return new Answer(
                progress.id(),
                connections.title(progress.connection()),
                progress.state() == DeliveryState.ANSWERED,
                progress.failing(),
                progress.answer());
    }

    private static String inWords(FollowupStep step, Rulebook rulebook) {
        return switch (step.kind()) {
            case GIVE -> "give " + named(step.object(), rulebook);
            case TAKE -> "take " + named(step.object(), rulebook) + " away";
            case SET -> {
                int equals = step.object().indexOf('=');
                yield "set the field %s to “%s”"
                        .formatted(
                                step.object().substring(0, equals),
                                step.object().substring(equals + 1));
            }
            case WRITE -> "write “%s”".formatted(step.said == null ? step.object() : step.said.subject());
            case TELL -> "tell the team “%s”".formatted(step.said == null ? step.object() : step.said.text());
        };
    }

    private static String named(String path, Rulebook rulebook) {
        return "the " + path.substring(0, path.indexOf('/')) + " " + rulebook.title(Target.read(path));
    }
}
