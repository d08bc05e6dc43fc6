package yoru.server.mapping;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.util.List;
import java.util.Set;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import yoru.core.rulebook.Rulebook;
import yoru.server.rehearsals.AsSent;
import yoru.server.rehearsals.RehearsalReport;
import yoru.server.rehearsals.Rehearsals;
import yoru.server.rulebooks.Rulebooks;

/** How stories come out under a draft, before it is published. */
@RestController
class RehearsalDraftController {

    private final Rehearsals rehearsals;
    private final AsSent asSent;
    private final Rulebooks rulebooks;
    private final Consequences consequences;

    RehearsalDraftController(Rehearsals rehearsals, AsSent asSent, Rulebooks rulebooks, Consequences consequences) {
        this.rehearsals = rehearsals;
        this.asSent = asSent;
        this.rulebooks = rulebooks;
        this.consequences = consequences;
    }

    /** All that are kept. */
    record RehearsalSet(List<RehearsalOutcome> rehearsals) {}

    /** @param holds whether all is as expected */
    record RehearsalOutcome(
            String id,
            String title,
            boolean holds,
            int expectations,
            List<Rehearsals.NotAsExpected> not,
            List<String> faults) {}

    record ToRehearse(@NotNull @Valid Draft draft, @NotNull JsonNode story) {}

    /** Runs every story that is kept. */
    @PostMapping("/api/mapping/rehearsals")
    RehearsalSet all(@Valid @RequestBody Draft draft) {
        return new RehearsalSet(rehearsals.under(rulebook(draft)).stream()
                .map(it ->
                        new RehearsalOutcome(it.id(), it.title(), it.holds(), it.expectations(), it.not(), it.faults()))
                .toList());
    }

    /** Runs one story, kept or not; nothing is kept, and nobody is told anything. */
    @PostMapping("/api/mapping/rehearsal")
    RehearsalReport one(@Valid @RequestBody ToRehearse wanted) {
        return asSent.shown(rehearsals.run(wanted.story, rulebook(wanted.draft), Set.of()));
    }

    private Rulebook rulebook(Draft draft) {
        return consequences.rulebook(rulebooks.overTodaysCatalogue(), draft.wanted());
    }
}
