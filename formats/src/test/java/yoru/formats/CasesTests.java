package yoru.formats;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.TestFactory;
import yoru.core.access.Engine;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.Warning;

/** Worked cases: a rulebook and a ledger in, the expected rows out. */
class CasesTests {

    @TestFactory
    Stream<DynamicTest> cases() throws Exception {
        return in("/cases", 38);
    }

    /** What the cases leave open, each derived by hand from the rules in docs/engine.md. */
    @TestFactory
    Stream<DynamicTest> ourOwn() throws Exception {
        return in("/our-cases", 16);
    }

    private Stream<DynamicTest> in(String place, int count) throws Exception {
        var folder = Path.of(getClass().getResource(place).toURI());
        var cases = Files.list(folder).sorted().toList();
        assertThat(cases).hasSize(count);
        return cases.stream()
                .map(one -> DynamicTest.dynamicTest(one.getFileName().toString(), () -> check(one)));
    }

    private static void check(Path folder) throws IOException {
        var rulebook = RulebookDocument.read(Files.readString(folder.resolve("rulebook.yaml")));
        var facts = Files.readAllLines(folder.resolve("ledger.jsonl")).stream()
                .filter(line -> !line.isBlank())
                .map(line -> FactReader.read(line.getBytes(StandardCharsets.UTF_8)))
                .toList();
        var asOf = Instant.parse(Files.readString(folder.resolve("as-of.txt")).strip());
        var evaluation = new Engine(rulebook).evaluate(Ledger.of(facts), asOf);
        var rows = evaluation.access().stream().map(AccessCsv::row).collect(Collectors.joining());
        assertThat(AccessCsv.HEADER + rows).isEqualTo(Files.readString(folder.resolve("expected.csv")));
        if (Files.exists(folder.resolve("expected-warning.txt"))) {
            assertThat(evaluation.warnings())
                    .extracting(Warning::sentence)
                    .containsExactly("fact shop/f2 was told twice with other content; the first counts");
        }
    }
}
