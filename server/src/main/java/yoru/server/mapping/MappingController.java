package yoru.server.mapping;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.node.JsonNodeFactory;
import yoru.core.access.Access;
import yoru.core.access.Explanation;
import yoru.core.findings.CourseState.Door;
import yoru.core.impact.Change;
import yoru.core.impact.Change.Kind;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Terms;
import yoru.formats.RulebookDocument;
import yoru.server.ledger.LedgerService;
import yoru.server.ledger.Person;
import yoru.server.systems.Catalogue;

/** The grid of products and courses. */
@RestController
class MappingController {

    /** As many names as a margin can show; the figures count everybody. */
    private static final int SHOWN_CHANGES = 60;

    private final Mapping mapping;
    private final Rulebooks rulebooks;
    private final Catalogue catalogue;
    private final LedgerService ledger;

    MappingController(Mapping mapping, Rulebooks rulebooks, Catalogue catalogue, LedgerService ledger) {
        this.mapping = mapping;
        this.rulebooks = rulebooks;
        this.catalogue = catalogue;
        this.ledger = ledger;
    }

    /** The mapping in force over today's catalogues. */
    record Grid(int version, List<ProductRow> products, List<CourseColumn> courses, List<Cell> cells) {}

    /** @param buyers people who ordered it so far */
    record ProductRow(
            String id,
            String title,
            String category,
            @Nullable BigDecimal price,
            @Nullable String currency,
            boolean thing,
            boolean listed,
            int buyers) {}

    /** A course, with what keeps it from opening properly. */
    record CourseColumn(
            String id,
            String title,
            String category,
            boolean listed,
            boolean content,
            boolean published,
            Door door,
            int sections) {}

    record Cell(String product, String course, CellTerms terms) {}

    /**
     * Terms as the grid edits them.
     *
     * @param length {@code held} or an ISO 8601 period
     * @param refund {@code end} or {@code keep}
     * @param refundShare what share must be given back before a refund ends it, none = all
     */
    record CellTerms(
            @NotBlank @Size(max = 40) String length,
            @NotBlank @Size(max = 10) String refund,
            @Nullable BigDecimal refundShare) {}

    /** @param terms none = no longer opens */
    record DraftCell(
            @NotBlank @Size(max = 200) String product,
            @NotBlank @Size(max = 200) String course,
            @Nullable @Valid CellTerms terms) {}

    record Draft(@NotNull @Size(max = 5_000) List<@Valid DraftCell> changes) {}

    record Publishing(
            int base,
            @NotEmpty @Size(max = 5_000) List<@Valid DraftCell> changes,
            @NotNull @Size(max = 500) String note) {}

    /** What would change, for how many people and for whom. */
    record DraftConsequence(int gain, int lose, int endEarlier, int endLater, int total, List<PersonChange> people) {}

    record PersonChange(
            @Nullable Long person,
            String name,
            String course,
            Kind kind,
            @Nullable String before,
            @Nullable String after,
            @Nullable String reason) {}

    @GetMapping("/api/mapping")
    Grid grid() {
        var now = rulebooks.overTodaysCatalogue();
        Map<String, Catalogue.SoldProduct> sold = byId(catalogue.products(), Catalogue.SoldProduct::id);
        Map<String, Catalogue.TaughtCourse> taught = byId(catalogue.courses(), Catalogue.TaughtCourse::id);
        Map<String, Integer> buyers = ledger.sold().stream()
                .collect(Collectors.toMap(LedgerService.Sold::product, LedgerService.Sold::buyers));
        var products = now.rulebook().products().stream()
                .map(product -> {
                    var listed = sold.get(product.id());
                    return new ProductRow(
                            product.id(),
                            product.title(),
                            product.categories().isEmpty()
                                    ? ""
                                    : product.categories().getFirst(),
                            listed == null ? null : listed.price(),
                            listed == null ? null : listed.currency(),
                            listed != null && listed.thing(),
                            listed != null,
                            buyers.getOrDefault(product.id(), 0));
                })
                .toList();
        var courses = now.rulebook().courses().stream()
                .map(course -> {
                    var listed = taught.get(course.id());
                    return new CourseColumn(
                            course.id(),
                            course.title(),
                            course.categories().isEmpty()
                                    ? ""
                                    : course.categories().getFirst(),
                            listed != null,
                            listed != null && listed.state().hasContent(),
                            listed != null && listed.state().published(),
                            listed == null ? Door.YORU_ONLY : listed.state().door(),
                            listed == null ? 0 : listed.sections().size());
                })
                .toList();
        return new Grid(now.number(), products, courses, cells(now.rulebook().links()));
    }

    @PostMapping("/api/mapping/consequence")
    DraftConsequence consequence(@Valid @RequestBody Draft draft) {
        var consequence = mapping.consequence(changes(draft.changes));
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

    @PostMapping("/api/mapping/publish")
    Mapping.Publish publish(@Valid @RequestBody Publishing publishing, @AuthenticationPrincipal Principal operator) {
        return mapping.publish(publishing.base, changes(publishing.changes), publishing.note, operator.getName());
    }

    @GetMapping("/api/mapping/history")
    List<Mapping.Publish> history() {
        return mapping.history();
    }

    /** What the grid shows: whole courses opened by products. Other links are not shown here, and stay as they are. */
    private static List<Cell> cells(List<Link> links) {
        var cells = new ArrayList<Cell>();
        for (Link link : links) {
            for (Destination destination : link.to()) {
                if (link.from() instanceof Source.OfProduct from
                        && destination instanceof Destination.OfCourse to
                        && to.tier().isEmpty()) {
                    cells.add(new Cell(from.product(), to.course(), shown(link.terms())));
                }
            }
        }
        return cells;
    }

    private static CellTerms shown(Terms terms) {
        var length = switch (terms.length()) {
            case Length.Held _ -> "held";
            case Length.Lasting lasting -> lasting.period().toString();
        };
        var share = terms.refundShare().compareTo(BigDecimal.ONE) == 0 ? null : terms.refundShare();
        return new CellTerms(length, terms.refund().name().toLowerCase(Locale.ROOT), share);
    }

    private List<CellChange> changes(List<DraftCell> cells) {
        var links = rulebooks.current().rulebook().links();
        return cells.stream()
                .map(cell -> {
                    var from = new Source.OfProduct(cell.product);
                    var to = Destination.whole(cell.course);
                    return new CellChange(from, to, cell.terms == null ? null : terms(cell.terms, links, from, to));
                })
                .toList();
    }

    /** What the grid does not edit of a cell's terms stays as it is. */
    private static Terms terms(CellTerms cell, List<Link> links, Source from, Destination to) {
        var node =
                JsonNodeFactory.instance.objectNode().put("length", cell.length).put("refund", cell.refund);
        if (cell.refundShare != null) {
            node.put("refundShare", cell.refundShare);
        }
        var edited = RulebookDocument.terms(node);
        return links.stream()
                .filter(link -> link.leads(from, to))
                .map(Link::terms)
                .findFirst()
                .orElse(Terms.DEFAULT)
                .with(edited.length(), edited.refund(), edited.refundShare());
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

    private static <T> Map<String, T> byId(List<T> things, Function<T, String> id) {
        return things.stream().collect(Collectors.toMap(id, Function.identity(), (one, other) -> one));
    }
}
