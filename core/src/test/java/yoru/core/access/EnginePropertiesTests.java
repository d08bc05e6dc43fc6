package yoru.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.common.collect.Range;
import com.google.common.collect.TreeRangeSet;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import yoru.core.Shop;
import yoru.core.impact.Impact;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Rulebook;

/** What must always hold, over generated histories; the seed stands in the name of a failing run. */
class EnginePropertiesTests {

    private static final Instant LATER = Shop.day(500);

    private static LongStream seeds() {
        return LongStream.range(0, 300);
    }

    private record World(Rulebook rulebook, List<Fact> facts, Random random) {
        static World of(long seed) {
            var random = new Random(seed);
            return new World(Shop.rulebook(random), new Shop().history(random, 1 + random.nextInt(8)), random);
        }

        List<Access> access(List<Fact> of, Instant asOf) {
            return new Engine(rulebook).evaluate(Ledger.of(of), asOf).access();
        }

        boolean open(List<Fact> of, Instant asOf, Instant at, String person, String target) {
            return access(of, asOf).stream()
                    .anyMatch(access -> access.person().equals(person)
                            && access.target().path().equals(target)
                            && access.window().contains(at));
        }
    }

    @ParameterizedTest(name = "seed {0}")
    @MethodSource("seeds")
    void orderAndRepetitionOfArrivalChangeNothing(long seed) {
        var world = World.of(seed);
        var shuffled = new ArrayList<>(world.facts);
        shuffled.addAll(world.facts);
        Collections.shuffle(shuffled, world.random);
        assertThat(world.access(shuffled, LATER)).isEqualTo(world.access(world.facts, LATER));
    }

    @ParameterizedTest(name = "seed {0}")
    @MethodSource("seeds")
    void laterFactsDoNotRewriteThePast(long seed) {
        var world = World.of(seed);
        for (int day = 0; day < 14; day++) {
            var at = Shop.day(day);
            for (String person : List.of("ada", "ben", "cleo")) {
                for (String target : List.of("course/first-hive", "course/queen-rearing")) {
                    assertThat(world.open(world.facts, at, at, person, target))
                            .as("%s at %s on day %d", person, target, day)
                            .isEqualTo(world.open(world.facts, LATER, at, person, target));
                }
            }
        }
    }

    @ParameterizedTest(name = "seed {0}")
    @MethodSource("seeds")
    void takingOneReasonAwayTakesNothingThatAnotherGives(long seed) {
        var world = World.of(seed);
        var all = world.access(world.facts, LATER);
        Set<String> orders = world.facts.stream()
                .map(fact -> fact.happening().order())
                .collect(Collectors.toCollection(TreeSet::new));
        for (String gone : orders) {
            Predicate<Entitlement> others =
                    entitlement -> !entitlement.reason().order().id().equals(gone);
            var expected = all.stream()
                    .flatMap(access -> access.entitlements().stream())
                    .filter(others)
                    .toList();
            var without = world.access(
                    world.facts.stream()
                            .filter(fact -> !fact.happening().order().equals(gone))
                            .toList(),
                    LATER);
            assertThat(without.stream().flatMap(access -> access.entitlements().stream()))
                    .containsExactlyInAnyOrderElementsOf(expected);
        }
    }

    /** Guava's RangeSet is the reference for the union of windows. */
    @ParameterizedTest(name = "seed {0}")
    @MethodSource("seeds")
    void windowsAreTheUnionOfTheirEntitlements(long seed) {
        var world = World.of(seed);
        var access = world.access(world.facts, LATER);
        access.stream()
                .map(one -> one.person() + " " + one.target().path())
                .distinct()
                .forEach(key -> {
                    var rows = access.stream()
                            .filter(one ->
                                    key.equals(one.person() + " " + one.target().path()))
                            .toList();
                    TreeRangeSet<Instant> reference = TreeRangeSet.create();
                    rows.stream()
                            .flatMap(row -> row.entitlements().stream())
                            .forEach(it -> reference.add(range(it.window())));
                    assertThat(rows.stream().map(row -> range(row.window())).toList())
                            .isEqualTo(List.copyOf(reference.asRanges()));
                });
    }

    @ParameterizedTest(name = "seed {0}")
    @MethodSource("seeds")
    void impactIsTheDifferenceOfTwoEvaluations(long seed) {
        var world = World.of(seed);
        var other = Shop.rulebook(world.random);
        var after = new Rulebook(world.rulebook.school(), other.courses(), other.products(), other.links());
        var now = Shop.day(6);
        var known = Ledger.of(world.facts);
        var changes = new Impact(world.rulebook, after).over(known, now);
        assertThat(new Impact(world.rulebook, world.rulebook).over(known, now)).isEmpty();
        for (String person : List.of("ada", "ben", "cleo")) {
            for (String target : List.of("course/first-hive", "course/queen-rearing")) {
                var before = remaining(world.rulebook, known, now, person, target);
                var then = remaining(after, known, now, person, target);
                assertThat(changes.stream()
                                .anyMatch(change -> change.person().equals(person)
                                        && change.target().path().equals(target)))
                        .as("%s at %s: %s -> %s", person, target, before, then)
                        .isEqualTo(!before.equals(then));
            }
        }
    }

    /** A generator that quietly stopped making a kind of fact would make the tests above prove less. */
    @Test
    void generatorMakesEverything() {
        var facts = seeds().mapToObj(World::of)
                .flatMap(world -> world.facts.stream())
                .toList();
        for (Class<?> kind : Happening.class.getPermittedSubclasses()) {
            assertThat(facts.stream()
                            .filter(fact -> kind.isInstance(fact.happening()))
                            .count())
                    .as(kind.getSimpleName())
                    .isGreaterThan(facts.size() / 50);
        }
        var ended = seeds().mapToObj(World::of)
                .flatMap(world -> world.access(world.facts, LATER).stream())
                .flatMap(access -> access.entitlements().stream())
                .flatMap(entitlement -> entitlement.reason().end().stream())
                .map(Object::getClass)
                .distinct();
        assertThat(ended).hasSize(Ending.class.getPermittedSubclasses().length);
    }

    private static List<Window> remaining(
            Rulebook rulebook, Ledger ledger, Instant from, String person, String target) {
        return Window.from(
                from,
                new Engine(rulebook)
                        .evaluate(ledger, from).access().stream()
                                .filter(access -> access.person().equals(person)
                                        && access.target().path().equals(target))
                                .map(Access::window)
                                .toList());
    }

    private static Range<Instant> range(Window window) {
        return window.end().map(end -> Range.closedOpen(window.start(), end)).orElse(Range.atLeast(window.start()));
    }
}
