package yoru.server.rehearsals;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import yoru.core.rehearsal.Recording;
import yoru.core.rehearsal.Script;
import yoru.core.rehearsal.Trial;
import yoru.core.time.SchoolCalendar;
import yoru.formats.StoryDocument;
import yoru.server.ledger.LedgerReader;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;
import yoru.server.rulebooks.Rulebooks;

/** Stories that are kept, and stories to begin with. */
@RestController
class RehearsalController {

    private static final LocalTime MORNING = LocalTime.of(9, 0);

    private final Rehearsals rehearsals;
    private final ForReal forReal;
    private final Rulebooks rulebooks;
    private final LedgerReader ledger;
    private final SchoolSettings settings;
    private final Clock clock;

    RehearsalController(
            Rehearsals rehearsals,
            ForReal forReal,
            Rulebooks rulebooks,
            LedgerReader ledger,
            SchoolSettings settings,
            Clock clock) {
        this.rehearsals = rehearsals;
        this.forReal = forReal;
        this.rulebooks = rulebooks;
        this.ledger = ledger;
        this.settings = settings;
        this.clock = clock;
    }

    /** @param fails what was not as expected when it last ran under the rulebook in force; none = nothing */
    record RehearsalKept(
            String id,
            String title,
            int revision,
            String keptBy,
            Instant keptAt,
            @Nullable Instant ranAt,
            @Nullable String fails) {

        static RehearsalKept of(KeptRehearsal row) {
            return new RehearsalKept(row.id, row.title, row.revision, row.keptBy, row.keptAt, row.ranAt, row.fails);
        }
    }

    /** @param story {@code yoru: story/1} (docs/formats/story.schema.json) */
    record RehearsalRead(RehearsalKept kept, JsonNode story) {}

    @GetMapping("/api/rehearsals")
    List<RehearsalKept> all() {
        return rehearsals.all().stream().map(RehearsalKept::of).toList();
    }

    @GetMapping("/api/rehearsals/kept/{id}")
    RehearsalRead one(@PathVariable String id) {
        var kept = rehearsals.get(id);
        return new RehearsalRead(RehearsalKept.of(kept.row()), StoryDocument.write(kept.script()));
    }

    @GetMapping(path = "/api/rehearsals/kept/{id}/file", produces = "application/yaml")
    String file(@PathVariable String id) {
        return StoryDocument.yaml(rehearsals.get(id).script());
    }

    /**
     * @param seen the revision that it was changed from; 0 = it is new
     * @param story its id is that under which it is kept
     */
    record ToKeep(int seen, @NotNull JsonNode story) {}

    /** Keeps a story; it need not come out as it should, nor be one that can be run under the rulebook in force. */
    @PostMapping("/api/rehearsals")
    RehearsalKept keep(@Valid @RequestBody ToKeep wanted, @AuthenticationPrincipal Principal operator) {
        return RehearsalKept.of(rehearsals.keep(StoryDocument.read(wanted.story), wanted.seen, operator.getName()));
    }

    /** Keeps a story from a file; one of the same id that is kept already is written over. */
    @PostMapping(path = "/api/rehearsals/file", consumes = "application/yaml")
    RehearsalKept bring(
            @RequestBody @Size(max = 1_000_000) String document, @AuthenticationPrincipal Principal operator) {
        var script = StoryDocument.read(document);
        int seen = rehearsals.all().stream()
                .filter(row -> row.id.equals(script.id()))
                .map(row -> row.revision)
                .findFirst()
                .orElse(0);
        return RehearsalKept.of(rehearsals.keep(script, seen, operator.getName()));
    }

    @DeleteMapping("/api/rehearsals/kept/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void letGo(@PathVariable String id, @AuthenticationPrincipal Principal operator) {
        rehearsals.letGo(id, operator.getName());
    }

    /** @param systems ids of those that are told; each is on, or being tried */
    record ToPerform(
            @NotNull JsonNode story,
            @NotNull @Size(max = 200) Set<@NotNull String> systems) {}

    /**
     * Takes a story through the connected systems, under the rulebook in force and addresses that nobody has, and takes all
     * of it back.
     */
    @PostMapping("/api/rehearsals/for-real")
    ForReal.Trip forReal(@Valid @RequestBody ToPerform wanted, @AuthenticationPrincipal Principal operator) {
        return forReal.run(wanted.story, wanted.systems, operator.getName());
    }

    /** What a story can be about. */
    enum TrialOf {
        PRODUCT,
        LEVEL,
        COURSE
    }

    /** A story about somebody new who gets something, to begin with; it is not kept. */
    @GetMapping("/api/rehearsals/trial")
    JsonNode trial(@RequestParam TrialOf of, @RequestParam @Size(max = 200) String id) {
        var rulebook = rulebooks.overTodaysCatalogue().rulebook();
        var starts = LocalDateTime.ofInstant(clock.instant(), settings.school().zone())
                .toLocalDate()
                .plusDays(1)
                .atTime(MORNING);
        var made = switch (of) {
            case PRODUCT -> Trial.ofProduct(rulebook, id, starts);
            case LEVEL -> Trial.ofLevel(rulebook, id, starts);
            case COURSE -> Trial.ofCourse(rulebook, id, starts);
        };
        return StoryDocument.write(made.orElseThrow(() -> ProblemException.notFound(
                "There is no %s %s.".formatted(of.name().toLowerCase(Locale.ROOT), id))));
    }

    /** What happened to somebody as a story, without their name and address. */
    @GetMapping("/api/rehearsals/recorded")
    JsonNode recorded(@RequestParam @Size(max = 400) String person) {
        return StoryDocument.write(recording(person));
    }

    /** The same as a file. */
    @GetMapping(path = "/api/rehearsals/recorded/file", produces = "application/yaml")
    String recordedFile(@RequestParam @Size(max = 400) String person) {
        return StoryDocument.yaml(recording(person));
    }

    private Script recording(String person) {
        var known = ledger.concerning(person).asOf(clock.instant());
        return Optional.of(known)
                .flatMap(it -> Recording.of(
                        it, person, new SchoolCalendar(settings.school().zone())))
                .orElseThrow(
                        () -> ProblemException.notFound("Nothing is known of " + person + " that a story could tell."));
    }
}
