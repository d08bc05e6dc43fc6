package yoru.server.mapping;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.access.Access;
import yoru.core.access.Explanation;
import yoru.core.impact.Change;
import yoru.core.impact.Change.Kind;
import yoru.core.rulebook.CellChange;
import yoru.formats.ChangeRows;
import yoru.server.ledger.LedgerService;
import yoru.server.ledger.Person;
import yoru.server.platform.ProblemException;

/** The grid: what opens things down, what can be opened across. */
@RestController
class MappingController {

    /** As many names as a margin can show; the figures count everybody. */
    private static final int SHOWN_CHANGES = 60;

    private static final int LARGEST_DOCUMENT = 8_000_000;

    private final Mapping mapping;
    private final Grids grids;
    private final LedgerService ledger;

    MappingController(Mapping mapping, Grids grids, LedgerService ledger) {
        this.mapping = mapping;
        this.grids = grids;
        this.ledger = ledger;
    }

    /** @param document a whole rulebook, where the changes start from one and not from the one in force */
    record Draft(
            @NotNull @Size(max = 20_000) List<@Valid DraftCell> changes,
            @Nullable @Size(max = LARGEST_DOCUMENT) String document) {}

    record Publishing(
            int base,
            @NotNull @Size(max = 20_000) List<@Valid DraftCell> changes,
            @Nullable @Size(max = LARGEST_DOCUMENT) String document,
            @NotNull @Size(max = 500) String note) {}

    /**
     * A draft that leads to a whole rulebook.
     *
     * @param document the rulebook; none = the cells say everything
     * @param cells what differs from the one in force
     * @param more what differs besides, in words
     */
    record WholeDraft(@Nullable String document, List<DraftCell> cells, List<String> more) {}

    /** What would change, for how many people and for whom. */
    record DraftConsequence(int gain, int lose, int endEarlier, int endLater, int total, List<PersonChange> people) {}

    record PersonChange(
            @Nullable Long person,
            String name,
            String target,
            Kind kind,
            @Nullable String before,
            @Nullable String after,
            @Nullable String reason) {}

    @GetMapping("/api/mapping")
    Grids.Grid grid() {
        return grids.now();
    }

    @PostMapping("/api/mapping/consequence")
    DraftConsequence consequence(@Valid @RequestBody Draft draft) {
        var consequence = mapping.consequence(new Mapping.Wanted(draft.document, changes(draft.changes)));
        var before = new Explanation(consequence.before(), 0);
        var after = new Explanation(consequence.after(), 0);
        var people = consequence.changes().stream()
                .limit(SHOWN_CHANGES)
                .map(change -> personChange(change, consequence, before, after))
                .toList();
        return new DraftConsequence(
                consequence.people(Set.of(Kind.GAINS)),
                consequence.people(Set.of(Kind.LOSES)),
                consequence.people(Set.of(Kind.SHORTER)),
                consequence.people(Set.of(Kind.LONGER, Kind.OTHERWISE)),
                consequence.changes().size(),
                people);
    }

    /** Each product that opens nothing to the course of the same name; nothing is changed. */
    @GetMapping("/api/mapping/proposals")
    List<Grids.ProposedCell> proposals() {
        return grids.proposals();
    }

    /** Everybody whom a draft would touch, with windows before and after, as CSV (docs/formats/results.md). */
    @PostMapping(path = "/api/mapping/consequence/list", produces = "text/csv")
    String list(@Valid @RequestBody Draft draft) {
        return mapping.consequence(new Mapping.Wanted(draft.document, changes(draft.changes))).changes().stream()
                .map(ChangeRows::row)
                .collect(Collectors.joining("", ChangeRows.HEADER, ""));
    }

    @PostMapping("/api/mapping/publish")
    Mapping.Publish publish(@Valid @RequestBody Publishing publishing, @AuthenticationPrincipal Principal operator) {
        if (publishing.changes.isEmpty() && publishing.document == null) {
            throw new ProblemException(HttpStatus.BAD_REQUEST, "Nothing to publish", "The draft changes nothing.");
        }
        return mapping.publish(
                publishing.base,
                new Mapping.Wanted(publishing.document, changes(publishing.changes)),
                publishing.note,
                operator.getName());
    }

    /** A rulebook as YAML: the one in force over today's catalogues, or as it was published. */
    @GetMapping(path = "/api/mapping/rulebook", produces = "application/yaml")
    String rulebook(@RequestParam(required = false) @Nullable Integer version) {
        return mapping.yaml(version);
    }

    /** Reads a rulebook (YAML or JSON) as a draft; publishes nothing. */
    @PostMapping(path = "/api/mapping/rulebook", consumes = "application/yaml")
    WholeDraft read(@RequestBody @Size(max = LARGEST_DOCUMENT) String document) {
        return draft(mapping.toReach(document));
    }

    /** A draft that takes a publish back. */
    @GetMapping("/api/mapping/history/{number}/back")
    WholeDraft takeBack(@PathVariable int number) {
        return draft(mapping.toTakeBack(number));
    }

    private static WholeDraft draft(Mapping.Way way) {
        return new WholeDraft(
                way.document(), way.changes().stream().map(DraftCell::of).toList(), way.more());
    }

    @GetMapping("/api/mapping/history")
    List<Mapping.Publish> history() {
        return mapping.history();
    }

    private static List<CellChange> changes(List<DraftCell> cells) {
        return cells.stream().map(DraftCell::change).toList();
    }

    private PersonChange personChange(
            Change change, Mapping.Consequence consequence, Explanation before, Explanation after) {
        var known = ledger.person(change.person());
        var shown = change.after().isEmpty() ? change.before() : change.after();
        var explanation = change.after().isEmpty() ? before : after;
        return new PersonChange(
                known.map(Person::id).orElse(null),
                known.map(Person::name).orElse(change.person()),
                consequence.after().title(change.target()),
                change.kind(),
                windows(change.before(), before),
                windows(change.after(), after),
                shown.stream()
                        .flatMap(access -> access.entitlements().stream())
                        .map(explanation::label)
                        .collect(Collectors.joining(" + ")));
    }

    private static @Nullable String windows(List<Access> access, Explanation explanation) {
        return access.isEmpty()
                ? null
                : access.stream().map(one -> explanation.window(one.window())).collect(Collectors.joining("; "));
    }
}
