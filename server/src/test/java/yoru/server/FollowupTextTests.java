package yoru.server;

import static org.assertj.core.api.Assertions.assertThat;

import com.samskivert.mustache.Mustache;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.followup.Followups;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Ledger;
import yoru.formats.FactReader;
import yoru.formats.RulebookDocument;

/** Texts of follow-ups beside jmustache, which fills plain names as mustache(5) has it, with nothing escaped. */
class FollowupTextTests {

    private static final List<String> PIECES = List.of(
            "Hello ",
            "{{person.name}}",
            "{{ person.address }}",
            "{{thing.title}}",
            "{{  thing.title}}",
            "{{order}}",
            "{{until}}",
            "& <b>“1 < 2”</b> \"quoted\" $1 \\1",
            "\n\n",
            "{ single }",
            "é, ü and 蜜");

    static LongStream seeds() {
        return LongStream.range(0, 40);
    }

    @ParameterizedTest(name = "seed {0}")
    @MethodSource("seeds")
    void aTextIsFilledAsMustacheFillsIt(long seed) {
        var random = new Random(seed);
        var text = "x"
                + IntStream.range(0, 1 + random.nextInt(9))
                        .mapToObj(piece -> PIECES.get(random.nextInt(PIECES.size())))
                        .collect(Collectors.joining());
        var rulebook = RulebookDocument.read("""
                {"yoru": "rulebook/1", "school": {"zone": "Europe/Dublin", "currency": "EUR"},
                 "products": [{"id": "A", "title": "Queens & <Kings>"}], "links": [],
                 "followups": [{"id": "f", "when": {"paid": {}}, "each": "line", "steps": [{"tell": {"text": %s}}]}]}""".formatted(JsonMapper.shared().writeValueAsString(text)));
        var placed = fact("placed", """
                {"order": "7&8", "channel": "shop", "currency": "EUR", "lines": [{"line": "1", "product": "A", "amount": "5.00"}]}""");
        var done = new Followups(rulebook)
                .until(
                        Ledger.of(List.of(placed, fact("paid", "{\"order\": \"7&8\"}"))),
                        Instant.parse("2026-02-01T00:00:00Z"));
        var expected = Mustache.compiler()
                .escapeHTML(false)
                .compile(text)
                .execute(Map.of(
                        "person",
                        Map.of("name", "ann@post.example", "address", "ann@post.example"),
                        "thing",
                        Map.of("title", "Queens & <Kings>"),
                        "order",
                        "7&8",
                        "until",
                        ""));
        assertThat(done.rows())
                .singleElement()
                .satisfies(row -> assertThat(row.does()).isEqualTo("tell " + expected));
    }

    private static Fact fact(String what, String data) {
        return FactReader.read("""
                {"specversion": "1.0", "id": "%s", "source": "/shop", "type": "yoru.order.%s", "subject": "ann@post.example",
                 "time": "2026-01-01T10:00:00Z", "data": %s}""".formatted(what, what, data).getBytes(StandardCharsets.UTF_8));
    }
}
