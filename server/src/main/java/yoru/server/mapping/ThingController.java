package yoru.server.mapping;

import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import yoru.formats.CatalogueCsv;
import yoru.server.ledger.LedgerFigures;
import yoru.server.platform.SchoolSettings;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Connections;
import yoru.server.systems.Listed.ItemKind;
import yoru.server.systems.Listed.Plan;
import yoru.server.systems.Listed.Section;
import yoru.server.systems.Listed.Thing;

/** The single things that a mapping is made of: where they come from, who has them, and all of them as rows. */
@RestController
class ThingController {

    private static final int SHOWN_PEOPLE = 50;

    private final Mapping mapping;
    private final Rulebooks rulebooks;
    private final Catalogue catalogue;
    private final Connections connections;
    private final LedgerFigures figures;
    private final SchoolSettings settings;

    ThingController(
            Mapping mapping,
            Rulebooks rulebooks,
            Catalogue catalogue,
            Connections connections,
            LedgerFigures figures,
            SchoolSettings settings) {
        this.settings = settings;
        this.mapping = mapping;
        this.rulebooks = rulebooks;
        this.catalogue = catalogue;
        this.connections = connections;
        this.figures = figures;
    }

    /**
     * A thing beside its links.
     *
     * @param sources which systems list it, or did; none = it is the school's own
     * @param about as its shop describes it
     * @param sections as its classroom lists them, whether or not they are in the mapping
     * @param plan how its shop says it is paid for over time; none = it says nothing
     * @param ordered how many orders of a month name it
     * @param buyers people who ordered it
     * @param left people who left it, where it is a list, and have not asked for it again
     */
    record ThingPage(
            List<SourceSystem> sources,
            @Nullable String about,
            @Nullable BigDecimal price,
            @Nullable String currency,
            List<Section> sections,
            @Nullable Plan plan,
            List<Ordered> ordered,
            People buyers,
            People left) {}

    /** @param month as in 2026-11, in the school's zone */
    record Ordered(String month, int many) {}

    /** @param latest the last of them */
    record People(int many, List<Somebody> latest) {}

    /**
     * That a system lists it.
     *
     * @param gone since when no more; none = it does
     * @param link for a browser: into the basket, or to the course
     */
    record SourceSystem(
            String system,
            String title,
            String name,
            Instant seen,
            @Nullable Instant gone,
            @Nullable String link) {}

    record Somebody(long person, String name, Instant at) {}

    /** What there is to map, and the rules of the school, as in a rulebook's document; without the links. */
    @GetMapping("/api/mapping/things")
    JsonNode things() {
        return mapping.things();
    }

    /** Something of the mapping by its sort and id; also what no system and no rulebook knows has a page. */
    @GetMapping("/api/mapping/things/{sort}/{id}")
    ThingPage thing(@PathVariable String sort, @PathVariable String id) {
        var kind = kind(sort);
        var sources = kind.stream()
                .flatMap(it -> catalogue.listings(new Thing(it, id)).stream())
                .map(it -> new SourceSystem(
                        it.connection(),
                        connections.get(it.connection()).title(),
                        it.title(),
                        it.seen(),
                        it.gone(),
                        it.link()))
                .toList();
        var sold = catalogue.products().stream()
                .filter(it -> sort.equals("product") && it.id().equals(id))
                .findFirst();
        var sections = catalogue.courses().stream()
                .filter(it -> sort.equals("course") && it.id().equals(id))
                .flatMap(it -> it.sections().stream())
                .toList();
        var buyers = sort.equals("product") ? figures.buyers(id, SHOWN_PEOPLE) : LedgerFigures.NOBODY;
        var left = sort.equals("list") ? figures.whoLeft(id, SHOWN_PEOPLE) : LedgerFigures.NOBODY;
        return new ThingPage(
                sources,
                sold.map(Catalogue.SoldProduct::about).orElse(null),
                sold.map(Catalogue.SoldProduct::price).orElse(null),
                sold.map(Catalogue.SoldProduct::currency).orElse(null),
                sections,
                sold.map(Catalogue.SoldProduct::plan).orElse(null),
                sort.equals("product")
                        ? figures.orderedByMonth(id, settings.zone()).stream()
                                .map(it -> new Ordered(it.month().toString(), it.many()))
                                .toList()
                        : List.of(),
                shown(buyers),
                shown(left));
    }

    private static People shown(LedgerFigures.Several several) {
        return new People(
                several.count(),
                several.latest().stream()
                        .map(it -> new Somebody(it.person(), it.name(), it.at()))
                        .toList());
    }

    /** Everything but the links as rows (docs/formats/catalogue.md). */
    @GetMapping(path = "/api/mapping/catalogue", produces = "text/csv")
    String rows() {
        return CatalogueCsv.write(rulebooks.overTodaysCatalogue().rulebook());
    }

    /**
     * Rows as they would be taken over.
     *
     * @param things for the draft
     * @param toMend the faulty rows as a file; none where there are none
     */
    record Preview(
            List<CatalogueCsv.Row> rows,
            List<Draft.DraftThing> things,
            @Nullable String toMend) {}

    /** Reads rows and says what would become of each; changes nothing. */
    @PostMapping(path = "/api/mapping/catalogue", consumes = "text/csv")
    Preview preview(@RequestBody @Size(max = Draft.LARGEST_DOCUMENT) String csv) {
        var taken = CatalogueCsv.read(csv, rulebooks.overTodaysCatalogue().rulebook());
        boolean faulty = taken.rows().stream().anyMatch(row -> row.fate() == CatalogueCsv.Change.FAULTY);
        return new Preview(taken.rows(), Draft.shown(taken.things()), faulty ? taken.toMend() : null);
    }

    private static Optional<ItemKind> kind(String sort) {
        return List.of(ItemKind.values()).stream()
                .filter(kind -> kind.name().toLowerCase(Locale.ROOT).equals(sort))
                .findFirst();
    }
}
