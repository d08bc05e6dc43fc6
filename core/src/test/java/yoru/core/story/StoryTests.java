package yoru.core.story;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import yoru.core.Seeds;
import yoru.core.Shop;
import yoru.core.Shrink;
import yoru.core.World;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.access.HowLong;
import yoru.core.desk.Act;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.OrderLine;
import yoru.core.letters.Letter;
import yoru.core.moves.Turn;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Quantity;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;
import yoru.core.systems.Ability;
import yoru.core.systems.ConnectedSystem;
import yoru.core.systems.Landscape;
import yoru.core.systems.Matter;
import yoru.core.systems.Wish;

/** Stories compared with the engine asked once at the end, over generated schools; and what one step says, counted by hand. */
class StoryTests {

    private static final int SEEDS = Seeds.of(200);
    private static final String BARN = "barn";
    private static final String LOFT = "loft";
    private static final String CONTACTS = "contacts";
    private static final Target HIVE = new Target.OfCourse("first-hive");
    private static final Target QUEEN = new Target.OfCourse("queen-rearing");

    /** Two classrooms share the courses; the contacts have a field for the next end. */
    private static final Landscape LANDSCAPE = new Landscape(List.of(
            system(BARN, null, Set.of(Ability.ACCOUNTS, Ability.ENROLMENT, Ability.SECTIONS, Ability.CATALOGUE), HIVE),
            system(LOFT, null, Set.of(Ability.ENROLMENT, Ability.SECTIONS, Ability.CATALOGUE), QUEEN),
            system(CONTACTS, "ends", Set.of(Ability.TAGS, Ability.LISTS, Ability.FIELDS)),
            system("mailbox", null, Set.of(Ability.MESSAGES))));

    private static ConnectedSystem system(String id, String field, Set<Ability> abilities, Target... lists) {
        var pages = Stream.of(lists).collect(Collectors.toMap(it -> it, it -> "https://%s.example".formatted(id)));
        return new ConnectedSystem(id, id, true, abilities, pages, null, field);
    }

    private static LongStream runs() {
        return LongStream.range(0, 5);
    }

    private static Stream<World> worlds(long run) {
        return LongStream.range(run * SEEDS, (run + 1) * SEEDS).mapToObj(World::of);
    }

    private static Setting in(World world) {
        return new Setting("School", new Engine(world.rulebook()), LANDSCAPE);
    }

