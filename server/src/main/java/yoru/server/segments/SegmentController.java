package yoru.server.segments;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.accounts.SignedIn;
import yoru.server.ledger.Register;
import yoru.server.people.PeopleFile;
import yoru.server.platform.ProblemException;
import yoru.server.rulebooks.Rulebooks;

/** Segments: who is in them, and what can be done for all of them. */
@RestController
class SegmentController {

    private static final int SHOWN = 50;

    private final Segments segments;
    private final TagRuns runs;
    private final PeopleFile people;
    private final Register register;
    private final Rulebooks rulebooks;
    private final Clock clock;

    SegmentController(
            Segments segments, TagRuns runs, PeopleFile people, Register register, Rulebooks rulebooks, Clock clock) {
        this.segments = segments;
        this.runs = runs;
        this.people = people;
        this.register = register;
        this.rulebooks = rulebooks;
        this.clock = clock;
    }

    record SegmentToSave(
            @NotBlank @Size(max = 100) String name,
            @NotNull @Valid SegmentSheet segment) {}

    /** @param people the first of them by address */
    record WhoIsIn(int count, List<InSegment> people) {}

    record InSegment(long id, String key, String name) {}

    /**
     * @param key made by the browser, so that one sent twice is done once
     * @param title of which people, in words
     */
    record TagAll(
            @NotBlank @Pattern(regexp = "[A-Za-z0-9-]{16,64}")
            String key,

            @NotBlank @Size(max = 200) String title,
            @NotNull @Valid SegmentSheet segment,
            @NotBlank @Size(max = 200) String tag,
            boolean putOn) {}

    @GetMapping("/api/segments")
    List<Segments.ShownSegment> all() {
        return segments.all();
    }

    @PostMapping("/api/segments")
    @ResponseStatus(HttpStatus.CREATED)
    Segments.ShownSegment save(@Valid @RequestBody SegmentToSave wanted, @AuthenticationPrincipal SignedIn operator) {
        return segments.save(wanted.name, wanted.segment, operator.name());
    }

    @PutMapping("/api/segments/{id}")
    Segments.ShownSegment change(
            @PathVariable long id,
            @Valid @RequestBody SegmentToSave wanted,
            @AuthenticationPrincipal SignedIn operator) {
        return segments.change(id, wanted.name, wanted.segment, operator.name());
    }

    @DeleteMapping("/api/segments/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void delete(@PathVariable long id) {
        segments.delete(id);
    }

    /** Who is in a segment, also one that is not kept. */
    @PostMapping("/api/segments/look")
    WhoIsIn look(@Valid @RequestBody SegmentSheet segment, @RequestParam(required = false) @Nullable Instant at) {
        var keys = segments.people(segment.segment(), at(at));
        var known = register.people(keys.subList(0, Math.min(SHOWN, keys.size())));
        return new WhoIsIn(
                keys.size(),
                keys.stream()
                        .limit(SHOWN)
                        .map(known::get)
                        .filter(Objects::nonNull)
                        .map(person -> new InSegment(person.id(), person.key(), person.name()))
                        .toList());
    }

    /** Everybody in a segment, as CSV (docs/formats/results.md). */
    @GetMapping(path = "/api/segments/{id}/people.csv", produces = "text/csv")
    ResponseEntity<String> csv(@PathVariable long id, @RequestParam(required = false) @Nullable Instant at) {
        var when = at(at);
        var segment = segments.one(id);
        var keys = segments.people(segment.segment().segment(), when);
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"segment-" + id + ".csv\"")
                .body(people.csv("", when, Set.copyOf(keys)::contains));
    }

    @PostMapping("/api/segments/tag")
    TagRuns.ShownRun tag(@Valid @RequestBody TagAll wanted, @AuthenticationPrincipal SignedIn operator) {
        if (!rulebooks.current().engine().index().knowsTag(wanted.tag)) {
            throw new ProblemException(
                    HttpStatus.UNPROCESSABLE_CONTENT,
                    "No tag was changed",
                    "The mapping knows no tag “%s”; it can be made there.".formatted(wanted.tag));
        }
        return runs.start(
                wanted.key,
                wanted.title.strip(),
                wanted.tag,
                wanted.putOn,
                segments.people(wanted.segment.segment(), clock.instant()),
                operator.name());
    }

    @GetMapping("/api/segments/runs")
    List<TagRuns.ShownRun> runs() {
        return runs.latest();
    }

    @PostMapping("/api/segments/runs/{id}/stop")
    TagRuns.ShownRun stop(@PathVariable String id, @AuthenticationPrincipal SignedIn operator) {
        return runs.stop(id, operator.name());
    }

    private Instant at(@Nullable Instant at) {
        return Objects.requireNonNullElseGet(at, clock::instant);
    }
}
