package yoru.core;

import java.math.BigDecimal;
import java.time.LocalTime;
import java.time.Period;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import yoru.core.followup.Loops;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Followup.Condition;
import yoru.core.rulebook.Followup.Once;
import yoru.core.rulebook.Followup.Row;
import yoru.core.rulebook.Followup.Sold;
import yoru.core.rulebook.Followup.Step;
import yoru.core.rulebook.Followup.When;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Target;

/** Makes follow-ups by chance. */
public record Reactions(Random random) {

    private static final List<String> PRODUCTS = List.of("BOX", "PLAN", "CLUB", "TALK", "TEAM");
    private static final List<String> COURSES = List.of("first-hive", "queen-rearing", "calm-swarms");

    /** As many as do not come back to themselves. */
    public static Rulebook added(Rulebook book, long seed) {
        var random = new Random(seed * 31 + 7);
        var made = new Reactions(random);
        var followups = new ArrayList<Followup>();
        for (int n = 0; n < 2 + random.nextInt(4); n++) {
            followups.add(made.followup("f" + n));
            var next = book.withFollowups(followups);
            if (!new Loops(new RulebookIndex(next)).all().isEmpty()) {
                followups.removeLast();
            }
        }
        return book.withFollowups(followups);
    }

    @SafeVarargs
    private <T> T pick(T... from) {
        return from[random.nextInt(from.length)];
    }

    private <T> T pick(List<T> from) {
        return from.get(random.nextInt(from.size()));
    }

    Followup followup(String id) {
        var when = when();
        boolean line = when instanceof When.OfOrder && random.nextBoolean();
        var bare = new Followup(
                id,
                id,
                random.nextInt(12) > 0,
                random.nextInt(8) == 0 ? World.MOMENTS.get(3) : null,
                when,
                line,
                null,
                random.nextInt(3) == 0 ? List.of(condition()) : List.of(),
                random.nextInt(5) == 0 ? List.of(condition()) : List.of(),
                random.nextInt(4) == 0,
                steps(2),
                List.of());
        var rows = bare.hasThing() && random.nextInt(4) == 0 ? rows(when) : List.<Row>of();
        return new Followup(
                id,
                id,
                bare.on(),
                bare.sinceOrNone(),
                when,
                line,
                once(bare),
                bare.only(),
                bare.whilst(),
                bare.always(),
                bare.steps(),
                rows);
    }

    private Once once(Followup bare) {
        return switch (random.nextInt(6)) {
            case 0 -> Once.PERSON;
            case 1 -> Once.ALWAYS;
            case 2 -> bare.hasOrder() ? Once.ORDER : null;
            case 3 -> bare.hasThing() ? Once.THING : null;
            default -> null;
        };
    }

    private List<Row> rows(When when) {
        boolean sold =
                when instanceof When.OfOrder || when instanceof When.Claimed || when instanceof When.OfSubscription;
        return IntStream.range(0, 3)
                .mapToObj(at -> sold
                        ? new Row(PRODUCTS.get(at), null, Map.of("words", "row " + at))
                        : new Row(null, Destination.whole(COURSES.get(at)), Map.of("words", "row " + at)))
                .toList();
    }

    private When when() {
        return switch (random.nextInt(14)) {
            case 0 -> new When.OfOrder(When.Moment.PLACED, sold());
            case 1, 2, 3 -> new When.OfOrder(When.Moment.PAID, sold());
            case 4 -> new When.OfOrder(When.Moment.FULFILLED, sold());
            case 5 -> new When.OfOrder(When.Moment.CANCELLED, sold());
            case 6 -> new When.OfOrder(When.Moment.REFUNDED, sold());
            case 7 -> new When.Claimed(sold());
            case 8, 9 -> new When.OfSubscription(pick(When.Turn.values()), sold());
            case 10 -> new When.Opened(List.of(target(), target()));
            case 11 -> new When.Ended(List.of(target(), target()));
            case 12 -> new When.Ending(List.of(target(), target()), Period.parse(pick("P7D", "P1M")));
            default -> random.nextBoolean() ? new When.Completed(COURSES) : new When.Account(List.of("classroom"));
        };
    }

    private Sold sold() {
        return switch (random.nextInt(4)) {
            case 0 -> new Sold(Set.copyOf(List.of(pick(PRODUCTS), pick(PRODUCTS))), Set.of(), Set.of());
            case 1 -> new Sold(Set.of(pick(PRODUCTS)), Set.of(pick(PRODUCTS) + "-LIVE"), Set.of());
            default -> new Sold(Set.of(), Set.of(), Set.of());
        };
    }

    private Destination target() {
        return pick(
                Destination.whole(pick(COURSES)),
                Destination.whole(pick(COURSES)),
                new Destination.Exactly(new Target.OfTag(pick("amber", "birch", "clover"))),
                new Destination.Exactly(new Target.OfArea("talk")),
                new Destination.Exactly(new Target.OfLevel(pick("helper", "keeper"))),
                new Destination.Exactly(new Target.OfDownload("chart")),
                new Destination.Exactly(new Target.OfList("letter")));
    }

    private Condition condition() {
        return switch (random.nextInt(9)) {
            case 0 -> new Condition.Has(List.of(target()));
            case 1 -> new Condition.Had(List.of(target()));
            case 2 -> new Condition.Bought(sold(), pick(Condition.Counts.values()), random.nextInt(2), null);
            case 3 -> new Condition.Bought(sold(), pick(Condition.Counts.values()), null, random.nextInt(2));
            case 4 -> new Condition.Amount(new BigDecimal("100.00"));
            case 5 -> new Condition.OfChannel(random.nextBoolean());
            case 6 -> new Condition.Field("stage", "big");
            case 7 -> new Condition.Any(List.of(condition(), condition()));
            default -> new Condition.Not(condition());
        };
    }

    private List<Step> steps(int deep) {
        var steps = new ArrayList<Step>();
        for (int n = 0; n < 1 + random.nextInt(4); n++) {
            steps.add(step(deep));
        }
        return steps;
    }

    private Step step(int deep) {
        return switch (random.nextInt(10)) {
            case 0, 1, 2 ->
                new Step.Give(List.of(target()), random.nextInt(3) == 0 ? Period.parse(pick("P1M", "P7D")) : null);
            case 3 -> new Step.Take(List.of(target()));
            case 4 -> new Step.SetField("stage", pick("big", "small"));
            case 5 -> new Step.Write("{{thing.title}} until {{until}} {{row.words}}", "x", null);
            case 6 -> new Step.Tell("{{order}}");
            case 7 -> new Step.WaitFor(Period.parse(pick("P1D", "P7D", "P1M")));
            case 8 -> new Step.WaitUntil(LocalTime.of(9, 0));
            default ->
                deep == 0
                        ? new Step.Tell("deep")
                        : new Step.If(List.of(condition()), steps(deep - 1), List.of(new Step.Tell("otherwise")));
        };
    }
}
