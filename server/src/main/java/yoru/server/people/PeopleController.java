package yoru.server.people;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import yoru.core.rulebook.Target;
import yoru.server.accounts.SignedIn;
import yoru.server.ledger.Register;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SearchWords;

/** Learners: the list, and one of them whole. */
@RestController
class PeopleController {

    private static final int PAGE = 50;

    private final PeopleTable people;
    private final PeopleFile file;
    private final PersonPage page;
    private final PersonData data;
    private final PersonNotes notes;
    private final Register register;
    private final Clock clock;

    PeopleController(
            PeopleTable people,
            PeopleFile file,
            PersonPage page,
            PersonData data,
            PersonNotes notes,
            Register register,
            Clock clock) {
        this.people = people;
        this.file = file;
        this.page = page;
        this.data = data;
        this.notes = notes;
        this.register = register;
        this.clock = clock;
    }

    record PeopleList(int total, int pageSize, List<PersonRow> people) {}

    /**
     * @param open how many targets are open at the as-of time
     * @param nextEnd when the first of them ends
     */
    record PersonRow(
            long id,
            String key,
            String name,
            Instant since,
            int open,
            int orders,
            @Nullable Instant nextEnd) {}

    /** How the list is sorted. */
    enum Sort {
        NEWEST,
        NAME,
        OPEN,
        ENDS
    }

    /** @param at the as-of time, none = now */
    @GetMapping("/api/people")
    @Transactional(readOnly = true)
    public PeopleList list(
            @RequestParam(defaultValue = "") String q,
            @RequestParam(required = false) @Nullable Instant at,
            @RequestParam(defaultValue = "NEWEST") Sort sort,
            @RequestParam(defaultValue = "0") int page) {
        var when = Objects.requireNonNullElseGet(at, clock::instant);
        var words = SearchWords.anywhere(q);
        int skip = Math.clamp(page, 0, 1_000_000) * PAGE;
        var found = switch (sort) {
            case NEWEST -> people.newest(words, when, PAGE, skip);
            case NAME -> people.byName(words, when, PAGE, skip);
            case OPEN -> people.byOpen(words, when, true, PAGE, skip);
            case ENDS -> people.byOpen(words, when, false, PAGE, skip);
        };
        var rows = found.stream()
                .map(row -> new PersonRow(
                        row.getId(),
                        row.getKey(),
                        row.getName(),
                        row.getSince(),
                        row.getOpen(),
                        row.getOrders(),
                        row.getNextEnd()))
                .toList();
        return new PeopleList(people.count(words, when), PAGE, rows);
    }

    /** The same people as a file (docs/formats/results.md). */
    @GetMapping(path = "/api/people.csv", produces = "text/csv")
    ResponseEntity<String> csv(
            @RequestParam(defaultValue = "") String q, @RequestParam(required = false) @Nullable Instant at) {
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"people.csv\"")
                .body(file.csv(q, Objects.requireNonNullElseGet(at, clock::instant), key -> true));
    }

    /** @param at the as-of time, none = now */
    @GetMapping("/api/people/{id}")
    PersonPage.PersonShown person(@PathVariable long id, @RequestParam(required = false) @Nullable Instant at) {
        return page.of(id, at).orElseThrow(() -> ProblemException.notFound("No person " + id + "."));
    }

    /** Why a target is closed for somebody, also one they never had; an empty list where it is open. */
    @GetMapping("/api/people/{id}/why")
    PersonPage.WhyNot why(
            @PathVariable long id, @RequestParam String target, @RequestParam(required = false) @Nullable Instant at) {
        return page.whyNot(id, read(target), at).orElseThrow(() -> ProblemException.notFound("No person " + id + "."));
    }

    private static Target read(String path) {
        try {
            return Target.read(path);
        } catch (IllegalArgumentException e) {
            throw new ProblemException(HttpStatus.BAD_REQUEST, "There is no such thing", "No " + path + ".");
        }
    }

    /** All that is kept about a person, as a file to hand to them. */
    @GetMapping(path = "/api/people/{id}/data", produces = MediaType.APPLICATION_JSON_VALUE)
    ResponseEntity<JsonNode> data(@PathVariable long id) {
        var all = data.of(id).orElseThrow(() -> ProblemException.notFound("No person " + id + "."));
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"person-" + id + ".json\"")
                .body(all);
    }

    record NewNote(@NotBlank @Size(max = 2_000) String text) {}

    @PostMapping("/api/people/{id}/notes")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    @Transactional
    public void note(
            @PathVariable long id, @Valid @RequestBody NewNote note, @AuthenticationPrincipal SignedIn operator) {
        var person = register.person(id).orElseThrow(() -> ProblemException.notFound("No person " + id + "."));
        notes.save(new PersonNote(person.id(), clock.instant(), operator.name(), note.text.strip()));
    }
}
