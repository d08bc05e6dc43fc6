package yoru.core.segments;

import static org.assertj.core.api.Assertions.assertThat;
import static yoru.core.Shop.day;
import static yoru.core.Shop.line;

import java.time.LocalDate;
import java.time.Period;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import yoru.core.Seeds;
import yoru.core.Shop;
import yoru.core.World;
import yoru.core.access.Engine;
import yoru.core.followup.PurchaseCount.Counts;
import yoru.core.followup.PurchaseSet;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Allowance;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Target;
import yoru.core.segments.Criterion.Bought;
import yoru.core.segments.Criterion.Had;
import yoru.core.segments.Criterion.Has;
import yoru.core.segments.Criterion.WillLose;
import yoru.core.segments.Segment.Condition;

class SelectionTests {

    private static final int SEEDS = Seeds.of(400);
    private static final Target FIRST = new Target.OfCourse("first-hive");
    private static final Period FORTNIGHT = Period.ofDays(14);

    private final Shop shop = new Shop();
    private final List<Fact> facts = new ArrayList<>();
    private Rulebook rulebook = Shop.rulebook(
            OpensOn.PAID,
            Shop.link("FIRST", "first-hive", Shop.lasting("P1M")),
            Shop.link("QUEEN", "queen-rearing", Shop.lasting("P1Y")));

    private void buys(String person, String product, int day) {
        var order = "O" + facts.size();
        facts.add(shop.placed(order, person, day(day), line("1", product, "90.00")));
        facts.add(shop.paid(order, person, day(day)));
    }

    private static Segment all(Condition... conditions) {
        return new Segment(false, List.of(conditions));
    }

    private static Condition is(Criterion criterion) {
        return new Condition(false, criterion);
    }

    private static Condition not(Criterion criterion) {
        return new Condition(true, criterion);
    }

    private static PurchaseSet set(String product) {
        return new PurchaseSet(Set.of(product), Set.of(), Set.of());
    }

    private List<String> in(Segment segment, int day) {
        var selection = new Selection(new Engine(rulebook), day(day));
        return Histories.of(Ledger.of(facts).asOf(day(day))).all().stream()
                .filter(history -> selection.has(segment, history, "Ada Lovelace"))
                .map(History::person)
                .sorted()
                .toList();
    }

    @Test
    void whoBoughtOneThingAndNotTheOther() {
        buys("ada", "FIRST", 0);
        buys("ben", "FIRST", 0);
        buys("ben", "QUEEN", 3);
        var wanted = all(is(new Bought(set("FIRST"), Counts.PAID)), not(new Bought(set("QUEEN"), Counts.PAID)));
        assertThat(in(wanted, 2)).containsExactly("ada", "ben");
        assertThat(in(wanted, 3)).containsExactly("ada");
        assertThat(in(new Segment(true, wanted.conditions()), 3)).containsExactly("ada", "ben");
        assertThat(in(all(), 3)).as("no condition").containsExactly("ada", "ben");
        assertThat(in(all(is(new Criterion.Called(" LOVE"))), 3)).hasSize(2);
        assertThat(in(all(is(new Criterion.Called("ben"))), 3)).containsExactly("ben");
    }

    /** A month from 1 March at 10:00 in Dublin is over on 1 April at 10:00, which is 31 days less an hour later. */
    @Test
    void whoHasItWhoWillLoseItWhoHadIt() {
        buys("ada", "FIRST", 0);
        buys("ben", "FIRST", 16);
        assertThat(in(all(is(new WillLose(FIRST, FORTNIGHT))), 16)).isEmpty();
        assertThat(in(all(is(new WillLose(FIRST, FORTNIGHT))), 17)).containsExactly("ada");
        assertThat(in(all(is(new Criterion.LosesACourse(FORTNIGHT))), 17)).containsExactly("ada");
        assertThat(in(all(is(new Has(FIRST))), 30)).containsExactly("ada", "ben");
        assertThat(in(all(is(new Had(FIRST))), 31)).containsExactly("ada");
        assertThat(in(all(not(new Has(FIRST)), not(new Had(FIRST))), 31)).isEmpty();
    }

    @Test
    void whoFirstBoughtSomethingOfASetInAPeriod() {
        buys("ada", "FIRST", 0);
        buys("ada", "FIRST", 40);
        buys("ben", "FIRST", 40);
        var april = all(is(
                new Criterion.FirstBought(set("FIRST"), LocalDate.parse("2025-04-01"), LocalDate.parse("2025-04-30"))));
        assertThat(in(april, 60)).containsExactly("ben");
    }

    @Test
    void whoCouldChooseACourseAndHasNot() {
        var keeper = new Level("keeper", "Keeper", null, 0, new Allowance(1, null, List.of(), List.of()));
        rulebook = new Rulebook(rulebook.school(), rulebook.courses(), rulebook.products(), rulebook.links())
                .with(Sort.LEVEL, List.of(keeper));
        for (String person : List.of("ada", "ben", "cleo")) {
            facts.add(shop.fact(person, day(0), new Happening.LevelStarted("keeper")));
        }
        facts.add(shop.fact("ben", day(1), new Happening.CourseChosen("queen-rearing")));
        buys("cleo", "FIRST", 1);
        buys("dora", "QUEEN", 1);
        assertThat(in(all(is(new Criterion.CouldChoose("first-hive"))), 2)).containsExactly("ada");
        assertThat(in(all(is(new Criterion.CouldChoose("first-hive"))), 90))
                .as("what cleo bought is over")
                .containsExactly("ada", "cleo");
        assertThat(in(all(is(new Criterion.CouldChoose("no-such-course"))), 2)).isEmpty();
    }

