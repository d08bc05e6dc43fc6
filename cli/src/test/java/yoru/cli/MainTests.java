package yoru.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.StringReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.World;
import yoru.core.access.Engine;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Ledger;
import yoru.formats.AccessCsv;
import yoru.formats.FactWriter;
import yoru.formats.RulebookDocument;

/** The commands as somebody at a terminal has them: arguments and files in, text and an exit code out. */
class MainTests {

    private static final String RULEBOOK = """
            yoru: rulebook/1
            school: { zone: Europe/Dublin, currency: EUR }
            courses: [ { id: queen-rearing } ]
            products: [ { id: QUEEN } ]
            links: [ { id: L1, from: { product: QUEEN }, to: [ { course: queen-rearing } ] } ]
            """;

    @TempDir
    Path folder;

    private record Run(int code, String out, String err) {}

    private static Run run(String in, String... args) {
        var out = new ByteArrayOutputStream();
        var err = new ByteArrayOutputStream();
        int code = Main.run(new ByteArrayInputStream(in.getBytes(StandardCharsets.UTF_8)), out, err, args);
        return new Run(code, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
    }

    private String file(String name, String text) throws IOException {
        return Files.writeString(folder.resolve(name), text).toString();
    }

    private Run evaluate(String ledger, String... more) throws IOException {
        var args = new ArrayList<>(List.of(
                "evaluate",
                "--rulebook",
                file("R.yaml", RULEBOOK),
                "--ledger",
                file("L.jsonl", ledger),
                "--as-of",
                "2026-01-01T00:00:00Z"));
        args.addAll(List.of(more));
        return run("", args.toArray(String[]::new));
    }

    private static String event(int id, String type, String person, String time, String data) {
        return """
                {"specversion":"1.0","id":"%d","source":"shop","type":"yoru.%s","subject":%s,"time":"%s","data":%s}
                """.formatted(id, type, JsonMapper.shared().writeValueAsString(person), time, data);
    }

    private static String bought(int id, String person, String order, String amount) {
        var data = """
                {"order":"%s","channel":"shop","currency":"EUR","lines":[{"line":"1","product":"QUEEN","amount":"%s"}]}""".formatted(order, amount);
        return event(id, "order.placed", person, "2025-03-01T10:00:00Z", data)
                + event(id + 1, "order.paid", person, "2025-03-01T10:00:00.999Z", "{\"order\":\"" + order + "\"}");
    }

    @TestFactory
    Stream<DynamicTest> everyCase() throws Exception {
        var cases = Path.of(getClass().getResource("/cases").toURI());
        return Files.list(cases)
                .sorted()
                .map(one -> DynamicTest.dynamicTest(one.getFileName().toString(), () -> {
                    var asOf = Files.readString(one.resolve("as-of.txt")).strip();
                    var rulebook = one.resolve("rulebook.yaml").toString();
                    var ledger = one.resolve("ledger.jsonl");
                    var run = run(
                            Files.readString(ledger),
                            "evaluate",
                            "--rulebook",
                            rulebook,
                            "--ledger",
                            "-",
                            "--as-of",
                            asOf);
                    assertThat(run.code).isZero();
                    assertThat(run.out).isEqualTo(Files.readString(one.resolve("expected.csv")));
                    var reasons = run(
                            "",
                            "evaluate",
                            "--rulebook",
                            rulebook,
                            "--ledger",
                            ledger.toString(),
                            "--as-of",
                            asOf,
                            "--reasons");
                    assertThat(reasons.out.lines().map(MainTests::rowOfReasons))
                            .containsExactlyElementsOf(run.out.lines().skip(1).toList());
                }));
    }

    @TestFactory
    Stream<DynamicTest> everyCaseOfFollowups() throws Exception {
        var cases = Path.of(getClass().getResource("/cases-followups").toURI());
        return Files.list(cases)
                .sorted()
                .map(one -> DynamicTest.dynamicTest(one.getFileName().toString(), () -> {
                    var run = run(
                            Files.readString(one.resolve("ledger.jsonl")),
                            "followups",
                            "--rulebook",
                            one.resolve("rulebook.yaml").toString(),
                            "--ledger",
                            "-",
                            "--as-of",
                            Files.readString(one.resolve("as-of.txt")).strip());
                    if (Files.exists(one.resolve("expected-exit.txt"))) {
                        assertThat(run.code).isEqualTo(2);
                        assertThat(run.err).contains("followups");
                    } else {
                        assertThat(run.code).as(run.err).isZero();
                        assertThat(run.out).isEqualTo(Files.readString(one.resolve("expected.csv")));
                    }
                }));
    }

    /** What a step gave opens what the links of it open, and only where it is asked for. */
    @Test
    void whatFollowUpsGiveIsCountedWhereThatIsWanted() throws Exception {
        var one = Path.of(getClass()
                .getResource("/cases-followups/14-chain-in-one-instant")
                .toURI());
        var args = List.of(
                "evaluate",
                "--rulebook",
                one.resolve("rulebook.yaml").toString(),
                "--ledger",
                one.resolve("ledger.jsonl").toString(),
                "--as-of",
                "2025-03-02T00:00:00Z");
        assertThat(run("", args.toArray(String[]::new)).out).doesNotContain("tag/guest");
        var more = new ArrayList<>(args);
        more.add("--with-followups");
        assertThat(run("", more.toArray(String[]::new)).out)
                .contains(
                        "ada@hollow-oak.example,course/swarm-calm,2025-03-01T10:00:00Z,,open",
                        "ada@hollow-oak.example,download/grafting-chart,2025-03-01T10:00:00Z,,open",
                        "ada@hollow-oak.example,level/keeper,2025-03-01T10:00:00Z,,open",
                        "ada@hollow-oak.example,tag/guest,2025-03-01T10:00:00Z,,open");
    }

    private static String rowOfReasons(String line) {
        var node = JsonMapper.shared().readTree(line);
        assertThat(node.path("entitlements").size()).isPositive();
        return String.join(
                ",",
                node.path("person").stringValue(),
                node.path("target").stringValue(),
                node.path("start").stringValue(),
                node.path("end").asString(""),
                node.path("state").stringValue());
    }

    /** RFC 4180, section 2, rules 5 to 7; Apache Commons CSV 1.14 reads what is written. */
    @Test
    void anyUnicodeInAKeyIsQuotedAndReadAgain() throws IOException {
        var people = List.of("a,b", "say \"bee\"", "two\nlines", "tab\there", "zoë", "\uFF5E", "\uD83D\uDC1D", "=1+1");
        var ledger = IntStream.range(0, people.size())
                .mapToObj(at -> bought(at * 2, people.get(at), "O" + at, "1.00"))
                .collect(Collectors.joining());
        var run = evaluate(ledger);
        assertThat(run.code).isZero();
        var read = CSVFormat.RFC4180
                .builder()
                .setHeader()
                .setSkipHeaderRecord(true)
                .get()
                .parse(new StringReader(run.out))
                .getRecords();
        assertThat(read).extracting((CSVRecord row) -> row.get("person")).containsExactlyInAnyOrderElementsOf(people);
        assertThat(read.getLast().get("person"))
                .as("by code point, not by UTF-16 unit")
                .isEqualTo("\uD83D\uDC1D");
        assertThat(read.getFirst().get("start")).as("cut off, not rounded").isEqualTo("2025-03-01T10:00:00Z");
        assertThat(run.out).doesNotContain("\r");
    }

    @Test
    void faultsOfAllFilesAreToldAtOnceEachOnALine() throws IOException {
        var ledger = bought(1, "ada", "O1", "1.00") + "\n{\"a\":\n" + bought(3, "ben", "O2", "-1.00")
                + event(9, "gift.claimed", "cleo", "yesterday", "{\"order\":\"O1\",\"line\":\"1\",\"seat\":0}");
        var broken = file("broken.yaml", RULEBOOK.replace("QUEEN }, to", "QUEN }, to"));
        var run = run(
                "",
                "evaluate",
                "--rulebook",
                broken,
                "--ledger",
                file("L.jsonl", ledger),
                "--as-of",
                "2026-01-01T00:00:00Z");
        var ledgerName = folder.resolve("L.jsonl");
        assertThat(run.code).isEqualTo(2);
        assertThat(run.out).isEmpty();
        assertThat(run.err.lines().map(line -> line.replace(folder + "/", "")))
                .containsExactly(
                        "broken.yaml, links[0].from.product: no product `QUEN`; did you mean `QUEEN`?",
                        "L.jsonl, line 4: the body is not JSON: Unexpected end-of-input within/between Object entries",
                        "L.jsonl, line 5: data.lines[0].amount: must not be negative",
                        "L.jsonl, line 7: time: must be a time with its offset, such as 2026-03-01T10:00:00Z",
                        "L.jsonl, line 7: data.seat: must be a whole number from 1 on");
        assertThat(ledgerName).exists();
    }

    @Test
    void whatIsMissingOrNotUnderstoodIsTwo() throws IOException {
        assertThat(run("", "evaluate", "--rulebook", "no.yaml", "--ledger", "-", "--as-of", "2026-01-01T00:00:00Z"))
                .isEqualTo(new Run(2, "", "no.yaml: there is no such file\n"));
        assertThat(evaluate("", "--as-of", "soon").code).isEqualTo(2);
        assertThat(run("", "evaluate", "--rulebook", file("R.yaml", RULEBOOK), "--ledger", "-", "--as-of", "2026-01-01")
                        .err)
                .contains("--as-of: `2026-01-01` is no time with its offset");
        assertThat(run("", "evaluate", "--rulebook", "-", "--ledger", "-", "--as-of", "2026-01-01T00:00:00Z").code)
                .isEqualTo(2);
        assertThat(run("", "evaluate").code).isEqualTo(2);
        assertThat(run("", "dance").code).isEqualTo(2);
    }

    @Test
    void anEmptyLedgerHasNoRows() throws IOException {
        assertThat(evaluate("")).isEqualTo(new Run(0, AccessCsv.HEADER, ""));
    }

    @Test
    void unknownTypesAndWhatNobodyPlacedAreWarnedOf() throws IOException {
        var run = evaluate(event(1, "hive.danced", "ada", "2025-01-01T10:00:00Z", "{}")
                + event(2, "order.paid", "ada", "2025-01-01T10:00:00Z", "{\"order\":\"O9\"}"));
        assertThat(run.code).isZero();
        assertThat(run.out).isEqualTo(AccessCsv.HEADER);
        assertThat(run.err.lines())
                .containsExactly(
                        "warning: fact shop/1 is of the type yoru.hive.danced, which is not known",
                        "warning: fact shop/2 names order O9, which was never placed");
    }

    @Test
    void impactSaysWhatAnotherRulebookChanges() throws IOException {
        var year = file(
                "year.yaml", RULEBOOK.replace("queen-rearing } ] }", "queen-rearing } ], terms: { length: P2Y } }"));
        var run = evaluate(bought(1, "ada", "O1", "1.00"), "--impact", year);
        assertThat(run.out).isEqualTo("""
                person,target,change,when,before,after
                ada,course/queen-rearing,shorter,later,2025-03-01T10:00:00Z/..,2025-03-01T10:00:00Z/2027-03-01T10:00:00Z
                """);
        var reasons = evaluate(bought(1, "ada", "O1", "1.00"), "--impact", year, "--reasons");
        assertThat(JsonMapper.shared()
                        .readTree(reasons.out)
                        .at("/after/0/entitlements/0/reason/link")
                        .asString())
                .isEqualTo("L1");
    }

    /** However a ledger is parted, and in whatever order it comes, the rows are those of the whole. */
    @Test
    void partsGiveTheRowsOfTheWhole() throws IOException {
        for (long seed = 0; seed < 60; seed++) {
            var world = World.of(seed);
            var lines = world.facts().stream()
                    .map(FactWriter::write)
                    .collect(Collectors.joining("\n"))
                    .getBytes(StandardCharsets.UTF_8);
            var engine = new Engine(world.rulebook());
            var whole = engine.evaluate(Ledger.of(world.facts()), World.END).access().stream()
                    .map(AccessCsv::row)
                    .collect(Collectors.joining());
            var out = new ByteArrayOutputStream();
            int facts = 0;
            try (var ledger = LedgerFile.read("L", new ByteArrayInputStream(lines), 7);
                    var rows = new Rows()) {
                for (Ledger part : ledger.parts().toList()) {
                    facts += part.facts().size();
                    rows.add(engine.evaluate(part, World.END).access().stream()
                            .map(one -> new Rows.Row(one.person(), AccessCsv.row(one)))
                            .toList());
                }
                rows.writeTo(out);
            }
            assertThat(facts).isEqualTo(world.facts().size());
            assertThat(out.toString(StandardCharsets.UTF_8)).as("seed %d", seed).isEqualTo(whole);
        }
    }

    /** CloudEvents 1.0.2 written by its SDK 4.0.1 are read as the facts that they were. */
    @Test
    void factsWrittenAreTheFactsRead() throws IOException {
        for (long seed = 0; seed < 100; seed++) {
            List<Fact> facts = World.of(seed).facts();
            var lines = facts.stream().map(FactWriter::write).collect(Collectors.joining("\n"));
            try (var ledger = LedgerFile.read("L", new ByteArrayInputStream(lines.getBytes(StandardCharsets.UTF_8)))) {
                assertThat(ledger.parts().flatMap(part -> part.facts().stream()))
                        .containsExactlyInAnyOrderElementsOf(facts);
            }
        }
    }

    @Test
    void diffSaysWhatTheSecondDoesOtherwise() throws IOException {
        var before = file("R.yaml", RULEBOOK);
        assertThat(run("", "rulebook", "diff", before, before)).satisfies(same -> {
            assertThat(same.code).isZero();
            assertThat(same.out).isEmpty();
        });
        var other = run(
                RULEBOOK.replace("currency: EUR", "currency: SEK").replace("id: L1", "id: L9"),
                "rulebook",
                "diff",
                before,
                "-");
        assertThat(other.code).isEqualTo(1);
        assertThat(other.out.lines())
                .anySatisfy(line -> assertThat(line).startsWith("QUEEN opens "))
                .anySatisfy(line -> assertThat(line).startsWith("QUEEN no longer opens "))
                .contains("In the school the currency is SEK (was EUR)");
        assertThat(run("", "rulebook", "diff", before, "nowhere.yaml").code).isNotZero();
    }

    @Test
    void checkSaysWhatIsWrongAndWhatLooksUnfinished() throws IOException {
        var fine = run("", "check", file("R.yaml", RULEBOOK));
        assertThat(fine.code).isZero();
        assertThat(fine.out).contains("no faults; 1 products, 1 courses");
        var unfinished =
                RULEBOOK.replace("{ product: QUEEN }, to: [ {", "{ category: wax }, to: [ { category: starter }, {");
        assertThat(run(unfinished, "check", "-").out.lines().skip(1))
                .containsExactly(
                        "finding: link/L1: Category wax covers nothing. It opens all of starter, queen-rearing, and no product is in it. See whether the category has another name now.",
                        "finding: link/L1: Category starter covers nothing. It is opened by anything of wax, and no course is in it. See whether the category has another name now.",
                        "finding: product/QUEEN: QUEEN opens nothing yet. Nobody has ordered it so far. Map it to what it should open, or take it from sale.");
        var cycle = RULEBOOK + """
                  - { id: L2, from: { tag: a }, to: [ { tag: a } ] }
                tags: [ { id: a } ]
                """;
        assertThat(run(cycle.replace("links: [ {", "links:\n  - {").replace("} ] } ]\n", "} ] }\n"), "check", "-"))
                .satisfies(run -> assertThat(run.code).isEqualTo(2))
                .satisfies(run ->
                        assertThat(run.err).contains("standard input, links: the tag a leads to the tag a again"));
        assertThat(RulebookDocument.read(RULEBOOK).links()).hasSize(1);
    }
}
