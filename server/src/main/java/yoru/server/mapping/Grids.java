package yoru.server.mapping;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.findings.CourseState.Door;
import yoru.core.proposals.ByName;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Option;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Thing;
import yoru.server.ledger.LedgerFigures;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Listed.ItemKind;

/**
 * Lays a rulebook out as a grid: what opens things down, what can be opened across. Where no system lists anything of a
 * sort, its things came from a file and are not missed in any system.
 */
@Service
class Grids {

    private final Rulebooks rulebooks;
    private final Catalogue catalogue;
    private final LedgerFigures figures;

    Grids(Rulebooks rulebooks, Catalogue catalogue, LedgerFigures figures) {
        this.rulebooks = rulebooks;
        this.catalogue = catalogue;
        this.figures = figures;
    }

    /**
     * The mapping in force over today's catalogues.
     *
     * @param tiers of courses, the lowest first
     * @param terms those that links share by name
     */
    record Grid(
            int version,
            List<String> tiers,
            List<SharedTerms> terms,
            List<SourceRow> sources,
            List<TargetColumn> targets,
            List<Cell> cells) {}

    record SharedTerms(String id, String title, CellTerms terms) {}

    /**
     * Something that opens things.
     *
     * @param source as a path, {@code product/QUEEN} or {@code tag/bought-queen-rearing}
     * @param sort {@code product}, {@code option}, {@code category}, {@code level}, {@code tag} or {@code completed}
     * @param category under which heading it stands
     * @param categories by which links can name a product or its options
     * @param parent the product of an option
     * @param subscribed whether what it opens is open only while it is paid for
     * @param buyers people who ordered it so far; 0 for what is no product
     */
    record SourceRow(
            String source,
            String sort,
            String title,
            String category,
            List<String> categories,
            @Nullable String parent,
            @Nullable BigDecimal price,
            @Nullable String currency,
            boolean thing,
            boolean subscribed,
            boolean listed,
            int buyers) {}

    /**
     * Something that can be opened.
     *
     * @param target as a path, {@code course/queen-rearing}, {@code category/starter} for all courses of one
     * @param sort {@code course}, {@code section}, {@code category}, {@code level}, {@code group}, {@code area},
     *     {@code download}, {@code list} or {@code tag}
     * @param categories by which links and allowances can name a course
     * @param parent the course of a section
     * @param course what keeps a course from opening properly; only for courses
     */
    record TargetColumn(
            String target,
            String sort,
            String title,
            String category,
            List<String> categories,
            @Nullable String parent,
            boolean listed,
            @Nullable CourseFacts course) {}

    record CourseFacts(boolean content, boolean published, Door door, int sections) {}

    /**
     * A cell that might be meant.
     *
     * @param sure in per cent
     */
    record ProposedCell(DraftCell cell, String source, String target, int sure, String why) {}

    record Cell(String source, String target, CellTerms terms) {}

    @Transactional(readOnly = true)
    public Grid now() {
        var now = rulebooks.overTodaysCatalogue();
        var rulebook = now.rulebook();
        return new Grid(
                now.number(),
                rulebook.school().tiers(),
                rulebook.namedTerms().stream()
                        .map(it -> new SharedTerms(it.id(), it.title(), CellTerms.of(it.terms())))
                        .toList(),
                sources(rulebook),
                targets(rulebook),
                cells(rulebook));
    }

    /** One for each source and place; where several links share one, the first. */
    static List<Cell> cells(Rulebook rulebook) {
        Map<String, Cell> cells = new LinkedHashMap<>();
        for (Link link : rulebook.links()) {
            for (Destination destination : link.to()) {
                var cell = new Cell(link.from().path(), destination.place(), CellTerms.of(link, destination));
                cells.putIfAbsent(cell.source + " " + cell.target, cell);
            }
        }
        return List.copyOf(cells.values());
    }

    @Transactional(readOnly = true)
    public List<ProposedCell> proposals() {
        var rulebook = rulebooks.overTodaysCatalogue().rulebook();
        var sold = catalogue.products().stream()
                .filter(product -> !product.thing())
                .map(Catalogue.SoldProduct::id)
                .collect(Collectors.toSet());
        return new ByName(rulebook)
                .proposals(product -> sold.contains(product.id())).stream()
                        .map(it -> new ProposedCell(
                                DraftCell.of(it.change()),
                                rulebook.title(it.change().source()),
                                rulebook.title(it.change().destination()),
                                it.sure(),
                                it.why()))
                        .toList();
    }

    private List<SourceRow> sources(Rulebook rulebook) {
        Map<String, Catalogue.SoldProduct> sold = byId(catalogue.products(), Catalogue.SoldProduct::id);
        Map<String, Integer> buyers = figures.sold().stream()
                .collect(Collectors.toMap(LedgerFigures.Sold::product, LedgerFigures.Sold::buyers));
        Map<String, List<SourceRow>> byCategory = new LinkedHashMap<>();
        for (Product product : rulebook.products()) {
            var rows = byCategory.computeIfAbsent(first(product.categories()), Grids::categoryOfProducts);
            var row = row(product, sold.get(product.id()), sold.isEmpty(), buyers.getOrDefault(product.id(), 0));
            rows.add(row);
            var listed = Optional.ofNullable(sold.get(product.id()));
            product.options()
                    .forEach(option -> rows.add(optionRow(
                            option,
                            row,
                            listed.flatMap(it -> it.priceOf(option.id())).orElse(null))));
        }
        var sources = new ArrayList<SourceRow>();
        byCategory.values().forEach(sources::addAll);
        for (Level level : byRank(rulebook)) {
            sources.add(plain(new Source.OfLevel(level.id()), "level", level.title(), "Levels"));
        }
        var listedTags = ids(ItemKind.TAG);
        for (Thing tag : rulebook.all(Sort.TAG)) {
            sources.add(new SourceRow(
                    new Source.OfTag(tag.id()).path(),
                    "tag",
                    tag.title(),
                    "Tags",
                    List.of(),
                    null,
                    null,
                    null,
                    false,
                    false,
                    listedTags.isEmpty() || listedTags.contains(tag.id()),
                    0));
        }
        for (Course course : rulebook.courses()) {
            sources.add(plain(new Source.OfCompleted(course.id()), "completed", course.title(), "Finished courses"));
        }
        return sources;
    }