    /** Every fact is a report that comes in at its own time, in an order of its own. */
    private static List<Step> steps(World world) {
        return world.facts().stream()
                .sorted(Comparator.comparing(Fact::time))
                .map(fact -> Step.of(fact.time(), new Deed.Reported(fact)))
                .toList();
    }

    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void aStoryEndsWhereTheEngineEndsOverAllItsFacts(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var story = Story.begin(in(world), Instant.EPOCH);
                    steps(world).forEach(story::tell);
                    story.tell(Step.of(World.END));
                    assertThat(World.PEOPLE.stream()
                                    .flatMap(person -> story.access(person).stream())
                                    .toList())
                            .isEqualTo(new Engine(world.rulebook())
                                    .evaluate(Ledger.of(world.facts()), World.END)
                                    .access());
                    assertThat(story.ledger().facts())
                            .isEqualTo(Ledger.of(world.facts()).facts());
                }));
    }

    /** Told step by step and boundary by boundary, a system holds what is open and concerns it, and nothing else. */
    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void whatTheSystemsHoldIsWhatIsOpen(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var story = Story.begin(in(world), Instant.EPOCH);
                    for (Step step : steps(world)) {
                        story.tell(step);
                        World.PEOPLE.forEach(person -> holdsWhatIsOpen(story, person));
                    }
                }));
    }

    private static void holdsWhatIsOpen(Story story, String person) {
        Map<String, Map<Target, HowLong>> held = new HashMap<>();
        for (Wish wish : story.held(person)) {
            if (wish.matter() instanceof Matter.Access it) {
                held.computeIfAbsent(wish.system(), key -> new HashMap<>()).put(it.target(), wish.howLong());
            }
        }
        Map<String, Map<Target, HowLong>> open = new HashMap<>();
        for (Access access : story.access(person)) {
            if (access.state().isOpen()) {
                LANDSCAPE
                        .toldOf(access.target())
                        .forEach(system -> open.computeIfAbsent(system.id(), key -> new HashMap<>())
                                .put(access.target(), HowLong.of(access)));
            }
        }
        assertThat(held).isEqualTo(open);
    }

    /** What a chapter says has moved is the difference to what there was at the one before it, by itself or not. */
    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void whatHasMovedIsTheDifferenceToWhatWasBefore(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var story = Story.begin(in(world), Instant.EPOCH);
                    Map<String, Set<Target>> before = new HashMap<>();
                    for (Step step : steps(world)) {
                        var told = story.tell(step);
                        for (Chapter chapter : Stream.concat(told.meanwhile().stream(), Stream.of(told))
                                .toList()) {
                            for (String person : World.PEOPLE) {
                                var is = open(chapter.with(person));
                                var was = Objects.requireNonNullElse(before.put(person, is), Set.<Target>of());
                                var moves = chapter.turn(person).map(Turn::moves);
                                var opened = new HashSet<>(is);
                                opened.removeAll(was);
                                var ended = new HashSet<>(was);
                                ended.removeAll(is);
                                assertThat(moves.stream()
                                                .flatMap(it -> it.opened().stream())
                                                .map(it -> it.target()))
                                        .containsExactlyInAnyOrderElementsOf(opened);
                                assertThat(moves.stream()
                                                .flatMap(it -> it.ended().stream())
                                                .map(it -> it.target()))
                                        .containsExactlyInAnyOrderElementsOf(ended);
                            }
                        }
                    }
                }));
    }

    private static Set<Target> open(List<Access> access) {
        return access.stream()
                .filter(one -> one.state().isOpen())
                .map(Access::target)
                .collect(Collectors.toSet());
    }

    private static Setting small(Terms terms) {
        var rulebook = Shop.rulebook(
                OpensOn.PAID, Shop.link("FIRST", "first-hive", terms), Shop.link("QUEEN", "queen-rearing", terms));
        return new Setting("Hollow Oak", new Engine(rulebook), LANDSCAPE);
    }

    private static Happening.OrderPlaced placed(String order, OrderLine... lines) {
        return new Happening.OrderPlaced(order, Channel.SHOP, Shop.EUR, List.of(lines));
    }

    @Test
    void aStepSaysWhatOpensWhoIsToldAndWhichLetterGoesAndTheEndComesByItself() {
        var story = Story.begin(small(Shop.lasting("P1M")), Shop.day(0));
        assertThat(story.tell(Step.of(Shop.day(0), "ada", placed("O1", Shop.line("1", "FIRST", "90.00"))))
                        .turn("ada")
                        .orElseThrow()
                        .moves()
                        .opened())
                .as("nothing is paid yet")
                .isEmpty();
        var paid = story.tell(Step.of(Shop.day(1), "ada", new Happening.OrderPaid("O1")));
        var until = HowLong.until(Instant.parse("2025-04-02T09:00:00Z"), false); // summer time began
        assertThat(paid.told("ada"))
                .containsExactly(
                        Wish.account(BARN),
                        Wish.open(BARN, new Matter.Access(HIVE), until),
                        Wish.field(CONTACTS, "ends", "2025-04-02"));
        assertThat(paid.letter("ada", Optional.of("Ada")).map(Letter::subject)).contains("first-hive is open for you");
        assertThat(paid.letter("ben", Optional.empty())).isEmpty();

        var later = story.tell(Step.of(Shop.day(60)));
        assertThat(later.told("ada")).as("told when it ended, not at the step").isEmpty();
        assertThat(story.held("ada")).containsExactly(Wish.account(BARN));
    }

    @Test
    void whatIsKnownAlreadyIsNotToldAgain() {
        var shop = new Shop();
        var known = new ArrayList<Fact>();
        known.add(shop.placed("O1", "ada", Shop.day(0), Shop.line("1", "FIRST", "90.00")));
        known.add(shop.paid("O1", "ada", Shop.day(0)));
        var story = Story.begin(small(Terms.DEFAULT), Ledger.of(known), Shop.day(5));
        var chapter = story.tell(Step.of(
                Shop.day(5), "ada", placed("O2", Shop.line("1", "QUEEN", "180.00")), new Happening.OrderPaid("O2")));
        assertThat(chapter.told("ada")).containsExactly(Wish.open(LOFT, new Matter.Access(QUEEN), HowLong.ALWAYS));
        assertThat(chapter.letter("ada", Optional.empty()).orElseThrow().text())
                .contains("queen-rearing")
                .doesNotContain("first-hive");
    }

    @Test
    void theFirstLetterAboutAnOrderSaysWhichSeatsItsBuyerCanGive() {
        var seats = new OrderLine("1", "FIRST", null, 3, new BigDecimal("270.00"), null);
        var rulebook = Shop.rulebook(OpensOn.PAID, Shop.link("FIRST", "first-hive", Shop.lasting("P1M")));
        var team = rulebook.withCatalogue(
                rulebook.courses(),
                rulebook.products().stream()
                        .map(it -> it.id().equals("FIRST")
                                ? new Product(
                                        it.id(),
                                        it.title(),
                                        it.categories(),
                                        it.options(),
                                        null,
                                        it.billing(),
                                        Quantity.SEATS)
                                : it)
                        .toList());
        var story = Story.begin(new Setting("Hollow Oak", new Engine(team), LANDSCAPE), Shop.day(0));
        var bought = story.tell(Step.of(Shop.day(0), "ada", placed("O1", seats), new Happening.OrderPaid("O1")));
        assertThat(bought.letter("ada", Optional.empty()).orElseThrow().text()).contains("2 more places are yours");
        var claimed = story.tell(Step.of(Shop.day(1), "ben", new Happening.GiftClaimed("O1", "1", 2)));
        assertThat(claimed.letter("ben", Optional.empty()).orElseThrow().text())
                .as("of others' orders nobody learns anything")
                .doesNotContain("yours");
        var again = story.tell(Step.of(
                Shop.day(40), "ada", placed("O2", Shop.line("1", "FIRST", "90.00")), new Happening.OrderPaid("O2")));
        assertThat(again.letter("ada", Optional.empty()).orElseThrow().text())
                .as("they have the address")
                .doesNotContain("place");
    }

    @Test
    void anActThatIsRefusedChangesNothing() {
        var story = Story.begin(small(Terms.DEFAULT), Shop.day(0));
        var item = new Act.Item("FIRST", null, 1, new BigDecimal("90"), BigDecimal.ZERO, null, null);
        var already = new Act.Payment.Already("cash", "");
        var refused = story.tell(Step.of(
                Shop.day(0),
                new Deed.Acts(new Act.Sell("H1", "ada@farm.example", List.of(item), already), "one"),
                new Deed.Acts(new Act.Sell("H2", "no address", List.of(item), already), "two")));
        assertThat(refused.refusals()).isNotEmpty();
        assertThat(story.ledger().facts()).isEmpty();
        assertThat(refused.with("ada@farm.example")).isEmpty();

        var sold = story.tell(Step.of(
                Shop.day(0), new Deed.Acts(new Act.Sell("H1", "ada@farm.example", List.of(item), already), "one")));
        assertThat(open(sold.with("ada@farm.example"))).containsExactly(HIVE);
        assertThatThrownBy(() -> story.tell(Step.of(Shop.MARCH.minusSeconds(1))))
                .hasMessageContaining("does not go back");
    }
}
