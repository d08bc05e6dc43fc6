package yoru.server.followups;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.moves.Wishes;
import yoru.core.systems.Ability;
import yoru.core.systems.Landscape;
import yoru.core.systems.Matter;
import yoru.server.accounts.Accounts;
import yoru.server.announcements.LetterJson;
import yoru.server.deliveries.Answered;
import yoru.server.deliveries.CloudEvents;
import yoru.server.deliveries.Deliveries;
import yoru.server.deliveries.Deliveries.Progress;
import yoru.server.deliveries.DeliveryState;
import yoru.server.ledger.LostTime;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.Queue;
import yoru.server.platform.SecretCode;
import yoru.server.systems.Connections;
import yoru.server.systems.Landscapes;
import yoru.server.systems.SystemSwitchedOn;

/** Carries out what was decided, step by step: the next begins when every system that a step reached has answered. */
@Service
public class CarryingOut {

    static final TaskDescriptor<Void> GO_ON = TaskDescriptor.of("follow-ups-go-on");

    /** Letters and digits that are not taken for one another. */
    private static final int CODE_LENGTH = 10;

    private final FollowupRuns runs;
    private final FollowupSteps steps;
    private final DecidedUnderTable under;
    private final StepProgress progress;
    private final Deliveries deliveries;
    private final Landscapes landscapes;
    private final Connections connections;
    private final Accounts accounts;
    private final Wordings wordings;
    private final LetterStops stops;
    private final LostTime lost;
    private final ApplicationEventPublisher events;
    private final Queue queue;
    private final JsonMapper json;
    private final Clock clock;

    CarryingOut(
            FollowupRuns runs,
            FollowupSteps steps,
            DecidedUnderTable under,
            StepProgress progress,
            Deliveries deliveries,
            Landscapes landscapes,
            Connections connections,
            Accounts accounts,
            Wordings wordings,
            LetterStops stops,
            LostTime lost,
            ApplicationEventPublisher events,
            Queue queue,
            JsonMapper json,
            Clock clock) {
        this.runs = runs;
        this.steps = steps;
        this.under = under;
        this.progress = progress;
        this.deliveries = deliveries;
        this.landscapes = landscapes;
        this.connections = connections;
        this.accounts = accounts;
        this.wordings = wordings;
        this.stops = stops;
        this.lost = lost;
        this.events = events;
        this.queue = queue;
        this.json = json;
        this.clock = clock;
    }

    /**
     * Goes on with all that is under way for some people.
     *
     * @param people locked until the transaction ends
     * @param areTold whether the systems are told of them in this transaction, with what begun steps give and take
     */
    @Transactional
    public void goOn(Collection<Long> people, boolean areTold) {
        if (people.isEmpty()) {
            return;
        }
        var open = steps.openRuns(people, StepState.OPEN);
        if (open.isEmpty()) {
            return;
        }
        var byRun = steps.findByRunIdInOrderByRunIdAscStretchAscNumberAsc(open).stream()
                .collect(Collectors.groupingBy(step -> step.runId));
        var landscape = landscapes.current();
        var told = areTold ? Set.copyOf(people) : Set.<Long>of();
        var going = byRun.values().stream()
                .flatMap(List::stream)
                .filter(step -> step.state == StepState.GOING)
                .toList();
        var asItIs = new AsItIs(landscape, told, progress.of(going, landscape));
        runs.findAllById(open).forEach(run -> goOn(run, byRun.getOrDefault(run.id(), List.of()), asItIs));
    }

    /** A system has answered: the next step may begin. */
    @EventListener
    void on(Answered answered) {
        goOn(answered.people(), false);
    }

    /** What waited for such a system can go on. */
    @EventListener
    void on(SystemSwitchedOn on) {
        queue.now(GO_ON, on.connection() + "@" + clock.millis());
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        runs.forgetSteps(forgotten.people());
        runs.forget(forgotten.people());
        under.forget(forgotten.people());
    }

    /**
     * What is read once for all that goes on together.
     *
     * @param told of whom the systems are told in this transaction
     * @param progress how far the systems are with the steps that were going on, by their ids
     */
    private record AsItIs(Landscape landscape, Set<Long> told, Map<Long, List<Progress>> progress) {}

    private void goOn(FollowupRun run, List<FollowupStep> all, AsItIs asItIs) {
        while (true) {
            var open = all.stream().filter(FollowupStep::isOpen).toList();
            if (open.isEmpty()) {
                return;
            }
            var first = open.getFirst();
            var together = open.stream()
                    .filter(step -> step.stretch == first.stretch && step.step.equals(first.step))
                    .toList();
            for (FollowupStep step : together) {
                if (step.state == StepState.BEGUN && asItIs.told.contains(step.personId)) {
                    step.state = StepState.GOING;
                }
                if (step.state == StepState.DUE) {
                    begin(run, step, asItIs.landscape);
                }
                if (step.state == StepState.GOING) {
                    look(
                            step,
                            Optional.ofNullable(asItIs.progress.get(step.id()))
                                    .orElseGet(() -> progress.of(step, asItIs.landscape)));
                }
            }
            steps.saveAll(together);
            if (together.stream().anyMatch(FollowupStep::isOpen)) {
                return;
            }
        }
    }

