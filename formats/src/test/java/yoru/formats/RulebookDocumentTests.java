package yoru.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import yoru.core.World;

/** The rulebook as a document: what is written is read, and every fault is told with its place. */
class RulebookDocumentTests {

    private static final String GOOD = """
            yoru: rulebook/1
            school: { zone: Europe/Dublin, currency: EUR, tiers: [open, core], ladders: [ { id: hive } ] }
            courses:
              - { id: queen-rearing, title: Queen Rearing, sections: [ { id: grafting, tier: core } ] }
            products: [ { id: QUEEN, options: [ { id: QUEEN-LIVE } ], billing: { kind: once } } ]
            levels:
              - { id: helper, ladder: hive, rank: 1 }
              - { id: keeper, ladder: hive, rank: 2, allowance: { courses: 1 } }
            tags: [ { id: amber } ]
            links:
              - { id: L1, from: { product: QUEEN }, to: [ { course: queen-rearing } ], terms: { length: P1Y } }
            """;

    private static List<String> faults(String document) {
        return catchThrowableOfType(UnreadableException.class, () -> RulebookDocument.read(document)).faults().stream()
                .map(Fault::toString)
                .toList();
    }

    @Test
    void faultsAreToldAllAtOnceWithTheirPlacesAndWhatIsAllowed() {
        assertThat(faults("""
                        yoru: rulebook/1
                        school: { zone: Europe/Dublin, currency: EUR, motto: buzz, opensOn: pai }
                        courses: [ { id: queen-rearing }, { id: queen-rearing, title: B } ]
                        products: [ { id: P, billing: { kind: instalments, count: 0 } } ]
                        links:
                          - { id: L1, from: { product: Q }, to: [ { course: quen-rearing } ], terms: { length: forever } }
                          - { id: L2, from: { product: P, tag: x }, to: [] }
                        """))
                .containsExactlyInAnyOrder(
                        "school.motto: is not known here; allowed: zone, currency, tiers, opensOn, ladders, tagNames",
                        "school.opensOn: must be one of placed, paid, fulfilled; did you mean `paid`?",
                        "courses[1].id: `queen-rearing` stands twice",
                        "products[0].billing.count: must be a whole number from 1 to 1000",
                        "products[0].billing.every: is missing",
                        "links[0].from.product: no product `Q`; did you mean `P`?",
                        "links[0].to[0].course: no course `quen-rearing`; did you mean `queen-rearing`?",
                        "links[0].terms.length: must be held or an ISO 8601 period such as P1Y or P30D",
                        "links[1].from: must be an object with one of product, option, category, level, tag, completed",
                        "links[1].from.tag: no tag `x`",
                        "links[1].to: must be a list of at least one target");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "Europe/Dublin|Europe/Dubln|school.zone|did you mean `Europe/Dublin`",
                "currency: EUR|currency: EURO|school.currency|ISO 4217",
                "rulebook/1|rulebook/2|yoru|must be rulebook/1",
                "tier: core|tier: cor|courses[0].sections[0].tier|no tier `cor`; did you mean `core`?",
                "[ { course: queen-rearing } ]|[ { section: [queen-rearing, graft] } ]|links[0].to[0].section[1]|no section",
                "[ { course: queen-rearing } ]|[ { course: queen-rearing, tag: amber } ]|links[0].to[0]|exactly one of",
                "[ { course: queen-rearing } ]|[ { tag: amber, tier: core } ]|links[0].to[0]|exactly one of",
                "[ { course: queen-rearing } ]|[ { category: x, except: [y] } ]|links[0].to[0].except[0]|no course `y`",
                "rank: 2|rank: 1|levels[1].rank|is the rank of `helper` too",
                "hive, rank: 2|hiv, rank: 2|levels[1].ladder|did you mean `hive`",
                "hive, rank: 2|hive|levels[1].rank|is missing",
                "from: { product: QUEEN }|from: { option: QUEEN }|links[0].from.option|no option",
                "length: P1Y|length: P1H|links[0].terms.length|ISO 8601 period",
                "length: P1Y|refundShare: 0|links[0].terms.refundShare|above 0",
                "length: P1Y|until: 2026-13-01T00:00:00|links[0].terms.until|local date and time",
                "terms: { length: P1Y }|applies: { until: 2026-01-01T00:00:00Z }|links[0].applies.afterwards|is missing",
                "kind: once|kind: once, count: 3|products[0].billing.count|is not known here",
                "id: QUEEN-LIVE|id: 7|products[0].options[0].id|text",
            })
    void namesThePlace(String good, String bad, String place, String problem) {
        assertThat(faults(GOOD.replace(good, bad)))
                .singleElement()
                .asString()
                .startsWith(place + ": ")
                .contains(problem);
    }

    @Test
    void jsonIsReadTooHoweverItIsIndented() {
        var json = "{\n\t\"yoru\": \"rulebook/1\",\n\t\"school\": { \"zone\": \"UTC\", \"currency\": \"EUR\" }\n}";
        assertThat(RulebookDocument.read(json)).isEqualTo(RulebookDocument.read(json.replace("\t", "  ")));
        assertThat(faults(json.replace("\"UTC\",", "\"UTC\", \"zone\": \"UTC\",")))
                .singleElement()
                .asString()
                .startsWith("line ");
    }

    @Test
    void extendIsOnlyForWhatIsBought() {
        assertThat(faults(
                        GOOD.replace("{ product: QUEEN }", "{ tag: amber }").replace("length: P1Y", "repeat: extend")))
                .singleElement()
                .asString()
                .startsWith("links[0].terms.repeat: extend is only for links from");
    }

    @Test
    void aCycleIsNamedByItsMembers() {
        assertThat(faults(GOOD + """
                  - { id: L2, from: { tag: amber }, to: [ { level: keeper } ] }
                  - { id: L3, from: { level: helper }, to: [ { tag: amber } ] }
                """))
                .singleElement()
                .asString()
                .isEqualTo("links: the ladder hive leads to the tag amber leads to the ladder hive again"
                        + " (links L3, L2); levels and tags must not depend on themselves");
        assertThat(faults(GOOD + "  - { id: L2, from: { level: helper }, to: [ { level: keeper } ] }\n"))
                .singleElement()
                .asString()
                .contains("the ladder hive leads to the ladder hive again (links L2)");
    }

    @ParameterizedTest
    @ValueSource(strings = {"a: [", "a: 1\na: 2", "\t- x"})
    void whatIsNoYamlIsToldWithItsLine(String document) {
        assertThat(faults(document))
                .singleElement()
                .asString()
                .startsWith("line ")
                .contains("not YAML or JSON");
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "7", "[]", "null"})
    void whatIsNoRulebookAtAllIsSaid(String document) {
        assertThat(faults(document)).isNotEmpty();
    }

    /** With every kind of product, link and term. */
    @Test
    void aRulebookWrittenIsTheRulebookRead() {
        for (long seed = 0; seed < 200; seed++) {
            var rulebook = World.of(seed).rulebook();
            assertThat(RulebookDocument.read(RulebookDocument.yaml(rulebook))).isEqualTo(rulebook);
            assertThat(RulebookDocument.read(RulebookDocument.write(rulebook))).isEqualTo(rulebook);
            assertThat(RulebookDocument.yaml(RulebookDocument.read(RulebookDocument.yaml(rulebook))))
                    .isEqualTo(RulebookDocument.yaml(rulebook));
        }
    }
}
