package yoru.bench;

import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;
import yoru.core.access.Engine;
import yoru.core.rehearsal.Rehearsal;
import yoru.core.rehearsal.Report;
import yoru.core.rehearsal.Script;
import yoru.core.rulebook.Rulebook;
import yoru.formats.RulebookDocument;
import yoru.formats.StoryDocument;
import yoru.formats.SystemsDocument;

/** Stories over a school of 300 products and 400 courses with follow-ups, beside making its engine alone. */
@State(Scope.Thread)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Fork(1)
@Warmup(iterations = 3, time = 2)
@Measurement(iterations = 5, time = 2)
public class RehearsalBenchmark {

    private static final int PRODUCTS = 300;
    private static final int COURSES = 400;
    private static final int STORIES = 15;
    private static final int LONGEST = 500;

    private Rulebook rulebook;
    private List<Script> set;
    private Script longest;

    /** Makes the school and the stories. */
    @Setup
    public void school() {
        rulebook = RulebookDocument.read(
                """
                yoru: rulebook/1
                school: { zone: Europe/Dublin, currency: EUR }
                courses:
                %s
                products:
                %s
                tags: [ { id: member } ]
                areas: [ { id: hall } ]
                links:
                %s
                  - { id: M, from: { tag: member }, to: [ { category: k1 } ] }
                followups:
                  - { id: first, when: { paid: { } }, once: person, steps: [ { give: { to: [ { tag: member } ] } }, { write: { subject: "Welcome, {{person.name}}", text: hello } } ] }
                  - { id: opened, when: { opened: { area: hall } }, steps: [ { wait: P3D }, { tell: { text: "{{person.name}}" } } ] }
                  - { id: ending, when: { ending: { of: { category: k2 }, before: P14D } }, steps: [ { write: { subject: "Until {{until}}", text: hello } } ] }
                """.formatted(
                        lines(COURSES, "  - { id: c%1$d, categories: [k%2$d], sections: [ { id: a }, { id: b } ] }"),
                        lines(PRODUCTS, "  - { id: P%1$d }"),
                        lines(
                                PRODUCTS,
                                "  - { id: L%1$d, from: { product: P%1$d }, to: [ { course: c%1$d }, { area: hall } ], terms: { length: P1Y } }")));
        set = IntStream.range(0, STORIES)
                .mapToObj(at -> story(at, """
                          - { buys: { lines: [ { product: P%1$d, quantity: 2 } ], pays: later } }
                          - { after: PT10M, pays: { } }
                          - expect: { open: [ course/c%1$d, tag/member ], until: { course/c%1$d: 2031-03-04 } }
                          - { after: P1M, buys: { lines: [ { product: P%2$d } ] } }
                          - { after: P1D, refunds: { order: 1 } }
                          - expect: { closed: [ course/c%1$d ], open: [ course/c%2$d ] }
                          - { after: P6M }
                          - { after: P1Y }
                          - expect: { closed: [ course/c%2$d ] }
                        """.formatted(at * 7, at * 7 + 3)))
                .toList();
        longest = story(
                STORIES,
                IntStream.range(0, LONGEST)
                        .mapToObj(at -> at % 10 == 0
                                ? "  - { after: P1D, buys: { lines: [ { product: P%d } ] } }".formatted(at % PRODUCTS)
                                : "  - { after: P1D }")
                        .collect(Collectors.joining("\n")));
    }

    private static Script story(int number, String steps) {
        return StoryDocument.read("""
                yoru: story/1
                id: s%d
                starts: 2030-03-04T09:00
                people: [ { id: ines, name: Ines Vale } ]
                steps:
                %s""".formatted(number, steps));
    }

    private static String lines(int count, String line) {
        return IntStream.range(0, count)
                .mapToObj(at -> line.formatted(at, at % 20))
                .collect(Collectors.joining("\n"));
    }

    /** What every run of a set needs first. */
    @Benchmark
    public Engine engineAlone() {
        return new Engine(rulebook);
    }

    /** A whole set of fifteen stories, engine included: must come to no more than 1,000. */
    @Benchmark
    public List<Report> wholeSet() {
        var rehearsal = new Rehearsal(rulebook, SystemsDocument.oneOfEach(rulebook));
        return set.stream().map(rehearsal::of).toList();
    }

    /** The longest story there can be. */
    @Benchmark
    public Report longestStory() {
        return new Rehearsal(rulebook, SystemsDocument.oneOfEach(rulebook)).of(longest);
    }
}