    private void begin(FollowupRun run, FollowupStep step, Landscape landscape) {
        var now = clock.instant();
        switch (step.kind()) {
            case GIVE, TAKE -> {
                step.begin(StepState.BEGUN, now);
                events.publishEvent(new StepBegun(step.id(), step.personId));
            }
            case SET -> {
                step.begin(StepState.GOING, now);
                set(step, landscape);
            }
            case WRITE -> {
                if (run.silence != null) {
                    step.end(StepState.SILENT, now);
                } else if (step.unasked && stops.areStopped(step.personId)) {
                    step.note = "They want no letters that answer nothing they did.";
                    step.end(StepState.SILENT, now);
                } else {
                    write(run, step, landscape, now);
                }
            }
            case TELL -> {
                if (run.silence != null) {
                    step.end(StepState.SILENT, now);
                } else {
                    step.begin(StepState.GOING, now);
                    tell(run, step);
                }
            }
        }
    }

    private void set(FollowupStep step, Landscape landscape) {
        var equals = step.object().indexOf('=');
        var name = step.object().substring(0, equals);
        var value = step.object().substring(equals + 1);
        deliveries.want(List.of(new Deliveries.Wanted(step.personId, Wishes.field(landscape, name, value), null)));
    }

    private boolean isKeptBack(FollowupRun run, FollowupStep step) {
        return lost.mayHaveBeenDone(run.subject, step.dueAt);
    }

    private void write(FollowupRun run, FollowupStep step, Landscape landscape, Instant now) {
        if (!landscape.carriesLetters()) {
            step.note = "No system that is on carries letters.";
            return;
        }
        var terms = wordsOf(step).code();
        if (terms == null) {
            step.begin(StepState.GOING, now);
            send(step, isKeptBack(run, step));
            return;
        }
        if (terms.products() != null && terms.products().isEmpty()) {
            step.note = "Its discount code is good for nothing that is sold.";
            return;
        }
        if (landscape.able(Ability.CODES).isEmpty()) {
            step.note = "No shop that is on makes discount codes.";
            return;
        }
        if (step.code == null) {
            step.code = SecretCode.readable(CODE_LENGTH);
        }
        step.begin(StepState.GOING, now);
        var code = step.code;
        deliveries.sendToOne(List.of(new Deliveries.Message(
                step.personId,
                Ability.CODES,
                new Matter.Code(StepProgress.name(step)),
                () -> json.writeValueAsString(new CodeToMake(code, terms)),
                null,
                isKeptBack(run, step))));
    }

    /** As a shop is asked for it. */
    record CodeToMake(String code, CodeTerms terms) {}

    private void send(FollowupStep step, boolean isKeptBack) {
        var words = wordsOf(step);
        var code = Optional.ofNullable(step.code);
        deliveries.send(List.of(new Deliveries.Message(
                step.personId,
                Ability.MESSAGES,
                new Matter.Letter(StepProgress.name(step)),
                () -> json.writeValueAsString(
                        step.unasked
                                ? wordings.unasked(words.subject(), words.text(), code, stops.address(step.personId))
                                : wordings.letter(words.subject(), words.text(), code)),
                null,
                isKeptBack)));
    }

    private void tell(FollowupRun run, FollowupStep step) {
        var words = wordsOf(step);
        boolean isKeptBack = isKeptBack(run, step);
        var messages = new ArrayList<Deliveries.Message>();
        int n = 0;
        for (String member : accounts.told()) {
            messages.add(new Deliveries.Message(
                    step.personId,
                    Ability.MESSAGES,
                    new Matter.Letter(StepProgress.name(step, ++n)),
                    () -> json.writeValueAsString(
                            ToTheTeam.of(member, wordings.letter(run.title, words.text(), Optional.empty()))),
                    null,
                    isKeptBack));
        }
        messages.add(new Deliveries.Message(
                step.personId,
                Ability.EVENTS,
                new Matter.Event(StepProgress.name(step)),
                () -> json.writeValueAsString(event(run, step, words.text())),
                null,
                isKeptBack));
        deliveries.send(messages);
    }

    /** A letter to somebody who works with Yoru. */
    record ToTheTeam(String to, String subject, String text, String html) {

        static ToTheTeam of(String to, LetterJson letter) {
            return new ToTheTeam(to, letter.subject(), letter.text(), letter.html());
        }
    }

    private static Map<String, Object> event(FollowupRun run, FollowupStep step, String text) {
        return CloudEvents.of(
                StepProgress.name(step),
                "yoru.followup.told",
                run.subject,
                step.dueAt,
                Map.of("followup", run.followup, "text", text));
    }

    private static FollowupStep.Words wordsOf(FollowupStep step) {
        return step.said == null ? new FollowupStep.Words(step.object(), step.object(), null) : step.said;
    }

    /** Whether all have answered. */
    private void look(FollowupStep step, List<Progress> progress) {
        var waiting = progress.stream()
                .filter(it -> it.state() != DeliveryState.ANSWERED)
                .toList();
        step.note = (waiting.isEmpty() ? progress : waiting)
                .stream()
                        .filter(it -> it.answer() != null)
                        .map(it -> connections.title(it.connection()) + ": " + it.answer())
                        .distinct()
                        .collect(Collectors.joining("; "));
        step.failing = waiting.stream().anyMatch(Progress::failing);
        if (!waiting.isEmpty()) {
            return;
        }
        boolean codeIsMade = step.code != null
                && progress.stream().noneMatch(it -> it.matter().startsWith("letter/"));
        if (codeIsMade) {
            send(step, false); // where it was kept back, so was the code, until somebody said that it is to be sent
            return;
        }
        step.end(StepState.DONE, clock.instant());
    }
}
