package yoru.formats;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yoru.core.access.Engine;
import yoru.core.ledger.Ledger;

/**
 * The pictures in docs/engine.md are what the engine computes now. With YORU_WRITE_PICTURES=yes they are drawn anew
 * instead.
 */
class WindowPicturesTests {

    @ParameterizedTest
    @ValueSource(
            strings = {
                "02-two-reasons",
                "04-extend",
                "06-refund-in-a-chain",
                "07-instalments",
                "20-ladders",
                "21-allowance-shrinks-and-grows",
                "22-subscription-lapse",
                "25-run-out-and-take-back",
                "35-reasons-behind-a-tag"
            })
    void arePublishedAsTheEngineComputesThem(String name) throws Exception {
        var folder = Path.of(getClass().getResource("/cases/" + name).toURI());
        var rulebook = RulebookDocument.read(Files.readString(folder.resolve("rulebook.yaml")));
        var facts = Files.readAllLines(folder.resolve("ledger.jsonl")).stream()
                .map(line -> FactReader.read(line.getBytes(StandardCharsets.UTF_8)))
                .toList();
        var asOf = Instant.parse(Files.readString(folder.resolve("as-of.txt")).strip());
        var access = new Engine(rulebook).evaluate(Ledger.of(facts), asOf).access();
        var title = Files.readAllLines(folder.resolve("why.md")).getFirst();
        var drawn = WindowPicture.draw(title, rulebook, facts, access, asOf);
        var published = Path.of("../docs/windows", name + ".svg");
        if ("yes".equals(System.getenv("YORU_WRITE_PICTURES"))) {
            Files.writeString(published, drawn);
        }
        assertThat(drawn).isEqualTo(Files.readString(published));
    }
}
