package yoru.formats;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.access.TermsInWords;

/** Terms are said as docs/formats/terms-in-words.json has it; the browser is tested against the same file. */
class TermsInWordsTests {

    private static final Path CASES = Path.of("..", "docs", "formats", "terms-in-words.json");

    static Stream<JsonNode> cases() {
        return JsonMapper.shared().readTree(CASES.toFile()).path("cases").valueStream();
    }

    @ParameterizedTest
    @MethodSource("cases")
    void areSaidAsTheFileHasIt(JsonNode one) {
        var rulebook = RulebookDocument.read("""
                yoru: rulebook/1
                school: { zone: Europe/Dublin, currency: EUR }
                courses: [ { id: hive } ]
                products: [ { id: product }, { id: subscription, billing: { kind: recurring, every: P1M } } ]
                levels: [ { id: level } ]
                tags: [ { id: tag } ]
                links: [ %s ]
                """.formatted(link(one)));
        assertThat(TermsInWords.of(rulebook.links().getFirst(), rulebook))
                .isEqualTo(one.path("words").asString());
    }

    private static ObjectNode link(JsonNode one) {
        var from = one.path("from").asString();
        var link = JsonMapper.shared().createObjectNode().put("id", "L1");
        link.putObject("from").put(from.equals("subscription") ? "product" : from, from);
        link.putArray("to").addObject().put("course", "hive");
        link.set("terms", one.path("terms"));
        if (one.has("applies")) {
            link.set("applies", one.path("applies"));
        }
        return link;
    }
}
