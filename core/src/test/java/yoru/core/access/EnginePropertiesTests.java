package yoru.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.common.collect.Range;
import com.google.common.collect.TreeRangeSet;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import yoru.core.Seeds;
import yoru.core.Shrink;
import yoru.core.World;
import yoru.core.impact.Change;
import yoru.core.impact.Impact;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Ladder;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.School;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;

/**
 * What must always hold, over generated rulebooks and histories. Each run is of some seeds ({@link Seeds} says how many); a failure says which
 * seed it was and shows the smallest ledger that was found to fail too.
 */
class EnginePropertiesTests {

    private static final int RUNS = 5;
    private static final int SEEDS = Seeds.of(200);

    private static LongStream runs() {
        return LongStream.range(0, RUNS);
    }

    private static Stream<World> worlds(long run) {
        return LongStream.range(run * SEEDS, (run + 1) * SEEDS).mapToObj(World::of);
    }

    private static List<Access> access(World world, Collection<Fact> facts, Instant asOf) {
        return new Engine(world.rulebook()).evaluate(Ledger.of(facts), asOf).access();
    }

    private static List<Access> access(World world) {
        return access(world, world.facts(), World.END);
    }

    /** What stands in a row, with the reasons that make it up. */
    private static List<String> rows(Collection<Access> access) {
        return access.stream()
                .map(one -> "%s %s %s %s %s"
                        .formatted(
                                one.person(),
                                one.target().path(),
                                one.window(),
                                one.state(),
                                one.entitlements().stream()
                                        .map(EnginePropertiesTests::words)
                                        .toList()))
                .toList();
    }

