package yoru.formats.matching;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assertions.assertTimeoutPreemptively;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.ledger.Happening;
import yoru.formats.FactReader;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;

class MatchingTests {

    private static final Instant NOW = Instant.parse("2026-05-01T12:00:00Z");

    /** RFC 9535, 1.5, figure 1: the document of its example. */
    private static final String BOOKSTORE = """
            {"store": {"book": [
              {"category": "reference", "author": "Nigel Rees", "title": "Sayings of the Century", "price": 8.95},
              {"category": "fiction", "author": "Evelyn Waugh", "title": "Sword of Honour", "price": 12.99},
              {"category": "fiction", "author": "Herman Melville", "title": "Moby Dick", "isbn": "0-553-21311-3", "price": 8.99},
              {"category": "fiction", "author": "J. R. R. Tolkien", "title": "The Lord of the Rings", "isbn": "0-395-19395-8", "price": 22.99}],
             "bicycle": {"color": "red", "price": 399}}}""";

    private static final String SHOP = """
            {"yoru": "matching/1",
             "rules": [{"facts": ["order.placed", "order.paid"], "when": [{"path": "$.event", "equals": "checkout_complete"}]},
                       {"facts": ["order.refunded"], "when": [{"path": "$.event", "equals": "money_back"}]}],
             "fields": {
               "person": {"path": "$.buyer.mail", "steps": [{"do": "trim"}, {"do": "lower"}]},
               "name": {"path": "$.buyer.username", "steps": [{"do": "trim"}]},
               "order": {"path": "$.ref", "steps": [{"do": "prefix", "text": "B-"}]},
               "time": {"path": "$.at"},
               "currency": {"constant": "EUR"},
               "lines": {"path": "$.items[*]"},
               "line.product": {"path": "$.code", "steps": [{"do": "lookup", "table": {"queen-1": "QUEEN"}, "otherwise": "OTHER"}]},
               "line.quantity": {"path": "$.qty"},
               "line.amount": {"path": "$.cents", "steps": [{"do": "minor-units"}]}}}""";

