package yoru.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.json.JsonMapper;
import yoru.formats.StoryDocument;

/** {@code yoru rehearse} as somebody at a terminal has it: the stories that ship, and what is wrong with others. */
class RehearseTests {

    private static final Path SHIPPED = Path.of("..", "docs", "rehearsals");
    private static final Path SCHOOL = SHIPPED.resolve("hollow-oak.yaml");
    private static final int UNUSABLE = 2;

    @TempDir
    Path folder;

    private record Run(int code, String out, String err) {}

    private static Run run(String... args) {
        var out = new ByteArrayOutputStream();
        var err = new ByteArrayOutputStream();
        int code = Main.run(new ByteArrayInputStream(new byte[0]), out, err, args);
        return new Run(code, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
    }

    private Run rehearse(List<String> stories, String... more) {
        var args = new ArrayList<>(List.of("rehearse", "--rulebook", SCHOOL.toString()));
        for (int at = 0; at < stories.size(); at++) {
            args.add(file(at + ".yaml", stories.get(at)));
        }
        args.addAll(List.of(more));
        return run(args.toArray(String[]::new));
    }

    private String file(String name, String text) {
        try {
            return Files.writeString(folder.resolve(name), text).toString();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static List<Path> shipped() throws IOException {
        try (var files = Files.list(SHIPPED)) {
            return files.filter(file -> !file.equals(SCHOOL)).sorted().toList();
        }
    }

    private static String story(String steps) {
        return """
                yoru: story/1
                id: trial
                starts: 2030-03-04T09:00
                people: [ { id: ines, name: Ines Vale }, { id: odd } ]
                steps:
                """ + steps.indent(2);
    }

    @TestFactory
    Stream<DynamicTest> everyStoryThatShipsIsAsExpected() throws IOException {
        assertThat(shipped()).hasSize(10);
        return shipped().stream()
                .map(file -> DynamicTest.dynamicTest(file.getFileName().toString(), () -> {
                    var run = run("rehearse", file.toString(), "--rulebook", SCHOOL.toString());
                    assertThat(run.out).doesNotContain("NOT as expected").contains("1 story as expected");
                    assertThat(run.err).isEmpty();
                    assertThat(run.code).isZero();
                }));
    }

    @TestFactory
    Stream<DynamicTest> aStoryWrittenIsTheStoryRead() throws IOException {
        return shipped().stream()
                .map(file -> DynamicTest.dynamicTest(file.getFileName().toString(), () -> {
                    var script = StoryDocument.read(Files.readString(file));
                    assertThat(StoryDocument.read(StoryDocument.yaml(script))).isEqualTo(script);
                    assertThat(StoryDocument.read(StoryDocument.write(script))).isEqualTo(script);
                }));
    }

    @Test
    void whatIsNotAsExpectedIsSaidWithItsReasonAndTheHighestCodeCounts() {
        var right =
                story("- { buys: { lines: [ { product: HONEY } ] } }\n- expect: { open: [ course/honey-harvest ] }");
        var wrong = story("""
                - { buys: { lines: [ { product: HONEY } ], pays: later } }
                - expect: { open: [ course/honey-harvest ], done: [ "give tag/first-timer" ] }
                - { after: PT1H, pays: { } }
                - expect:
                    closed: [ course/honey-harvest ]
                    until: { course/honey-harvest: 2031-03-04 }
                    told: { community: { open: [ course/honey-harvest ] } }
                    not-done: [ "give tag/first-timer" ]
                """);
        var run = rehearse(List.of(right, wrong));
        assertThat(run.code).isEqualTo(1);
        assertThat(run.out)
                .contains("as expected: course/honey-harvest is open")
                .contains("NOT as expected: course/honey-harvest should be open, is closed: "
                        + "Order o0001, line 1: Honey Harvest is not paid yet.")
                .contains("NOT as expected: `give tag/first-timer` should be done, was not: nothing was done")
                .contains("NOT as expected: course/honey-harvest should be closed, is open: order o0001, always")
                .contains("NOT as expected: course/honey-harvest should be open until 4 Mar 2031, "
                        + "is open without an end: order o0001, always")
                .contains("NOT as expected: community should hold course/honey-harvest, does not: "
                        + "community is not told of it")
                .contains("NOT as expected: `give tag/first-timer` should not be done, was, on 4 Mar 2030")
                .contains("1 story as expected, 1 NOT");
        var both = rehearse(List.of(wrong, "yoru: story/2", right), "--json");
        assertThat(both.code).isEqualTo(UNUSABLE);
        assertThat(both.out
                        .lines()
                        .map(line ->
                                JsonMapper.shared().readTree(line).path("holds").asBoolean()))
                .containsExactly(false, true);
        assertThat(both.err.lines()).anyMatch(line -> line.contains("1.yaml, yoru: must be story/1"));
    }

    @Test
    void withGuestsHeldAnOrderWaitsUntilItIsLetIn() {
        var systems = file("S.yaml", """
                yoru: systems/1
                school: Hollow Oak
                systems:
                  - { id: shop, kind: shop, checkout: { guests: false }, sells: [ { product: QUEEN-SELF, price: "240.00" } ] }
                  - { id: barn, kind: classroom, lists: { courses: [ queen-rearing ] } }
                policies: { guests: hold }
                """);
        var run = rehearse(List.of(story("""
                - { buys: { lines: [ { product: QUEEN-SELF }, { product: HONEY } ], as: guest } }
                - expect: { exactly: [ ] }
                - { after: P1D, let-in: { } }
                - expect:
                    open: [ course/queen-rearing ]
                    until: { course/queen-rearing: 2031-03-04 }
                    told:
                      barn: { open: [ course/queen-rearing ], closed: [ course/honey-harvest ] }
                      classroom: { open: [ course/queen-rearing ], closed: [ course/honey-harvest ] }
                - { after: P1D, buys: { lines: [ { product: SKEP } ], as: guest } }
                - expect: { open: [ course/skep-weaving ] }
                """)), "--systems", systems, "--json");
        assertThat(run.err).isEmpty();
        assertThat(run.code).as(run.out).isZero();
        var steps = JsonMapper.shared().readTree(run.out).get("steps");
        assertThat(steps.get(0).get("remarks").valueStream().map(it -> it.asString()))
                .anyMatch(it -> it.contains("without an account"))
                .anyMatch(it -> it.contains("waits"));
        var placed = steps.get(2).get("facts").get(0);
        assertThat(placed.at("/data/guest").asBoolean()).isTrue();
        assertThat(placed.at("/data/lines/0/amount").asString()).isEqualTo("240.00");
        assertThat(placed.at("/data/lines/1/amount").asString()).isEqualTo("100.00");
        assertThat(placed.get("time").asString()).isEqualTo("2030-03-04T09:00:00Z");
        assertThat(placed.get("id").asString()).isEqualTo("0001/1");
    }

    /** What is written, and what is said of it. */
    @TestFactory
    Stream<DynamicTest> everyFaultNamesItsPlace() {
        var many = IntStream.range(0, 10_000).mapToObj(it -> "- { after: P1D }").collect(Collectors.joining("\n"));
        return Stream.of(
                        fault(
                                story(many),
                                "steps: a story has at most 500 steps, with those before it; these are 10000"),
                        fault(
                                story("- { }").replace("2030-03-04T09:00", "1969-12-31T09:00"),
                                "starts: must be a time of the years 1970 to 9999"),
                        fault(
                                story("- { buys: { lines: [ { product: HONY } ] } }"),
                                "steps[0].buys.lines[0].product: there is no product `HONY`; did you mean `HONEY`?"),
                        fault(
                                story("- { who: odd, joins: { person: odd } }"),
                                "steps[0].joins.person: `odd` cannot be joined into themselves"),
                        fault(story("- { who: odd, claims: { } }"), "steps[0].claims: there is no order by then"),
                        fault(
                                story("- { buys: { lines: [ { product: CLUB } ] } }\n- { who: odd, claims: { } }"),
                                "steps[1].claims: order o0001 has no seat or gift that is free"),
                        fault(
                                story(
                                        "- { buys: { lines: [ { product: CLUB } ] } }\n- { who: odd, claims: { seat: 2 } }"),
                                "steps[1].claims: order o0001 has no seat 2 to claim"),
                        fault(
                                story("- { pays: { order: 2 } }"),
                                "steps[0].pays.order: there is no order 2 by then; the story has 0 so far"),
                        fault(story("- { renews: { } }"), "steps[0].renews: there is no subscription by then"),
                        fault(
                                story("- { is-ended: { grant: 1 } }"),
                                "steps[0].is-ended.grant: there is no grant 1 by then; the story has 0 so far"),
                        fault(
                                story("- { subscribes: { product: HONEY } }"),
                                "steps[0].subscribes.product: `HONEY` is not paid again and again"),
                        fault(
                                story("- { buys: { lines: [ { product: HONEY } ], pays: in-parts } }"),
                                "steps[0].buys.pays: nothing of the order is sold in instalments"),
                        fault(
                                story("- { on: 2030-03-04T08:00 }"),
                                "steps[0].on: goes back: the step before it is at 2030-03-04T09:00"),
                        fault(story("- { after: P9999Y }"), "steps[0].after: leads past the year 9999"),
                        fault(
                                story("- { after: a day }"),
                                "steps[0].after: must be an ISO 8601 period such as P6M, P1D or PT10M"),
                        fault(
                                story("- { after: P1D, on: 2030-04-04T09:00 }"),
                                "steps[0]: must be a step with `after` or `on`, not both"),
                        fault(
                                story("- { pays: { }, fulfils: { } }"),
                                "steps[0]: must be a step with one of buys, pays"),
                        fault(
                                story("- { byus: { lines: [ ] } }"),
                                "steps[0].byus: is not known here; did you mean `buys`?"),
                        fault(
                                story("- { who: eve, gets-tag: { tag: first-timer } }"),
                                "steps[0].who: there is no person `eve`"),
                        fault(
                                story("- { gets-tag: { tag: first-timr } }"),
                                "steps[0].gets-tag.tag: there is no tag `first-timr`; did you mean `first-timer`?"),
                        fault(
                                story("- expect: { open: [ course/queen-raring ] }"),
                                "steps[0].expect.open[0]: there is no course `course/queen-raring`; did you mean `course/queen-rearing`?"),
                        fault(
                                story("- expect: { told: { barn: { } } }"),
                                "steps[0].expect.told.barn: there is no system `barn`"),
                        fault(story("- expect: { who: eve }"), "steps[0].expect.who: there is no person `eve`"),
                        fault(story("- { who: odd, expect: { } }"), "steps[0].who: belongs inside `expect`"),
                        fault(
                                story("- expect: { until: { course/queen-rearing: soon } }"),
                                "steps[0].expect.until.course/queen-rearing: must be a day such as 2027-03-02, a local date and time, or never"),
                        fault(
                                story("- expect: { done: [ \"gives tag/x\" ] }"),
                                "steps[0].expect.done[0]: must begin with what is done: give, end, take, set, write, tell; did you mean `give`?"),
                        fault(
                                story("- { buys: { lines: [ { product: HONEY, amount: -1 } ] } }"),
                                "steps[0].buys.lines[0].amount: must be a decimal in text, not negative, such as \"20.00\""),
                        fault(
                                story("- { }").replace("{ id: odd }", "{ id: ines }"),
                                "people[1].id: `ines` stands twice"),
                        fault(
                                story("- { }")
                                        + "before: [ { at: 2030-03-04T09:00, gets-tag: { tag: first-timer } } ]\n",
                                "before[0].at: must lie before the story starts, at 2030-03-04T09:00"),
                        fault(
                                story("- { }") + "before: [ { at: 2030-02-04T09:00 }, { at: 2030-01-04T09:00 } ]\n",
                                "before[1].at: goes back: the step before it is at 2030-02-04T09:00"))
                .map(it -> DynamicTest.dynamicTest(it.said, () -> {
                    var run = rehearse(List.of(it.story));
                    assertThat(run.err.lines()).singleElement().asString().contains("0.yaml, " + it.said);
                    assertThat(run.code).isEqualTo(UNUSABLE);
                }));
    }

    private record Faulty(String story, String said) {}

    private static Faulty fault(String story, String said) {
        return new Faulty(story, said);
    }
}