    /** What of an entitlement can differ. */
    private static String words(Entitlement it) {
        return it.person() + " " + it.target().path() + " " + it.reason().path() + " " + it.stretch() + " "
                + (it.ending() == null
                        ? ""
                        : it.ending().at() + " "
                                + it.ending().cause().getClass().getSimpleName());
    }

    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void orderAndRepetitionOfArrivalChangeNothing(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var shuffled = new ArrayList<>(world.facts());
                    shuffled.addAll(world.facts());
                    Collections.shuffle(shuffled, new Random(world.seed()));
                    assertThat(rows(access(world, shuffled, World.END))).isEqualTo(rows(access(world)));
                }));
    }

    /** But for late arrivals, which cannot be here since every fact is known at its time, merges and erasing. */
    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void laterFactsDoNotRewriteThePast(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    for (Instant at : World.MOMENTS) {
                        var facts = world.facts().stream()
                                .filter(fact ->
                                        !rewritesThePast(fact) || !fact.time().isAfter(at))
                                .toList();
                        assertThat(openAt(access(world, facts, World.END), at))
                                .as("at %s", at)
                                .isEqualTo(openAt(access(world, facts, at), at));
                    }
                }));
    }

    private static Set<String> openAt(List<Access> access, Instant at) {
        return access.stream()
                .filter(one -> one.window().contains(at))
                .map(one -> one.person() + " " + one.target().path())
                .collect(Collectors.toCollection(TreeSet::new));
    }

    /**
     * But where a higher level covers a lower one, where a chain of extend moves forward, and where the places of an
     * allowance are dealt anew: rulebooks without these.
     */
    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void takingOneReasonAwayTakesNothingThatAnotherGives(long run) {
        worlds(run)
                .map(EnginePropertiesTests::withoutWhatDependsOnOthers)
                .forEach(any -> Shrink.check(any, world -> {
                    var all = entitlements(access(world));
                    for (Link gone : world.rulebook().links()) {
                        var without = world.withRulebook(world.rulebook()
                                .withLinks(world.rulebook().links().stream()
                                        .filter(link -> !link.equals(gone))
                                        .toList()));
                        assertThat(words(entitlements(access(without))))
                                .as("without link %s", gone.id())
                                .isEqualTo(words(all.stream().filter(not(gone)).toList()));
                    }
                    for (String gone : things(world)) {
                        var without = world.withFacts(world.facts().stream()
                                .filter(fact -> !fact.happening()
                                        .thing()
                                        .filter(gone::equals)
                                        .isPresent())
                                .toList());
                        assertThat(words(entitlements(access(without))))
                                .as("without %s", gone)
                                .isEqualTo(words(all.stream()
                                        .filter(one -> !roots(one).contains(gone))
                                        .toList()));
                    }
                }));
    }

    private static Set<String> things(World world) {
        return world.facts().stream()
                .flatMap(fact -> fact.happening().thing().stream())
                .collect(Collectors.toCollection(TreeSet::new));
    }

    private static Predicate<Entitlement> not(Link link) {
        return entitlement -> !(entitlement.reason() instanceof Reason.Linked it
                && (it.link().equals(link)
                        || (it.holding() instanceof Holding.Held held
                                && held.through() != null
                                && !not(link).test(held.through()))));
    }

    /** What an entitlement goes back to: the order, subscription or gift by hand, and what such a gift is tied to. */
    private static Set<String> roots(Entitlement entitlement) {
        if (entitlement.reason() instanceof Reason.Linked it
                && it.holding() instanceof Holding.Held held
                && held.through() != null) {
            return roots(held.through());
        }
        if (entitlement.reason() instanceof Reason.Linked it && it.holding() instanceof Holding.Bought bought) {
            return Set.of("order " + bought.order().id());
        }
        var began = entitlement.reason().startedBy().happening();
        var tied = began instanceof Happening.GrantGiven grant
                ? grant.follows().map(EnginePropertiesTests::thing)
                : Optional.<String>empty();
        return Stream.concat(began.thing().stream(), tied.stream()).collect(Collectors.toSet());
    }

    private static String thing(Happening.Followed followed) {
        return switch (followed) {
            case Happening.Followed.OfLine it -> "order " + it.order();
            case Happening.Followed.OfSubscription it -> "subscription " + it.subscription();
        };
    }

    private static World withoutWhatDependsOnOthers(World world) {
        var rulebook = world.rulebook();
        var school = rulebook.school();
        var ladders = school.ladders().stream()
                .map(ladder -> new Ladder(ladder.id(), true))
                .toList();
        var levels = rulebook.levels().stream()
                .map(level -> new Level(level.id(), level.title(), level.ownLadder(), level.rank(), null))
                .toList();
        var links = rulebook.links().stream()
                .map(link -> new Link(
                        link.id(), link.from(), link.to(), link.terms().with(Terms.Repeat.OVERLAP), link.applies()))
                .toList();
        return world.withRulebook(new Rulebook(
                        new School(school.zone(), school.currency(), school.tiers(), school.opensOn(), ladders),
                        rulebook.things(),
                        links)
                .with(Sort.LEVEL, levels));
    }

    private static Set<String> words(List<Entitlement> entitlements) {
        return entitlements.stream().map(EnginePropertiesTests::words).collect(Collectors.toCollection(TreeSet::new));
    }

    private static List<Entitlement> entitlements(List<Access> access) {
        return access.stream().flatMap(one -> one.entitlements().stream()).toList();
    }

    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void anUnchangedRulebookChangesNothingAndALinkPutBackGivesWhatWas(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var ledger = Ledger.of(world.facts());
                    var rulebook = world.rulebook();
                    assertThat(new Impact(rulebook, rulebook).over(ledger, World.MOMENTS.get(8)))
                            .isEmpty();
                    var links = new ArrayList<>(rulebook.links());
                    if (!links.isEmpty()) {
                        links.addLast(links.removeFirst());
                    }
                    assertThat(rows(access(world.withRulebook(rulebook.withLinks(links)))))
                            .isEqualTo(rows(access(world)));
                }));
    }

    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void onePersonAtATimeOrManyAtOnceGivesTheSame(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var whole = access(world);
                    var engine = new Engine(world.rulebook());
                    var alone = World.PEOPLE.stream()
                            .flatMap(person ->
                                    engine
                                            .evaluate(Ledger.of(concerning(person, world.facts())), World.END)
                                            .access()
                                            .stream()
                                            .filter(one -> one.person().equals(person)))
                            .toList();
                    assertThat(rows(alone)).isEqualTo(rows(whole));
                    var histories = Histories.of(Ledger.of(world.facts()));
                    var together = World.PEOPLE.parallelStream()
                            .flatMap(person -> engine.access(histories.person(person), World.END).stream())
                            .toList();
                    assertThat(rows(together)).isEqualTo(rows(whole));
                }));
    }

    private static boolean rewritesThePast(Fact fact) {
        return fact.happening() instanceof Happening.PersonMerged
                || fact.happening() instanceof Happening.PersonParted
                || fact.happening() instanceof Happening.PersonErased;
    }

    @ParameterizedTest
    @MethodSource("runs")
    void whoIsPartedAgainHasWhatTheyHadBeforeTheyWereJoined(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var alone = world.facts().stream()
                            .filter(fact -> !rewritesThePast(fact))
                            .toList();
                    var joined = new ArrayList<>(alone);
                    joined.add(
                            new Fact(new FactId("desk", "1"), "ben", END_MINUS_TWO, new Happening.PersonMerged("ada")));
                    joined.add(new Fact(
                            new FactId("desk", "2"), "ada", END_MINUS_TWO, new Happening.PersonMerged("cleo")));
                    var parted = new ArrayList<>(joined);
                    parted.add(new Fact(new FactId("desk", "3"), "ada", World.END, new Happening.PersonParted("cleo")));
                    parted.add(new Fact(new FactId("desk", "4"), "ben", World.END, new Happening.PersonParted("ada")));
                    assertThat(access(world, joined, World.END).stream().map(Access::person))
                            .doesNotContain("ben", "ada");
                    assertThat(windows(access(world, parted, World.END)))
                            .isEqualTo(windows(access(world, alone, World.END)));
                }));
    }

    @ParameterizedTest
    @MethodSource("runs")
    void whoIsErasedHasNothingAndNobodyElseLosesAnything(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var with = new ArrayList<>(world.facts());
                    with.add(new Fact(new FactId("desk", "1"), "ada", World.END, new Happening.PersonErased()));
                    var ada = Histories.of(Ledger.of(world.facts())).personOf("ada");
                    var before = rows(access(world).stream()
                            .filter(one -> !one.person().equals(ada))
                            .toList());
                    assertThat(rows(access(world, with, World.END))).isEqualTo(before);
                }));
    }

    private static final Instant END_MINUS_TWO = World.END.minusSeconds(2);

    private static List<String> windows(List<Access> access) {
        return access.stream()
                .map(one -> one.person() + " " + one.target().path() + " " + one.window() + " " + one.state())
                .toList();
    }

    /** What the server reads of the database for one person. */
    private static List<Fact> concerning(String person, List<Fact> facts) {
        Set<String> same = new HashSet<>(Set.of(person));
        for (boolean more = true; more; ) {
            more = facts.stream()
                    .filter(fact -> fact.happening() instanceof Happening.PersonMerged it
                            && (same.contains(fact.subject()) || same.contains(it.into())))
                    .map(fact ->
                            same.add(fact.subject()) | same.add(((Happening.PersonMerged) fact.happening()).into()))
                    .reduce(false, Boolean::logicalOr);
        }
        var things = facts.stream()
                .filter(fact -> same.contains(fact.subject()))
                .flatMap(fact -> fact.happening().thing().stream())
                .collect(Collectors.toSet());
        return facts.stream()
                .filter(fact -> same.contains(fact.subject())
                        || fact.happening().thing().filter(things::contains).isPresent())
                .toList();
    }

    /** Guava's RangeSet 33.5 is the reference for the union of windows; PostgreSQL's is asked in the server's tests. */
    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void windowsAreTheUnionOfTheirEntitlements(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var access = access(world);
                    access.stream()
                            .map(one -> List.of(one.person(), one.target()))
                            .distinct()
                            .forEach(key -> {
                                var rows = access.stream()
                                        .filter(one -> key.equals(List.of(one.person(), one.target())))
                                        .toList();
                                TreeRangeSet<Instant> reference = TreeRangeSet.create();
                                entitlements(rows).forEach(it -> {
                                    TreeRangeSet<Instant> own = TreeRangeSet.create();
                                    own.add(range(it.stretch().span()));
                                    it.stretch().suspended().asList().forEach(hole -> own.remove(range(hole)));
                                    it.stretch().takenOut().asList().forEach(hole -> own.remove(range(hole)));
                                    reference.addAll(own);
                                });
                                assertThat(rows.stream()
                                                .map(row -> range(row.window()))
                                                .toList())
                                        .isEqualTo(List.copyOf(reference.asRanges()));
                            });
                }));
    }

    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void impactIsTheDifferenceOfTwoEvaluations(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var now = World.MOMENTS.get(8);
                    var ledger = Ledger.of(world.facts());
                    var other = world.otherRulebook();
                    for (Rulebook after :
                            List.of(other, world.rulebook().withLinks(other.links()), oneLinkLess(world))) {
                        var changes = new Impact(world.rulebook(), after).over(ledger, now);
                        assertThat(changes.stream()
                                        .map(EnginePropertiesTests::touched)
                                        .collect(Collectors.toSet()))
                                .isEqualTo(differing(world, after, now));
                    }
                }));
    }

    private static Rulebook oneLinkLess(World world) {
        return world.rulebook()
                .withLinks(world.rulebook().links().stream().skip(1).toList());
    }

    private static String touched(Change change) {
        return change.person() + " " + change.target().path();
    }

    private static Set<String> differing(World world, Rulebook after, Instant now) {
        var was = remaining(access(world, world.facts(), now), now);
        var is = remaining(access(world.withRulebook(after), world.facts(), now), now);
        return Stream.concat(was.keySet().stream(), is.keySet().stream())
                .filter(key -> !was.getOrDefault(key, Windows.NONE).equals(is.getOrDefault(key, Windows.NONE)))
                .collect(Collectors.toSet());
    }

    private static Map<String, Windows> remaining(List<Access> access, Instant now) {
        return access.stream()
                .collect(Collectors.groupingBy(
                        one -> one.person() + " " + one.target().path(),
                        Collectors.collectingAndThen(
                                Collectors.mapping(Access::window, Collectors.toList()),
                                windows -> Windows.of(windows).from(now))));
    }

    /** Why it is closed is answered for everything that is, and for nothing that is not. */
    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void whatIsClosedHasAReason(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var now = World.MOMENTS.get(8);
                    var engine = new Engine(world.rulebook());
                    var histories = Histories.of(Ledger.of(world.facts()).asOf(now));
                    for (String person : World.PEOPLE) {
                        var history = histories.person(person);
                        var open = openAt(engine.access(history, now), now);
                        for (var course : world.rulebook().courses()) {
                            var target = new Target.OfCourse(course.id());
                            assertThat(new WhyClosed(engine)
                                            .of(history, target, now)
                                            .isEmpty())
                                    .isEqualTo(open.contains(person + " " + target.path()));
                        }
                    }
                }));
    }

    private static Range<Instant> range(Window window) {
        return Objects.requireNonNull(window)
                .end()
                .map(end -> Range.closedOpen(window.start(), end))
                .orElse(Range.atLeast(window.start()));
    }
}