    private static final String REPORT = """
            {"event": "checkout_complete", "ref": "2041", "buyer": {"mail": " Petra@Post.example", "username": "Petra  Lindqvist"},
             "items": [{"code": "queen-1", "qty": 1, "cents": 18000}, {"code": "veil", "qty": 2, "cents": 5000}],
             "at": "2026-10-12T11:58:02+02:00"}""";

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    $.store.book[*].author | Nigel Rees; Evelyn Waugh; Herman Melville; J. R. R. Tolkien
                    $..author | Nigel Rees; Evelyn Waugh; Herman Melville; J. R. R. Tolkien
                    $.store..price | 8.95; 12.99; 8.99; 22.99; 399
                    $..book[2].author | Herman Melville
                    $..book[2].publisher |
                    $..book[-1].title | The Lord of the Rings
                    $..book[:2].title | Sayings of the Century; Sword of Honour
                    $..book[?@.price<10].title | Sayings of the Century; Moby Dick
                    $['store']["bicycle"].color | red""")
    void pathsSelectWhatTheStandardSays(String path, String expected) {
        assertThat(Paths.fault(path)).isEmpty();
        var document = Paths.document(BOOKSTORE).orElseThrow();
        assertThat(Paths.select(document, path).stream()
                        .map(node -> node.asText())
                        .collect(Collectors.joining("; ")))
                .isEqualTo(expected == null ? "" : expected);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "store",
                "$.",
                "$..",
                "$[",
                "$[1",
                "$.a b",
                "$['a]",
                "$.length()",
                "$[?(@.a == 1)]",
                "$[?@.a == b]",
                "$[(@.length-1)]",
                "@.a",
                "$.a..",
                "$[1,2]",
                "$..a..a..a"
            })
    void whatIsNoPathIsRefused(String path) {
        assertThat(Paths.fault(path)).isPresent();
    }

    /** Whoever may match fields cannot keep a server busy with one report. */
    @Test
    void aPathIsSoonFollowedWhateverTheReportIs() {
        var deep = "{\"a\":".repeat(27) + "[" + "{\"a\":1},".repeat(20_000) + "{}]" + "}".repeat(27);
        assertThat(Paths.fault("$..a..a")).isEmpty();
        assertThat(Paths.fault("$.a['..'].b['a..b']..c")).isEmpty();
        assertTimeoutPreemptively(Duration.ofSeconds(10), () -> {
            var document = Paths.document(deep).orElseThrow();
            assertThat(Paths.select(document, "$..a..a")).hasSizeBetween(1, 10_001);
        });
        assertThat(Paths.document("{\"a\":".repeat(31) + "1" + "}".repeat(31)))
                .as("no report is nested as deep")
                .isEmpty();
    }

    @Test
    void oneReportBecomesTheFactsThatItTellsOf() {
        var matched = match(SHOP, REPORT);
        assertThat(matched.faults()).isEmpty();
        var facts = matched.events().stream().map(FactReader::read).toList();
        assertThat(facts).extracting(fact -> fact.id().id()).containsExactly("r-1:order.placed", "r-1:order.paid");
        assertThat(facts).allSatisfy(fact -> {
            assertThat(fact.subject()).isEqualTo("petra@post.example");
            assertThat(fact.time()).isEqualTo(Instant.parse("2026-10-12T09:58:02Z"));
        });
        var placed = (Happening.OrderPlaced) facts.getFirst().happening();
        assertThat(placed.order()).isEqualTo("B-2041");
        assertThat(placed.lines())
                .extracting(line -> line.product() + " " + line.quantity() + " " + line.amount())
                .containsExactly("QUEEN 1 180.00", "OTHER 2 50.00");
        assertThat(matched.values())
                .containsEntry("name", "Petra Lindqvist")
                .containsEntry("line.product", "QUEEN\nOTHER");
    }

    @Test
    void aReportThatNoRuleFitsIsSetAside() {
        var matched = match(SHOP, "{\"event\": \"page_viewed\"}");
        assertThat(matched.told()).isFalse();
        assertThat(matched.events()).isEmpty();
        assertThat(matched.faults()).isEmpty();
    }

    @Test
    void everyFaultIsSaidAtItsFieldAndNothingIsMadeOfTheReport() {
        var matched = match(SHOP, """
                {"event": "checkout_complete", "buyer": {"mail": ""}, "at": "yesterday",
                 "items": [{"code": "queen-1", "cents": 180.5}]}""");
        assertThat(matched.events()).isEmpty();
        assertThat(matched.faults())
                .extracting(Fault::field)
                .contains("person", "order", "time", "line.amount")
                .doesNotContain("line.product", "currency");
        assertThat(match(SHOP, "{\"event\": ").faults())
                .extracting(Fault::problem)
                .containsExactly("is no JSON");
        assertThat(match(SHOP, "[".repeat(5000)).faults()).hasSize(1);
    }

    @Test
    void aRequiredFieldThatNothingIsMatchedWithIsNamed() {
        var matching = read(SHOP.replace("\"currency\": {\"constant\": \"EUR\"},", ""));
        assertThat(matching.missing()).extracting(Field::id).containsExactly("currency");
        assertThat(read(SHOP).missing()).isEmpty();
    }

    @Test
    void aDocumentIsRefusedWithEveryFaultAtItsPlace() {
        assertThatThrownBy(() -> read("""
                {"yoru": "matching/2", "rules": [{"facts": ["order.lost"], "when": [{"path": "event", "equals": "x"}]}],
                 "fields": {"persn": {"path": "$.a"}, "order": {"path": "$.a", "constant": "b"},
                            "time": {"path": "$.t", "steps": [{"do": "date", "format": "nonsense!"}, {"do": "dance"}]}}}"""))
                .isInstanceOfSatisfying(
                        UnreadableException.class,
                        e -> assertThat(e.faults())
                                .extracting(Fault::field)
                                .containsExactlyInAnyOrder(
                                        "yoru",
                                        "rules[0].facts[0]",
                                        "rules[0].when[0].path",
                                        "fields.persn",
                                        "fields.order",
                                        "fields.time.steps[0]",
                                        "fields.time.steps[1].do"));
    }

    /** Amounts as people write them; common practice, no source. Minor units by ISO 4217 as the JDK has it. */
    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    decimals | 180 | EUR | 180
                    decimals | 180.50 | EUR | 180.50
                    decimals | 180,50 | EUR | 180.50
                    decimals | 1.180,50 € | EUR | 1180.50
                    decimals | 1,180.50 | EUR | 1180.50
                    decimals | 1,180 | EUR | 1180
                    decimals | 1.234.567 | EUR | 1234567
                    minor-units | 18000 | EUR | 180.00
                    minor-units | 180 | JPY | 180
                    minor-units | 18000 | BHD | 18.000""")
    void amountsAreReadAsTheyAreMeant(String step, String text, String currency, String expected) {
        var matched = match(
                SHOP.replace("minor-units", step).replace("\"EUR\"", "\"" + currency + "\""),
                REPORT.replace("18000", "\"" + text + "\""));
        assertThat(matched.values().get("line.amount")).startsWith(expected + "\n");
    }

    /** Europe/Dublin was at UTC+1 that day. */
    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    dd/MM/uuuu HH:mm | 12/10/2026 11:58 | 2026-10-12T10:58:00Z
                    d MMM uuuu | 12 Oct 2026 | 2026-10-11T23:00:00Z
                    seconds | 1791799082 | 2026-10-12T09:58:02Z
                    milliseconds | 1791799082000 | 2026-10-12T09:58:02Z""")
    void timesInOtherFormsAreReadInTheZoneThatIsSaid(String format, String text, String expected) {
        var matching = SHOP.replace(
                "\"$.at\"}",
                "\"$.at\", \"steps\": [{\"do\": \"date\", \"format\": \"%s\", \"zone\": \"Europe/Dublin\"}]}"
                        .formatted(format));
        var matched = match(matching, REPORT.replace("2026-10-12T11:58:02+02:00", text));
        assertThat(matched.faults()).isEmpty();
        assertThat(FactReader.read(matched.events().getFirst()).time()).isEqualTo(Instant.parse(expected));
    }

    @Test
    void aNameIsSplitIntoItsFirstWordAndTheOthers() {
        assertThat(List.of(new Step.Word(true), new Step.Word(false)))
                .extracting(step -> step.apply("Petra van der Berg", null))
                .containsExactly("Petra", "van der Berg");
        assertThat(new Step.Word(false).apply("Petra", null)).isEmpty();
    }

    private static Matched match(String matching, String report) {
        return new Matcher(read(matching), "/systems/shop").read(report, "r-1", NOW);
    }

    private static Matching read(String document) {
        return Matching.read(JsonMapper.shared().readTree(document));
    }
}
