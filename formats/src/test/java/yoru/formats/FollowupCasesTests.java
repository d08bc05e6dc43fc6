package yoru.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.TestFactory;
import yoru.core.followup.Followups;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Rulebook;

/** Worked cases of follow-ups: a rulebook and a ledger in, the expected rows out, or the refusal. */
class FollowupCasesTests {

    @TestFactory
    Stream<DynamicTest> cases() throws Exception {
        var folder = Path.of(getClass().getResource("/cases-followups").toURI());
        var cases = Files.list(folder).sorted().toList();
        assertThat(cases).hasSize(26);
        return cases.stream()
                .map(one -> DynamicTest.dynamicTest(one.getFileName().toString(), () -> check(one)));
    }

    private static void check(Path folder) throws IOException {
        var document = Files.readString(folder.resolve("rulebook.yaml"));
        if (Files.exists(folder.resolve("expected-exit.txt"))) {
            assertThatThrownBy(() -> RulebookDocument.read(document))
                    .isInstanceOf(UnreadableException.class)
                    .hasMessageContaining("followups");
            return;
        }
        var rulebook = RulebookDocument.read(document);
        var facts = Files.readAllLines(folder.resolve("ledger.jsonl")).stream()
                .filter(line -> !line.isBlank())
                .map(line -> FactReader.read(line.getBytes(StandardCharsets.UTF_8)))
                .toList();
        var asOf = Instant.parse(Files.readString(folder.resolve("as-of.txt")).strip());
        var expected = Files.readString(folder.resolve("expected.csv"));
        assertThat(rows(rulebook, facts, asOf)).isEqualTo(expected);
        assertThat(rows(rulebook, mixed(facts), asOf))
                .as("in any order, some twice")
                .isEqualTo(expected);
        var again = RulebookDocument.read(RulebookDocument.yaml(rulebook));
        assertThat(again).as("written and read").isEqualTo(rulebook);
        assertThat(facts.stream()
                        .map(fact -> FactReader.read(FactWriter.write(fact).getBytes(StandardCharsets.UTF_8)))
                        .toList())
                .as("facts written and read")
                .isEqualTo(facts);
    }

    private static String rows(Rulebook rulebook, List<Fact> facts, Instant asOf) {
        return FollowupsCsv.HEADER
                + new Followups(rulebook)
                        .until(Ledger.of(facts), asOf).rows().stream()
                                .map(FollowupsCsv::row)
                                .collect(Collectors.joining());
    }

    private static List<Fact> mixed(List<Fact> facts) {
        var mixed = new ArrayList<>(facts);
        mixed.addAll(facts.subList(0, facts.size() / 2));
        Collections.shuffle(mixed, new Random(7));
        return mixed;
    }
}
