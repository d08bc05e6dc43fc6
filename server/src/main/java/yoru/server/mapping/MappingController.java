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
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
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
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Named;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;
import yoru.formats.RulebookDocument;
import yoru.server.ledger.LedgerService;
import yoru.server.ledger.Person;
import yoru.server.platform.ProblemException;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Listed.ItemKind;
import yoru.server.systems.Listed.Thing;

/** The grid: what opens things down, what can be opened across. */
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
    record Grid(int version, List<SourceRow> sources, List<TargetColumn> targets, List<Cell> cells) {}

    /**
     * Something that opens things: a product, or a tag.
     *
     * @param source as a path, {@code product/QUEEN} or {@code tag/bought-queen-rearing}
     * @param sort {@code product} or {@code tag}
     * @param buyers people who ordered it so far; 0 for tags
     */
    record SourceRow(
            String source,
            String sort,
            String title,
            String category,
            @Nullable BigDecimal price,
            @Nullable String currency,
            boolean thing,
            boolean listed,
            int buyers) {}

    /**
     * Something that can be opened.
     *
     * @param target as a path, {@code course/queen-rearing}
     * @param sort {@code course}, {@code group}, {@code area}, {@code download}, {@code list} or {@code tag}
     * @param course what keeps a course from opening properly; only for courses
     */
    record TargetColumn(
            String target,
            String sort,
            String title,
            String category,
            boolean listed,
            @Nullable CourseFacts course) {}

    record CourseFacts(boolean content, boolean published, Door door, int sections) {}

    record Cell(String source, String target, CellTerms terms) {}

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
            @NotBlank @Size(max = 220) String source,
            @NotBlank @Size(max = 220) String target,
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
            String target,
            Kind kind,
            @Nullable String before,
            @Nullable String after,
            @Nullable String reason) {}

    @GetMapping("/api/mapping")
    Grid grid() {
        var now = rulebooks.overTodaysCatalogue();
        var rulebook = now.rulebook();
        var sources = new ArrayList<SourceRow>();
        Map<String, Catalogue.SoldProduct> sold = byId(catalogue.products(), Catalogue.SoldProduct::id);
        Map<String, Integer> buyers = ledger.sold().stream()
                .collect(Collectors.toMap(LedgerService.Sold::product, LedgerService.Sold::buyers));
        rulebook.products()
                .forEach(product ->
                        sources.add(row(product, sold.get(product.id()), buyers.getOrDefault(product.id(), 0))));
        var listedTags = ids(ItemKind.TAG);
        rulebook.tags().forEach(tag -> sources.add(row(tag, listedTags.contains(tag.id()))));
        var targets = new ArrayList<TargetColumn>();
        Map<String, Catalogue.TaughtCourse> taught = byId(catalogue.courses(), Catalogue.TaughtCourse::id);
        rulebook.courses().forEach(course -> targets.add(column(course, taught.get(course.id()))));
        targets.addAll(columns(rulebook.groups(), ItemKind.GROUP));
        targets.addAll(columns(rulebook.areas(), ItemKind.AREA));
        targets.addAll(columns(rulebook.downloads(), ItemKind.DOWNLOAD));
        targets.addAll(columns(rulebook.lists(), ItemKind.LIST));
        targets.addAll(columns(rulebook.tags(), ItemKind.TAG));
        return new Grid(now.number(), sources, targets, cells(rulebook.links()));
    }

    private static SourceRow row(Product product, Catalogue.@Nullable SoldProduct listed, int buyers) {
        return new SourceRow(
                new Source.OfProduct(product.id()).path(),
                "product",
                product.title(),
                product.categories().stream().findFirst().orElse(""),
                listed == null ? null : listed.price(),
                listed == null ? null : listed.currency(),
                listed != null && listed.thing(),
                listed != null,
                buyers);
    }

    private static SourceRow row(Named tag, boolean listed) {
        return new SourceRow(
                new Source.OfTag(tag.id()).path(), "tag", tag.title(), "Tags", null, null, false, listed, 0);
    }

    private static TargetColumn column(Course course, Catalogue.@Nullable TaughtCourse listed) {
        var facts = listed == null
                ? new CourseFacts(false, false, Door.YORU_ONLY, 0)
                : new CourseFacts(
                        listed.state().hasContent(),
                        listed.state().published(),
                        listed.state().door(),
                        listed.sections().size());
        return new TargetColumn(
                new Target.OfCourse(course.id()).path(),
                "course",
                course.title(),
                course.categories().stream().findFirst().orElse(""),
                listed != null,
                facts);
    }

    private List<TargetColumn> columns(List<Named> things, ItemKind kind) {
        var listed = ids(kind);
        var sort = kind.name().toLowerCase(Locale.ROOT);
        return things.stream()
                .flatMap(thing -> new Thing(kind, thing.id())
                        .asTarget().stream()
                                .map(target -> new TargetColumn(
                                        target.path(), sort, thing.title(), "", listed.contains(thing.id()), null)))
                .toList();
    }

    private Set<String> ids(ItemKind kind) {
        return catalogue.things(kind).stream().map(Catalogue.ListedThing::id).collect(Collectors.toSet());
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

    /** What the grid shows: whole targets opened by products and tags. Other links are not shown here, and stay as they are. */
    private static List<Cell> cells(List<Link> links) {
        var cells = new ArrayList<Cell>();
        for (Link link : links) {
            if (link.from() instanceof Source.OfProduct || link.from() instanceof Source.OfTag) {
                for (Destination destination : link.to()) {
                    inGrid(destination)
                            .ifPresent(target ->
                                    cells.add(new Cell(link.from().path(), target.path(), shown(link.terms()))));
                }
            }
        }
        return cells;
    }

    private static Optional<Target> inGrid(Destination destination) {
        return switch (destination) {
            case Destination.OfCourse it ->
                it.tier().isEmpty() ? Optional.of(new Target.OfCourse(it.course())) : Optional.empty();
            case Destination.OfCategory _ -> Optional.empty();
            case Destination.Exactly it -> columnOf(it.target());
        };
    }

    /** Sections and levels have no column of their own here. */
    private static Optional<Target> columnOf(Target target) {
        return switch (target) {
            case Target.OfGroup _, Target.OfArea _, Target.OfDownload _, Target.OfList _, Target.OfTag _ ->
                Optional.of(target);
            case Target.OfCourse _, Target.OfSection _, Target.OfLevel _ -> Optional.empty();
        };
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
                    var from = source(cell.source);
                    var to = destination(cell.target);
                    return new CellChange(from, to, cell.terms == null ? null : terms(cell.terms, links, from, to));
                })
                .toList();
    }

    private static Source source(String path) {
        try {
            return Source.read(path);
        } catch (IllegalArgumentException e) {
            throw unusable("source", path);
        }
    }

    private static Destination destination(String path) {
        try {
            return Destination.to(Target.read(path));
        } catch (IllegalArgumentException e) {
            throw unusable("target", path);
        }
    }

    private static ProblemException unusable(String what, String path) {
        return new ProblemException(
                HttpStatus.BAD_REQUEST, "This cannot be read", "No %s is written as \"%s\".".formatted(what, path));
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
