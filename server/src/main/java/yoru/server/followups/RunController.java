package yoru.server.followups;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.followup.FollowupWords;
import yoru.server.accounts.SignedIn;
import yoru.server.rulebooks.Rulebooks;

/** What follow-ups did, and what can be done about it. */
@RestController
class RunController {

    /** How far back they are counted. */
    private static final Duration LATELY = Duration.ofDays(90);

    private static final Duration TOLD_SHOWN = Duration.ofDays(7);

    private final RunList list;
    private final RunActs acts;
    private final LetterStops stops;
    private final Rulebooks rulebooks;
    private final Clock clock;

    RunController(RunList list, RunActs acts, LetterStops stops, Rulebooks rulebooks, Clock clock) {
        this.list = list;
        this.acts = acts;
        this.stops = stops;
        this.rulebooks = rulebooks;
        this.clock = clock;
    }

    /**
     * A follow-up that is in force, or that was and still has runs.
     *
     * @param when as it goes on after "When"; empty = it is in no rulebook any more
     * @param lately how often it served in the last 90 days
     */
    record FollowupListed(
            String id,
            String title,
            boolean on,
            @Nullable Instant since,
            String when,
            String once,
            long lately,
            long going,
            long waiting,
            long heldUp,
            @Nullable Instant last) {}

    @GetMapping("/api/followups")
    List<FollowupListed> followups() {
        var rulebook = rulebooks.current().rulebook();
        var words = new FollowupWords(rulebook);
        var figures = list.figures(clock.instant().minus(LATELY));
        return rulebook.followups().stream()
                .map(it -> {
                    var of = figures.getOrDefault(it.id(), new RunList.FollowupFigures(it.id(), 0, 0, 0, 0, null));
                    return new FollowupListed(
                            it.id(),
                            it.title(),
                            it.on(),
                            it.sinceOrNone(),
                            words.when(it.when()),
                            FollowupWords.once(it),
                            of.since(),
                            of.going(),
                            of.waiting(),
                            of.heldUp(),
                            of.last());
                })
                .toList();
    }

    @GetMapping("/api/followups/runs")
    RunList.FollowupRunPage runs(
            @RequestParam(required = false) @Nullable String followup,
            @RequestParam(required = false) RunList.@Nullable RunState state,
            @RequestParam(defaultValue = "0") int page) {
        return list.page(followup, state, Math.clamp(page, 0, 1_000_000));
    }

    @GetMapping("/api/followups/runs/{id}")
    RunList.RunShown run(@PathVariable long id) {
        return list.one(id);
    }

    @GetMapping("/api/followups/of/{person}")
    List<RunList.RunShown> of(@PathVariable long person) {
        return list.of(person);
    }

    /** Whether somebody wants letters that answer nothing they did. */
    @GetMapping("/api/followups/letters/{person}")
    LetterStops.LetterChoice letters(@PathVariable long person) {
        return stops.of(person);
    }

    /** @param stopped whether they want none */
    record LettersWanted(boolean stopped) {}

    /** For somebody who asked for it. */
    @PutMapping("/api/followups/letters/{person}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void choose(
            @PathVariable long person, @RequestBody LettersWanted wanted, @AuthenticationPrincipal SignedIn operator) {
        stops.choose(person, wanted.stopped, operator.name());
    }

    @GetMapping("/api/followups/of-order/{order}")
    List<RunList.RunShown> ofOrder(@PathVariable String order) {
        return list.ofOrder(order);
    }

    /**
     * What of follow-ups needs somebody now, and what the team was told in the last days.
     *
     * @param heldUp runs that cannot go on by themselves, the oldest first
     */
    record FollowupsToday(List<RunList.RunShown> heldUp, List<RunList.TeamMessage> told) {}

    @GetMapping("/api/followups/today")
    FollowupsToday today() {
        return new FollowupsToday(list.heldUp(), list.told(clock.instant().minus(TOLD_SHOWN)));
    }

    @PostMapping("/api/followups/steps/{id}/again")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void again(@PathVariable long id, @AuthenticationPrincipal SignedIn operator) {
        acts.again(id, operator.name());
    }

    @PostMapping("/api/followups/steps/{id}/skip")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void skip(@PathVariable long id, @AuthenticationPrincipal SignedIn operator) {
        acts.skip(id, operator.name());
    }

    @PostMapping("/api/followups/runs/{id}/stop")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void stop(@PathVariable long id, @AuthenticationPrincipal SignedIn operator) {
        acts.stop(id, operator.name());
    }

    /** Stops all that a follow-up has under way; it may go on beginning new ones. */
    @PostMapping("/api/followups/{followup}/stop")
    RunActs.Stopped stopAll(@PathVariable String followup, @AuthenticationPrincipal SignedIn operator) {
        return acts.stopAll(followup, operator.name());
    }
}
