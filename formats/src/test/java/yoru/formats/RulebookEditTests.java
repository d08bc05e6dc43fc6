package yoru.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Objects;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.rulebook.Rulebook;
import yoru.formats.CatalogueCsv.Change;

/** Things changed one by one, terms under a name, and the catalogue as rows. */
class RulebookEditTests {

    private static final Rulebook BOOK = RulebookDocument.read("""
            yoru: rulebook/1
            school: { zone: Europe/Dublin, currency: EUR, tiers: [open, core], ladders: [ { id: hive } ] }
            courses: [ { id: queen, title: Queen Rearing, categories: [advanced], sections: [ { id: graft, tier: core } ] } ]
            products: [ { id: QUEEN, title: "Queen, live", options: [ { id: Q-LIVE } ], billing: { kind: instalments, count: 3, every: P1M } } ]
            levels: [ { id: keeper, title: Keeper, ladder: hive, rank: 2, allowance: { courses: 1 } } ]
            tags: [ { id: member } ]
            namedTerms: [ { id: year, title: A year, terms: { length: P1Y } } ]
            links:
            - { id: L1, from: { product: QUEEN }, to: [ { course: queen } ], named: year }
            - { id: L2, from: { level: keeper }, to: [ { course: queen } ], terms: { length: held } }
            """);

    private static ThingChange change(String thing, String to) {
        return new ThingChange(thing, JsonMapper.shared().readTree(to));
    }

    @Test
    void termsUnderANameAreChangedForAllLinksThatUseThem() {
        var edited = RulebookEdit.edited(
                BOOK,
                List.of(change("terms/year", "{\"title\": \"A year\", \"terms\": {\"length\": \"P2Y\"}}")),
                List.of());
        assertThat(edited.linksById().get("L1").terms())
                .isEqualTo(edited.namedTerms().getFirst().terms());
        assertThat(edited.linksById().get("L2")).isEqualTo(BOOK.linksById().get("L2"));
        assertThat(RulebookDocument.yaml(edited)).contains("named: \"year\"");
        assertThat(RulebookDocument.read(RulebookDocument.write(edited)))
                .as("what was checked part by part is what a whole reading makes of it")
                .isEqualTo(edited);
    }

    @Test
    void whatDiffersThingByThingLeadsFromOneToTheOther() throws Exception {
        var root =
                Path.of(Objects.requireNonNull(getClass().getResource("/cases")).toURI());
        try (var cases = Files.list(root)) {
            var rulebooks = cases.map(one -> one.resolve("rulebook.yaml"))
                    .filter(Files::exists)
                    .toList();
            assertThat(rulebooks).hasSizeGreaterThan(30);
            for (Path one : rulebooks) {
                var other = RulebookDocument.read(Files.readString(one)).withLinks(List.of());
                var there = RulebookEdit.difference(BOOK.withLinks(List.of()), other);
                var reached = RulebookEdit.edited(BOOK.withLinks(List.of()), there, List.of());
                assertThat(RulebookEdit.difference(reached, other)).isEmpty();
            }
        }
        assertThat(RulebookEdit.difference(BOOK, BOOK)).isEmpty();
    }

    @Test
    void whatIsInUseCannotGoAndWhatIsNoThingIsRefused() {
        assertThatThrownBy(() -> RulebookEdit.edited(BOOK, List.of(new ThingChange("level/keeper", null)), List.of()))
                .hasMessageContaining("links[1].from.level");
        assertThatThrownBy(() -> RulebookEdit.edited(BOOK, List.of(change("bee/queen", "{}")), List.of()))
                .hasMessageContaining("bee/queen");
        assertThatThrownBy(() ->
                        RulebookEdit.edited(BOOK, List.of(change("level/keeper", "{\"rank\": \"two\"}")), List.of()))
                .hasMessageContaining("levels[0].rank");
    }

    @Test
    void theCatalogueAsRowsComesBackAsItIs() {
        var csv = CatalogueCsv.write(BOOK);
        assertThat(csv)
                .startsWith("sort,id,parent,title,")
                .contains("product,QUEEN,,\"Queen, live\",", "section,graft,queen,");
        var taken = CatalogueCsv.read(csv, BOOK);
        assertThat(taken.rows()).hasSize(6).extracting(CatalogueCsv.Row::fate).containsOnly(Change.SAME);
        assertThat(taken.things()).isEmpty();
    }

    @Test
    void eachRowHasItsFateAndFaultyOnesAreKeptToBeMended() {
        var taken = CatalogueCsv.read("""
                sort;id;parent;title;categories;tier;billing;count;every;ladder;rank
                course;queen;;Queens;advanced, old;;;;;;
                section;mark;queen;Marking;;core;;;;;
                section;lost;nowhere;Lost;;;;;;;
                product;NEW;;New one;a;;recurring;;P1M;;
                product;BAD;;Bad one;a;;recurring;;;;
                level;warden;;Warden;;;;;;hive;3
                level;helper;;Helper;;;;;;hive;2
                level;alone;;Alone;;;;;;ladder;1
                bee;x;;;;;;;;;
                tag;member;;Members
                """.replace("advanced, old", "advanced"), BOOK);
        assertThat(taken.rows().stream()
                        .map(row -> row.fate() + " " + row.thing())
                        .toList())
                .containsExactly(
                        "CHANGED course/queen",
                        "NEW section/queen/mark",
                        "FAULTY section/lost",
                        "NEW product/NEW",
                        "FAULTY product/BAD",
                        "NEW level/warden",
                        "FAULTY level/helper",
                        "FAULTY level/alone",
                        "FAULTY ",
                        "FAULTY ");
        assertThat(taken.rows().get(4).why()).contains("billing.every", "missing");
        assertThat(taken.toMend().lines()).hasSize(7);
        var edited = RulebookEdit.edited(BOOK, taken.things(), List.of());
        assertThat(edited.course("queen").orElseThrow().title()).isEqualTo("Queens");
        assertThat(edited.course("queen").orElseThrow().sections()).hasSize(2);
        assertThat(edited.level("warden")).isPresent();
        assertThat(edited.level("helper")).isEmpty();
        assertThat(edited.level("keeper").orElseThrow().allowance())
                .as("a row says nothing of it")
                .isPresent();
        assertThatThrownBy(() -> CatalogueCsv.read("sort,titel\na,b\n", BOOK))
                .hasMessageContaining("titel")
                .hasMessageContaining("no column id");
    }
}
