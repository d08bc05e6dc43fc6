package yoru.core.followup;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import yoru.core.Reactions;
import yoru.core.Seeds;
import yoru.core.Shrink;
import yoru.core.World;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.impact.Concern;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Followup.Once;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;

/** What must hold of follow-ups whatever the school and whatever happened, over generated schools and follow-ups. */
class FollowupPropertiesTests {

    private static final int RUNS = 4;
    private static final int SEEDS = Seeds.of(100);

    private static LongStream runs() {
        return LongStream.range(0, RUNS);
    }

    private static Stream<World> worlds(long run) {
        return worlds(run * SEEDS, (run + 1) * SEEDS);
    }

    private static Stream<World> worlds(long from, long to) {
        return LongStream.range(from, to)
                .mapToObj(World::of)
                .map(world -> world.withRulebook(Reactions.added(world.rulebook(), world.seed()))
                        .withFacts(someLongPast(world)));
    }

    /** In every third school some of what happened was brought in as long past. */
    private static List<Fact> someLongPast(World world) {
        var random = new Random(world.seed());
        return world.facts().stream()
                .map(fact -> world.seed() % 3 == 0 && random.nextInt(4) == 0
                        ? new Fact(fact.id(), fact.subject(), fact.time(), fact.happening(), true)
                        : fact)
                .toList();
    }