    /** So that a segment is looked for only among those who can be in it. */
    @Test
    void nobodyIsInASegmentWhomItCannotConcern() {
        int leftOut = 0;
        int in = 0;
        for (long seed = 0; seed < SEEDS; seed++) {
            var world = World.of(seed);
            var engine = new Engine(world.rulebook());
            var asOf = World.MOMENTS.get(8);
            var selection = new Selection(engine, asOf);
            for (History history :
                    Histories.of(Ledger.of(world.facts()).asOf(asOf)).all()) {
                for (Segment segment : segments(engine)) {
                    boolean concerned = segment.concern(engine.index()).isOf(history);
                    boolean isIn = selection.has(segment, history, "");
                    assertThat(concerned || !isIn)
                            .as("seed %d: %s in %s", seed, history.person(), segment)
                            .isTrue();
                    leftOut += concerned ? 0 : 1;
                    in += isIn ? 1 : 0;
                }
            }
        }
        assertThat(leftOut).isGreaterThan(25 * SEEDS);
        assertThat(in).isGreaterThan(25 * SEEDS);
    }

    private static List<Segment> segments(Engine engine) {
        var rulebook = engine.index().rulebook();
        var targets = Stream.concat(
                Stream.of(Sort.values())
                        .flatMap(sort -> rulebook.all(sort).stream().flatMap(it -> sort.target(it.id()).stream())),
                rulebook.courses().stream()
                        .flatMap(course -> course.sections().stream()
                                .map(section -> new Target.OfSection(course.id(), section.id()))));
        var sets = Stream.concat(
                rulebook.products().stream().map(product -> set(product.id())),
                Stream.of(
                        new PurchaseSet(Set.of(), Set.of(), Set.of("starter")),
                        new PurchaseSet(Set.of(), Set.of("red"), Set.of())));
        var criteria = Stream.concat(
                        targets.flatMap(
                                it -> Stream.<Criterion>of(new Has(it), new Had(it), new WillLose(it, FORTNIGHT))),
                        sets.flatMap(it -> Stream.<Criterion>of(
                                new Bought(it, Counts.ORDERED),
                                new Criterion.FirstBought(it, LocalDate.MIN, LocalDate.MAX))))
                .toList();
        var all = new ArrayList<Segment>();
        for (int at = 0; at < criteria.size(); at++) {
            var one = is(criteria.get(at));
            var next = criteria.get((at + 1) % criteria.size());
            all.add(all(one));
            all.add(all(not(next), one));
            all.add(new Segment(true, List.of(one, is(next))));
            all.add(new Segment(true, List.of(one, not(next))));
        }
        return all;
    }

    /** Negation, both ways to combine, and what a loss means, over schools and pasts made up by chance. */
    @Test
    void segmentsObeyLogicAndLossesComeTrue() {
        int lost = 0;
        for (long seed = 0; seed < SEEDS; seed++) {
            var world = World.of(seed);
            var random = new Random(seed);
            var engine = new Engine(world.rulebook());
            var asOf = World.MOMENTS.get(random.nextInt(World.MOMENTS.size()));
            var selection = new Selection(engine, asOf);
            var histories = Histories.of(Ledger.of(world.facts()).asOf(asOf));
            for (var history : histories.all()) {
                for (var course : world.rulebook().courses()) {
                    var target = new Target.OfCourse(course.id());
                    var conditions = IntStream.range(0, 2)
                            .mapToObj(i -> new Condition(
                                    random.nextBoolean(),
                                    random.nextBoolean() ? new Has(target) : new WillLose(target, Period.ofMonths(1))))
                            .toList();
                    var opposite = conditions.stream()
                            .map(one -> new Condition(!one.not(), one.criterion()))
                            .toList();
                    assertThat(selection.has(new Segment(false, conditions), history, ""))
                            .as("De Morgan, seed %d", seed)
                            .isNotEqualTo(selection.has(new Segment(true, opposite), history, ""));
                    if (selection.has(all(is(new WillLose(target, Period.ofMonths(1)))), history, "")) {
                        lost++;
                        var later = engine.calendar().plus(asOf, Period.ofMonths(1));
                        assertThat(engine.access(history, asOf).stream()
                                        .filter(one -> one.target().equals(target))
                                        .filter(one -> one.window().contains(asOf))
                                        .noneMatch(one -> one.window().contains(later)))
                                .as("seed %d, %s, %s", seed, history.person(), target)
                                .isTrue();
                    }
                }
            }
        }
        assertThat(lost).as("cases in which something is lost").isGreaterThan(SEEDS / 20);
    }
}