    /** Ladder by ladder, the lowest first; what stands alone comes last. */
    private static List<Level> byRank(Rulebook rulebook) {
        return rulebook.levels().stream()
                .sorted(Comparator.comparing((Level level) -> level.ladder().isEmpty())
                        .thenComparing(level -> level.ladder().orElse(""))
                        .thenComparingInt(Level::rank))
                .toList();
    }

    private static List<SourceRow> categoryOfProducts(String category) {
        var rows = new ArrayList<SourceRow>();
        if (!category.isEmpty()) {
            rows.add(plain(new Source.OfCategory(category), "category", "Anything of " + category, category));
        }
        return rows;
    }

    private static SourceRow optionRow(Option option, SourceRow of, @Nullable BigDecimal price) {
        return new SourceRow(
                /* source= */ new Source.OfOption(option.id()).path(),
                "option",
                option.title(),
                of.category,
                of.categories,
                /* parent= */ of.source,
                price,
                price == null ? null : of.currency,
                false,
                of.subscribed,
                true,
                0);
    }

    private static SourceRow plain(Source source, String sort, String title, String heading) {
        return new SourceRow(source.path(), sort, title, heading, List.of(), null, null, null, false, false, true, 0);
    }

    private static SourceRow row(
            Product product, Catalogue.@Nullable SoldProduct listed, boolean fromAFile, int buyers) {
        return new SourceRow(
                new Source.OfProduct(product.id()).path(),
                "product",
                product.title(),
                first(product.categories()),
                product.categories(),
                null,
                listed == null ? null : listed.price(),
                listed == null ? null : listed.currency(),
                listed != null && listed.thing(),
                product.billing().isSubscription(),
                listed != null || fromAFile,
                buyers);
    }

    private List<TargetColumn> targets(Rulebook rulebook) {
        Map<String, Catalogue.TaughtCourse> taught = byId(catalogue.courses(), Catalogue.TaughtCourse::id);
        Map<String, List<TargetColumn>> byCategory = new LinkedHashMap<>();
        for (Course course : rulebook.courses()) {
            var columns = byCategory.computeIfAbsent(first(course.categories()), Grids::categoryOfCourses);
            var column = column(course, taught.get(course.id()), taught.isEmpty());
            columns.add(column);
            course.sections()
                    .forEach(section -> columns.add(new TargetColumn(
                            new Target.OfSection(course.id(), section.id()).path(),
                            "section",
                            section.title(),
                            column.category,
                            List.of(),
                            column.target,
                            true,
                            null)));
        }
        var targets = new ArrayList<TargetColumn>();
        byCategory.values().forEach(targets::addAll);
        for (Sort sort : List.of(Sort.GROUP, Sort.AREA, Sort.DOWNLOAD, Sort.LIST, Sort.TAG)) {
            targets.addAll(columns(rulebook, sort));
        }
        for (Level level : byRank(rulebook)) {
            targets.add(new TargetColumn(
                    new Target.OfLevel(level.id()).path(), "level", level.title(), "", List.of(), null, true, null));
        }
        return targets;
    }

    private static List<TargetColumn> categoryOfCourses(String category) {
        var columns = new ArrayList<TargetColumn>();
        if (!category.isEmpty()) {
            var all = new Destination.OfCategory(category, List.of(), null);
            columns.add(new TargetColumn(
                    all.place(), "category", "All of " + category, category, List.of(), null, true, null));
        }
        return columns;
    }

    private static TargetColumn column(Course course, Catalogue.@Nullable TaughtCourse listed, boolean fromAFile) {
        int sections = course.sections().size();
        var facts = listed == null
                ? new CourseFacts(fromAFile, fromAFile, Door.YORU_ONLY, sections)
                : new CourseFacts(
                        listed.state().hasContent(),
                        listed.state().published(),
                        listed.state().door(),
                        Math.max(sections, listed.sections().size()));
        return new TargetColumn(
                new Target.OfCourse(course.id()).path(),
                "course",
                course.title(),
                first(course.categories()),
                course.categories(),
                null,
                listed != null || fromAFile,
                facts);
    }

    private List<TargetColumn> columns(Rulebook rulebook, Sort sort) {
        var listed = ids(ItemKind.of(sort));
        return rulebook.all(sort).stream()
                .flatMap(thing -> sort.target(thing.id()).stream()
                        .map(target -> new TargetColumn(
                                target.path(),
                                sort.one(),
                                thing.title(),
                                "",
                                List.of(),
                                null,
                                listed.isEmpty() || listed.contains(thing.id()),
                                null)))
                .toList();
    }

    private Set<String> ids(ItemKind kind) {
        return catalogue.things(kind).stream().map(Catalogue.ListedThing::id).collect(Collectors.toSet());
    }

    private static String first(List<String> categories) {
        return categories.stream().findFirst().orElse("");
    }

    private static <T> Map<String, T> byId(List<T> things, Function<T, String> id) {
        return things.stream().collect(Collectors.toMap(id, Function.identity(), (one, other) -> one));
    }
}