    private static Followups.Done done(World world, List<Fact> facts, Instant asOf) {
        return new Followups(world.rulebook()).until(Ledger.of(facts), asOf);
    }

    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void orderAndRepetitionChangeNothing(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var mixed = new ArrayList<>(world.facts());
                    mixed.addAll(world.facts().subList(0, world.facts().size() / 2));
                    Collections.shuffle(mixed, new Random(world.seed()));
                    assertThat(done(world, mixed, World.END)).isEqualTo(done(world, world.facts(), World.END));
                }));
    }

    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void whatWasDueStaysDueWhateverHappensLater(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var at = World.MOMENTS.get((int) (world.seed() % 10) + 3);
                    var later = done(world, world.facts(), World.END).rows().stream()
                            .filter(row -> !row.time().isAfter(at))
                            .toList();
                    assertThat(done(world, world.facts(), at).rows()).isEqualTo(later);
                }));
    }

    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void withWhatItDecidedInTheLedgerNothingIsOtherwise(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var whole = done(world, world.facts(), World.END);
                    var at = World.MOMENTS.get((int) (world.seed() % 12) + 1);
                    var until = done(world, world.facts(), at);
                    var facts = new ArrayList<>(world.facts());
                    facts.addAll(until.facts());
                    facts.addAll(until.marks());
                    assertThat(done(world, facts, World.END).rows()).isEqualTo(whole.rows());
                }));
    }

    /** What a preview promises is what then happens: the others did what they did, and this one does the same again. */
    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void aPreviewOfWhatWasOnAllAlongSaysWhatItDid(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var whole = done(world, world.facts(), World.END);
                    var facts = new ArrayList<>(world.facts());
                    facts.addAll(whole.facts());
                    facts.addAll(whole.marks());
                    for (Followup followup : world.rulebook().followups()) {
                        if (!followup.on() || followup.since().isPresent()) {
                            continue;
                        }
                        var preview = new Preview(world.rulebook(), followup.id(), Wording.PLAIN, World.END);
                        var shown = preview.of(Ledger.of(facts)).runs().stream()
                                .flatMap(it -> it.rows().stream())
                                .sorted(Followups.Row.ORDER)
                                .toList();
                        assertThat(shown)
                                .as(followup.id())
                                .isEqualTo(whole.rows().stream()
                                        .filter(row -> row.followup().equals(followup.id()))
                                        .toList());
                        assertThat(preview.atOnce(Ledger.of(facts)))
                                .as("what was served stays served")
                                .isEmpty();
                    }
                }));
    }

    /** Reports come late, some of them long; what a ledger keeps says by itself what is open now. */
    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void aLedgerSaysByItselfWhatFollowUpsMadeHoweverLateReportsCome(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var random = new Random(world.seed() + 5);
                    var engine = new Engine(world.rulebook());
                    var followups = new Followups(world.rulebook());
                    var people =
                            world.facts().stream().map(Fact::subject).distinct().toList();
                    var toCome = new ArrayList<>(world.facts());
                    var ledger = new ArrayList<Fact>();
                    for (Instant now : World.MOMENTS) {
                        toCome.removeIf(fact -> {
                            boolean comes = !fact.time().isAfter(now) && random.nextInt(3) > 0;
                            return comes && ledger.add(fact);
                        });
                        var done = followups.until(Ledger.of(ledger), now);
                        ledger.addAll(Kept.lacking(Ledger.of(ledger), done, people, engine.calendar(), now));
                        assertThat(open(engine, Ledger.of(ledger), now))
                                .as("at %s", now)
                                .isEqualTo(open(engine, followups.with(Ledger.of(ledger), now), now));
                    }
                }));
    }

    /** What is watched is computed by the links that lead there, and anew only where a fact matters or a window turns. */
    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void whatIsWatchedStandsAsTheWholeSaysThatItDoes(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var engine = new Engine(world.rulebook());
                    var watched = Watched.of(engine);
                    var ledger = Ledger.of(world.facts());
                    boolean follows = ledger.facts().stream()
                            .anyMatch(fact -> fact.happening() instanceof Happening.GrantGiven it
                                    && it.follows().isPresent());
                    Map<String, Standing> standings = new HashMap<>();
                    for (int many = 1; many <= ledger.facts().size(); many++) {
                        var fact = ledger.facts().get(many - 1);
                        var known = Histories.of(ledger.first(many));
                        if (follows || watched.matters(fact, known)) {
                            standings.clear();
                        }
                        for (String subject : List.of(fact.subject(), known.personOf(fact.subject()))) {
                            var person = known.person(subject);
                            var standing = standings.compute(
                                    subject,
                                    (key, was) -> was == null
                                            ? new Standing(watched, watched.access(person), fact.time())
                                            : was.at(fact.time()));
                            var turn = standing.until().orElse(World.END);
                            for (var at : Map.of(fact.time(), standing, turn, standing.at(turn))
                                    .entrySet()) {
                                assertThat(windows(at.getValue().windows(at.getKey())))
                                        .as("%s at %s", subject, at.getKey())
                                        .isEqualTo(windows(engine.access(person, at.getKey()).stream()
                                                .filter(one -> watched.contains(one.target()))
                                                .toList()));
                                assertThat(at.getValue().open())
                                        .isEqualTo(engine.access(person, at.getKey()).stream()
                                                .filter(one -> one.state().isOpen() && watched.contains(one.target()))
                                                .map(Access::target)
                                                .collect(Collectors.toSet()));
                            }
                        }
                    }
                }));
    }

    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void aTargetLooksTheSameByTheLinksThatLeadToIt(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var engine = new Engine(world.rulebook());
                    var known = Histories.of(Ledger.of(world.facts()));
                    var whole = engine.access(known, World.END);
                    var targets = whole.stream().map(Access::target).distinct().toList();
                    for (var target : targets) {
                        assertThat(of(target, engine.concerning(Set.of(target)).access(known, World.END)))
                                .as(target.path())
                                .isEqualTo(of(target, whole));
                    }
                }));
    }

    /** Whoever is passed by at a publish that cannot concern them would have been served the same. */
    @Test
    void whomADifferenceOfLinksCannotConcernFollowUpsServeTheSame() {
        var unconcerned = new AtomicInteger();
        var otherwise = new AtomicInteger();
        worlds(0, SEEDS)
                .forEach(any -> Shrink.check(any, world -> {
                    var ledger = Ledger.of(world.facts());
                    var histories = Histories.of(ledger).all();
                    var here = new Followups(world.rulebook()).until(ledger, World.END);
                    for (var source : world.rulebook().links().stream()
                            .map(Link::from)
                            .distinct()
                            .toList()) {
                        var other = world.rulebook()
                                .withLinks(world.rulebook().links().stream()
                                        .filter(link -> !link.from().equals(source))
                                        .toList());
                        var concern = Concern.inFollowups(world.rulebook(), other);
                        var there = new Followups(other).until(ledger, World.END);
                        for (History history : histories) {
                            if (!concern.isOf(history)) {
                                unconcerned.incrementAndGet();
                                assertThat(rows(there, history.person()))
                                        .as("%s without what %s opens", history.person(), source)
                                        .isEqualTo(rows(here, history.person()));
                            } else if (!rows(there, history.person()).equals(rows(here, history.person()))) {
                                otherwise.incrementAndGet();
                            }
                        }
                    }
                }));
        assertThat(unconcerned).hasPositiveValue();
        assertThat(otherwise).as("the difference can be felt").hasPositiveValue();
    }

    private static List<Followups.Row> rows(Followups.Done done, String person) {
        return done.rows().stream().filter(row -> row.person().equals(person)).toList();
    }

    private static List<Access> of(Target target, List<Access> access) {
        return access.stream().filter(one -> one.target().equals(target)).toList();
    }

    private static List<String> windows(List<Access> access) {
        return access.stream()
                .map(one -> one.target().path() + " " + one.window() + " " + one.state() + " " + one.renews())
                .toList();
    }

    private static Set<String> open(Engine engine, Ledger ledger, Instant now) {
        return engine.evaluate(ledger, now).access().stream()
                .filter(one -> one.state().isOpen())
                .map(one -> one.person() + " " + one.target().path())
                .collect(Collectors.toCollection(TreeSet::new));
    }

    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void noOccasionIsServedTwiceAndOnceHolds(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    Set<String> begun = new HashSet<>();
                    Map<String, Integer> byPerson = new HashMap<>();
                    boolean merges =
                            world.facts().stream().anyMatch(it -> it.happening() instanceof Happening.OfPerson);
                    for (Fact mark : done(world, world.facts(), World.END).marks()) {
                        var went = (Happening.FollowupWent) mark.happening();
                        if (went.as() != null) {
                            assertThat(begun.add(mark.subject() + went.followup() + went.occasion()))
                                    .as("%s of %s", went.followup(), went.occasion())
                                    .isTrue();
                            if (!merges && went.as().once() == Once.PERSON) {
                                byPerson.merge(mark.subject() + " " + went.followup(), 1, Integer::sum);
                            }
                        }
                    }
                    assertThat(byPerson.values()).allMatch(many -> many == 1);
                }));
    }

    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void whatIsOffOrGoneServesNothingMoreAndWhatRunsGoesOn(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var book = world.rulebook();
                    var bare = new Rulebook(book.school(), book.things(), book.links());
                    var nothing = world.withRulebook(bare);
                    assertThat(done(nothing, world.facts(), World.END).rows()).isEmpty();
                    assertThat(new Engine(bare)
                                    .evaluate(new Followups(bare).with(Ledger.of(world.facts()), World.END), World.END)
                                    .access())
                            .isEqualTo(new Engine(bare)
                                    .evaluate(Ledger.of(world.facts()), World.END)
                                    .access());
                    var at = World.MOMENTS.get(6);
                    var until = done(world, world.facts(), at);
                    var facts = new ArrayList<>(world.facts());
                    facts.addAll(until.facts());
                    facts.addAll(until.marks());
                    var begun = until.marks().stream()
                            .map(it -> (Happening.FollowupWent) it.happening())
                            .map(it -> it.followup() + " " + it.occasion())
                            .toList();
                    assertThat(done(nothing, facts, World.END).rows())
                            .allSatisfy(row -> assertThat(begun).contains(row.followup() + " " + row.occasion()))
                            .containsAll(until.rows());
                }));
    }

    @Test
    void theSchoolsHaveWhatThisIsAbout() {
        var kinds = new TreeMap<String, Integer>();
        worlds(0, 240).forEach(world -> {
            var done = done(world, world.facts(), World.END);
            done.rows()
                    .forEach(row ->
                            kinds.merge(row.does().substring(0, row.does().indexOf(' ')), 1, Integer::sum));
            done.marks().forEach(mark -> {
                var went = (Happening.FollowupWent) mark.happening();
                if (went.as() != null) {
                    kinds.merge(Occasion.Kind.of(went.as().when()).name(), 1, Integer::sum);
                    kinds.merge("once " + went.as().once(), 1, Integer::sum);
                    if (!went.as().rows().isEmpty()) {
                        kinds.merge("row", 1, Integer::sum);
                    }
                }
                if (went.round() > 1) {
                    kinds.merge("another round", 1, Integer::sum);
                }
                if (went.waits() != null) {
                    kinds.merge("waits", 1, Integer::sum);
                }
            });
        });
        assertThat(kinds.keySet())
                .contains("give", "end", "take", "set", "write", "tell", "row", "another round", "waits")
                .contains("once ALWAYS", "once ORDER", "once THING", "once PERSON")
                .contains(Stream.of(Occasion.Kind.values()).map(Enum::name).toArray(String[]::new));
    }

    @Test
    void oneByOneIsTheSameAsTogether() {
        worlds(0).filter(FollowupPropertiesTests::nobodySharesAnything).forEach(world -> {
            var together = done(world, world.facts(), World.END).rows();
            var apart = World.PEOPLE.stream()
                    .flatMap(person -> done(
                            world,
                            world.facts().stream()
                                    .filter(fact -> fact.subject().equals(person))
                                    .toList(),
                            World.END)
                            .rows()
                            .stream())
                    .toList();
            assertThat(apart).containsExactlyInAnyOrderElementsOf(together);
        });
    }

    private static boolean nobodySharesAnything(World world) {
        var whose = new HashMap<String, String>();
        return world.facts().stream()
                .allMatch(fact -> !(fact.happening() instanceof Happening.OfPerson)
                        && fact.happening()
                                .thing()
                                .map(thing -> whose.computeIfAbsent(thing, key -> fact.subject())
                                        .equals(fact.subject()))
                                .orElse(true));
    }

    @Test
    void noTwoFactsItMakesHaveOneId() {
        worlds(1).forEach(world -> {
            var done = done(world, world.facts(), World.END);
            var ids = Stream.concat(done.facts().stream(), done.marks().stream())
                    .map(Fact::id)
                    .map(FactId::id)
                    .toList();
            assertThat(ids).doesNotHaveDuplicates();
        });
    }
}
