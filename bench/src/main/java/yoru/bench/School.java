package yoru.bench;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Random;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Rulebook;
import yoru.formats.RulebookDocument;

/** A large invented school: eighty products, sixty courses, a ladder, a tag, and as much history as is wanted. */
final class School {

    static final Instant AS_OF = Instant.parse("2026-03-01T00:00:00Z");
    static final int PRODUCTS = 80;

    private static final Currency EUR = Currency.getInstance("EUR");

    private School() {}

    static Rulebook rulebook() {
        return RulebookDocument.read("""
                yoru: rulebook/1
                school: { zone: Europe/Dublin, currency: EUR, ladders: [ { id: hive } ] }
                courses:
                %s
                products:
                %s
                levels:
                  - { id: helper, ladder: hive, rank: 1 }
                  - { id: keeper, ladder: hive, rank: 2, allowance: { courses: 3 } }
                tags: [ { id: member } ]
                links:
                %s
                %s
                  - { id: M1, from: { tag: member }, to: [ { category: k1 } ] }
                  - { id: M2, from: { level: helper }, to: [ { course: c1 } ] }
                """.formatted(
                lines(60, n -> "  - { id: c%d, categories: [k%d] }".formatted(n, n % 6)),
                lines(
                        PRODUCTS,
                        n -> "  - { id: P%d, billing: { kind: %s } }"
                                .formatted(n, n % 4 > 0 ? "once" : "recurring, every: P1M, grace: P3D")),
                lines(
                        PRODUCTS,
                        n ->
                                "  - { id: L%d, from: { product: P%d }, to: [ { course: c%d } ], terms: { length: P1Y, repeat: extend } }"
                                        .formatted(n, n, n % 60)),
                lines(
                        10,
                        n -> "  - { id: T%d, from: { product: P%d }, to: [ { tag: member } ] }".formatted(n, n * 8))));
    }

    /** The same with twelve follow-ups: orders, refunds, levels, what opens and what is about to end. */
    static Rulebook withFollowups() {
        var document = RulebookDocument.yaml(rulebook()) + """
                followups:
                  - { id: first, when: { paid: { products: [P1, P2, P3, P5, P6, P7] } }, once: person, only: [ { bought: { of: { products: [P1, P2, P3, P5, P6, P7] }, atMost: 0 } } ], steps: [ { give: { to: [ { tag: member } ] } }, { write: { subject: "Welcome, {{person.name}}", text: hello } } ] }
                  - { id: later, when: { paid: { products: [P9, P10] } }, each: line, steps: [ { wait: P3D }, { write: { subject: "How is {{thing.title}}?", text: hello } } ] }
                  - { id: refunded, when: { refunded: { } }, once: order, steps: [ { tell: { text: "{{order}} was paid back" } } ] }
                  - { id: cancelled, when: { cancelled: { } }, once: order, steps: [ { tell: { text: "{{order}} was cancelled" } } ] }
                  - { id: large, when: { paid: { } }, once: order, only: [ { amount: { atLeast: "300.00" } } ], steps: [ { tell: { text: "{{order}}" } } ] }
                  - { id: keepers, when: { opened: { level: keeper } }, steps: [ { write: { subject: Welcome, text: hello } } ] }
                  - { id: back, when: { opened: { level: helper } }, once: always, only: [ { had: { level: helper } } ], steps: [ { write: { subject: Welcome back, text: hello } } ] }
                  - { id: gone, when: { ended: { level: keeper } }, once: always, steps: [ { write: { subject: Goodbye, text: hello } } ] }
                  - { id: ending, when: { ending: { of: { course: c11 }, before: P14D } }, steps: [ { write: { subject: "Until {{until}}", text: hello } } ] }
                  - { id: started, when: { subscription: { what: started, of: { } } }, steps: [ { write: { subject: "{{thing.title}}", text: hello } } ] }
                  - { id: failed, when: { subscription: { what: failed, of: { } } }, once: always, steps: [ { wait: P3D }, { tell: { text: "{{thing.title}}" } } ] }
                  - { id: finished, when: { completed: [c1, c2] }, steps: [ { write: { subject: Well done, text: hello } } ] }
                """;
        return RulebookDocument.read(document);
    }

    private static String lines(int count, IntFunction<String> line) {
        return IntStream.range(0, count).mapToObj(line).collect(Collectors.joining("\n"));
    }

    /** One person's facts: orders paid and some given back, a subscription, a level, choices. */
    static List<Fact> person(int person, int count) {
        var random = new Random(person * 31L + count);
        var key = "p" + person + "@hollow-oak.example";
        var facts = new ArrayList<Fact>(count);
        for (int order = 0; facts.size() < count; order++) {
            var id = "O" + person + "-" + order;
            var at = moment(random);
            switch (order % 4) {
                case 1 -> {
                    var product = "P" + 4 * random.nextInt(PRODUCTS / 4);
                    add(facts, key, at, new Happening.SubscriptionStarted(id, product, null, after(at, 30), false));
                    add(facts, key, after(at, 30), new Happening.SubscriptionRenewed(id, after(at, 60)));
                }
                case 3 -> {
                    add(facts, key, at, new Happening.LevelStarted(random.nextBoolean() ? "helper" : "keeper"));
                    add(facts, key, after(at, 1), new Happening.CourseChosen("c" + random.nextInt(60)));
                }
                default -> {
                    var line =
                            new OrderLine("1", "P" + random.nextInt(PRODUCTS), null, 1, new BigDecimal("100.00"), null);
                    add(facts, key, at, new Happening.OrderPlaced(id, Channel.SHOP, EUR, List.of(line)));
                    add(facts, key, at, new Happening.OrderPaid(id));
                    if (random.nextInt(3) == 0) {
                        add(facts, key, after(at, 20), new Happening.OrderRefunded(id, null, null));
                    }
                }
            }
        }
        return facts.subList(0, count);
    }

    private static void add(List<Fact> facts, String person, Instant time, Happening happening) {
        facts.add(new Fact(new FactId("shop", person + "-" + facts.size()), person, time, happening));
    }

    private static Instant moment(Random random) {
        return AS_OF.minusSeconds(86_400L * (1 + random.nextInt(900)) + random.nextInt(86_400));
    }

    private static Instant after(Instant at, int days) {
        return at.plusSeconds(86_400L * days);
    }
}
