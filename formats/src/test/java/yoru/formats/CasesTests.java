package yoru.formats;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.TestFactory;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.ledger.Ledger;

/** Worked cases: a rulebook and a ledger in, the expected rows out. */
class CasesTests {

    @TestFactory
    Stream<DynamicTest> cases() throws Exception {
        var folder = Path.of(getClass().getResource("/cases").toURI());
        var cases = Files.list(folder).sorted().toList();
        assertThat(cases).hasSize(5);
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
        var rows = new Engine(rulebook)
                .evaluate(Ledger.of(facts), asOf).access().stream().map(CasesTests::row);
        assertThat(Stream.concat(Stream.of("person,target,start,end,state"), rows))
                .containsExactlyElementsOf(Files.readAllLines(folder.resolve("expected.csv")));
    }

    private static String row(Access access) {
        return String.join(
                ",",
                access.person(),
                access.target().path(),
                access.window().start().truncatedTo(ChronoUnit.SECONDS).toString(),
                access.window()
                        .end()
                        .map(end -> end.truncatedTo(ChronoUnit.SECONDS).toString())
                        .orElse(""),
                Fields.word(access.state()));
    }
}
