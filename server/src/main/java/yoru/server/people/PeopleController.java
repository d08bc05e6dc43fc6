package yoru.server.people;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.platform.ProblemException;

/** Learners: the list, and one of them whole. */
@RestController
class PeopleController {

    private static final int PAGE = 50;

    private final PeopleTable people;
    private final PersonPage page;
    private final Clock clock;

    PeopleController(PeopleTable people, PersonPage page, Clock clock) {
        this.people = people;
        this.page = page;
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
        var words = q.isBlank() ? "" : "%" + escaped(q.strip().toLowerCase(Locale.ROOT)) + "%";
        int skip = Math.clamp(page, 0, 1_000_000) * PAGE;
        var rows = people.page(words, when, sort.name().toLowerCase(Locale.ROOT), PAGE, skip).stream()
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

    /** @param at the as-of time, none = now */
    @GetMapping("/api/people/{id}")
    PersonPage.PersonShown person(@PathVariable long id, @RequestParam(required = false) @Nullable Instant at) {
        return page.of(id, at).orElseThrow(() -> ProblemException.notFound("No person " + id + "."));
    }

    private static String escaped(String words) {
        return words.replace("!", "!!").replace("%", "!%").replace("_", "!_");
    }
}
