package yoru.core.desk;

import static org.assertj.core.api.Assertions.assertThat;
import static yoru.core.Shop.day;
import static yoru.core.Shop.line;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.Period;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import yoru.core.Shop;
import yoru.core.Shrink;
import yoru.core.World;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.access.Explanation;
import yoru.core.access.Window;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.OrderLine;
import yoru.core.orders.Movement;
import yoru.core.orders.OrderAccount;
import yoru.core.rulebook.Allowance;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Ladder;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Named;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Quantity;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.School;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;
import yoru.core.time.SchoolCalendar;

/** What acts come to, and when they are refused. */
class DeskTests {

    private static final String ADA = "ada@post.example";
    private static final String BEN = "ben@post.example";
    private static final Instant NOW = day(40);
    private static final Target QUEENS = new Target.OfCourse("queen-rearing");

    private final Shop shop = new Shop();
    private final List<Fact> facts = new ArrayList<>();
    private Rulebook rulebook = Shop.rulebook(
            OpensOn.PAID,
            Shop.link("QUEEN", "queen-rearing", Shop.lasting("P1Y")),
            Shop.link("FIRST", "first-hive", Terms.DEFAULT));
    private int acts;

    /** Decides it, and has it done where it is not refused. @return why it is refused */
    private List<String> act(Act act) {
        var decision = new Desk(new Engine(rulebook), Ledger.of(facts), NOW).decide(act, "act-" + ++acts);
        facts.addAll(decision.facts());
        assertThat(decision.facts().isEmpty()).isEqualTo(decision.isRefused());
        return decision.refusals().stream()
                .map(it -> it.field() + ": " + it.problem())
                .toList();
    }

    private static Act.Item item(int quantity, String price) {
        return new Act.Item("QUEEN", null, quantity, new BigDecimal(price), BigDecimal.ZERO, null, null);
    }

    @Test
    void whatMayBeASlipOfTheHandIsAskedAbout() {
        var doubts = new Doubts(rulebook, Map.of("QUEEN", new BigDecimal("180.00")), "FIRST"::equals);
        var asked = doubts.about(new Act.Sell(
                "H1",
                ADA,
                List.of(
                        item(1, "1800"),
                        item(1, "18.00"),
                        item(1, "18.01"),
                        item(1, "0"),
                        item(2, "180"),
                        new Act.Item("FIRST", null, 2, BigDecimal.TEN, BigDecimal.ZERO, null, null)),
                new Act.Payment.Already("cash", "")));
        assertThat(asked)
                .extracting(Doubts.Doubt::field)
                .as("and of a thing to post as many are sent as are bought")
                .containsExactly("items[0].price", "items[1].price", "items[4].quantity");
        assertThat(asked.getFirst().question()).isEqualTo("Is €1,800.00 meant for QUEEN? Its shop asks €180.00.");
    }

    private boolean isOpen(String person, Target target) {
        return windows(person, target).stream().anyMatch(one -> one.state().isOpen());
    }

    private List<Access> windows(String person, Target target) {
        return new Engine(rulebook)
                .access(Histories.of(Ledger.of(facts)).person(person), NOW).stream()
                        .filter(one -> one.target().equals(target))
                        .toList();
    }

    private static Act.Item item(String product, String price) {
        return new Act.Item(product, null, 1, new BigDecimal(price), BigDecimal.ZERO, null, null);
    }

    private static Act.Sell sell(String order, Act.Payment payment, Act.Item... items) {
        return new Act.Sell(order, ADA, List.of(items), payment);
    }

    @Test
    void howItIsPaidDecidesWhenItOpens() {
        var free = new Act.Payment.Free("volunteer");
        var paid = new Act.Payment.Already("cash", "receipt 4");
        var later = new Act.Payment.Later(false, LocalDate.of(2025, 5, 1));
        var openNow = new Act.Payment.Later(true, null);
        for (Act.Payment payment : List.of(free, paid, openNow, later)) {
            facts.clear();
            assertThat(act(sell("H1", payment, item("QUEEN", "180.00")))).isEmpty();
            assertThat(isOpen(ADA, QUEENS)).as("%s", payment).isEqualTo(payment != later);
        }
        assertThat(act(new Act.Pay("H1", "cash", ""))).isEmpty();
        assertThat(isOpen(ADA, QUEENS)).isTrue();
        assertThat(act(new Act.Pay("H1", "cash", ""))).containsExactly(": It is paid already.");
    }

    @Test
    void aFreePlaceCostsNothingAndRemembersWhatItWouldHaveCost() {
        act(sell("H1", new Act.Payment.Free("volunteer"), item("QUEEN", "180.00")));
        var placed = (Happening.OrderPlaced) facts.getFirst().happening();
        assertThat(placed.lines())
                .containsExactly(
                        new OrderLine("1", "QUEEN", null, 1, BigDecimal.ZERO, null, null, new BigDecimal("180.00")));
        assertThat(placed.reason()).isEqualTo("volunteer");
    }

    @Test
    void anOrderThatCannotBeIsRefusedWithEveryReason() {
        var wrong = new Act.Item("QUEEN", "LIVE", 0, new BigDecimal("0.001"), new BigDecimal("1.00"), ADA, null);
        assertThat(act(new Act.Sell("H1", ADA, List.of(wrong), new Act.Payment.Free(" "))))
                .containsExactly(
                        "items[0].option: The product has no such option.",
                        "items[0].quantity: From 1 to 1000.",
                        "items[0].price: EUR has no parts that small.",
                        "items[0].off: More is taken off than it costs.",
                        "items[0].giftTo: A gift is for somebody else.",
                        "payment.reason: Say why it is free of charge.");
        assertThat(act(new Act.Sell("H1", "ada", List.of(), new Act.Payment.Later(true, LocalDate.of(2025, 4, 9)))))
                .containsExactly(
                        "person: This is no e-mail address.",
                        "items: Add a product.",
                        "payment.payBy: This day is over.");
        assertThat(act(sell("H1", new Act.Payment.Already("", ""), item("NOTHING", "1.00"))))
                .containsExactly("items[0].product: There is no such product.");
        assertThat(facts).isEmpty();
    }

    @Test
    void noMoreIsGivenBackThanCame() {
        facts.add(shop.placed("O1", ADA, day(1), line("1", "QUEEN", "180.00"), line("2", "FIRST", "90.00")));
        assertThat(act(new Act.Refund("O1", null, null, "")))
                .containsExactly(": Nothing is left of what was paid. To end what is not paid, cancel it.");
        facts.add(shop.paid("O1", ADA, day(2)));
        assertThat(act(new Act.Refund("O1", "1", new BigDecimal("180.01"), "")))
                .containsExactly("amount: At most 180.00 is left of what was paid.");
        assertThat(act(new Act.Refund("O1", "3", null, ""))).contains("line: The order has no such line.");
        assertThat(act(new Act.Refund("O1", "1", new BigDecimal("80.00"), ""))).isEmpty();
        assertThat(isOpen(ADA, QUEENS)).isTrue();
        assertThat(act(new Act.Refund("O1", "1", null, ""))).isEmpty();
        assertThat(isOpen(ADA, QUEENS)).isFalse();
        assertThat(act(new Act.Cancel("O1"))).isEmpty();
        assertThat(act(new Act.Cancel("O1"))).containsExactly(": It is cancelled already.");
        assertThat(act(new Act.Fulfil("O1"))).containsExactly(": It was cancelled.");
        assertThat(act(new Act.Pay("O7", "", ""))).containsExactly("order: There is no order O7.");
    }

    @Test
    void longerIsCountedFromTheEndThatThereWouldBe() {
        facts.add(shop.placed("O1", ADA, day(1), line("1", "QUEEN", "180.00")));
        facts.add(shop.paid("O1", ADA, day(1)));
        var longer = new Act.Extend(ADA, QUEENS, Period.ofMonths(1), "she was ill");
        assertThat(act(longer)).isEmpty();
        // paid on 2 March 2025 at 10:00 UTC, which is an hour later by the clock once summer time has come
        assertThat(windows(ADA, QUEENS).getFirst().window().end()).contains(Instant.parse("2026-04-02T09:00:00Z"));
        assertThat(new Explanation(rulebook, 1).of(windows(ADA, QUEENS).getFirst()))
                .extracting(Explanation.Step::title)
                .contains("Given by hand", "Given until");
        assertThat(act(new Act.Extend(ADA, new Target.OfCourse("first-hive"), Period.ofDays(1), "why not")))
                .containsExactly("target: It is not open: give it instead.");
        assertThat(act(new Act.Give(ADA, List.of(Destination.whole("first-hive")), null, "")))
                .containsExactly("reason: Say why: whoever looks later wants to know.");
        assertThat(act(new Act.Give(ADA, List.of(Destination.whole("first-hive")), null, "prize")))
                .isEmpty();
        assertThat(act(new Act.Extend(ADA, new Target.OfCourse("first-hive"), Period.ofDays(1), "why not")))
                .containsExactly("target: It has no end.");
        var given = ((Happening.GrantGiven) facts.getLast().happening()).grant();
        assertThat(act(new Act.EndGrant(BEN, given))).containsExactly("grant: Nothing of that name was given.");
        assertThat(act(new Act.EndGrant(ADA, given))).isEmpty();
        assertThat(act(new Act.EndGrant(ADA, given))).containsExactly("grant: It was ended already.");
    }

    @Test
    void seatsAreGivenOnceEach() {
        rulebook = withProduct(product -> new Product(
                product.id(), product.title(), List.of(), List.of(), null, product.billing(), Quantity.SEATS));
        facts.add(shop.placed("O1", ADA, day(1), new OrderLine("1", "QUEEN", null, 3, new BigDecimal("540.00"), null)));
        facts.add(shop.paid("O1", ADA, day(1)));
        assertThat(act(new Act.Claim("O1", "1", 1, BEN))).containsExactly("seat: The order has no such seat.");
        assertThat(act(new Act.Claim("O1", "1", 3, BEN))).isEmpty();
        assertThat(act(new Act.Claim("O1", "1", 3, "cy@post.example")))
                .containsExactly("seat: Somebody has taken it already.");
        assertThat(act(new Act.Assign("O1", "1", List.of(BEN, "cy@post.example"))))
                .containsExactly(
                        "people: 1 seats are left for 2 people.", "people[0]: ben@post.example has a seat already.");
        assertThat(act(new Act.Assign("O1", "1", List.of("cy@post.example")))).isEmpty();
        assertThat(List.of(ADA, BEN, "cy@post.example")).allMatch(person -> isOpen(person, QUEENS));
    }

    /** Two levels on a ladder: a keeper chooses one course, a master both; QUEEN makes a master, FIRST each month. */
    private Act.ChangeLevel onTheLadder(String from, String to, String... returned) {
        var school = rulebook.school();
        var master = Destination.to(new Target.OfLevel("master"));
        rulebook = new Rulebook(
                        new School(
                                school.zone(),
                                school.currency(),
                                List.of(),
                                OpensOn.PAID,
                                List.of(new Ladder("hive", false)),
                                List.of()),
                        rulebook.courses(),
                        List.of(
                                new Product("QUEEN", "QUEEN", List.of(), new Billing.Once()),
                                new Product(
                                        "FIRST",
                                        "FIRST",
                                        List.of(),
                                        new Billing.Recurring(
                                                Period.ofMonths(1), Period.ofDays(7), Period.ZERO, null, false))),
                        List.of(
                                new Link("q", new Source.OfProduct("QUEEN"), List.of(master), Shop.lasting("P1Y")),
                                new Link("f", new Source.OfProduct("FIRST"), List.of(master), Terms.DEFAULT)))
                .with(
                        Sort.LEVEL,
                        List.of(
                                new Level("keeper", "Keeper", "hive", 1, new Allowance(1, null, List.of(), List.of())),
                                new Level(
                                        "master", "Master", "hive", 2, new Allowance(2, null, List.of(), List.of()))));
        return new Act.ChangeLevel(ADA, from, to, List.of(returned), true, "asked for it");
    }

    private boolean has(String level) {
        return isOpen(ADA, new Target.OfLevel(level));
    }

    private List<String> chosen() {
        return List.of("first-hive", "queen-rearing").stream()
                .filter(course -> isOpen(ADA, new Target.OfCourse(course)))
                .toList();
    }

    @Test
    void anotherLevelTakesThePlaceOfOneAndTheChoicesGoAlongAsFarAsThereArePlaces() {
        var up = onTheLadder("keeper", "master");
        assertThat(act(up)).contains("from: They do not have this level now.");
        act(new Act.StartLevel(ADA, "keeper"));
        act(new Act.Choose(ADA, "first-hive"));
        assertThat(act(up)).isEmpty();
        assertThat(has("master")).isTrue();
        assertThat(has("keeper")).isFalse();
        act(new Act.Choose(ADA, "queen-rearing"));
        assertThat(chosen()).containsExactly("first-hive", "queen-rearing");

        var before = List.copyOf(facts);
        assertThat(act(onTheLadder("master", "keeper"))).isEmpty();
        assertThat(has("master")).isFalse();
        assertThat(chosen()).as("the latest choice waits").containsExactly("first-hive");
        facts.clear();
        facts.addAll(before);
        assertThat(act(onTheLadder("master", "keeper", "first-hive"))).isEmpty();
        assertThat(chosen()).as("unless another is given back").containsExactly("queen-rearing");
        assertThat(act(onTheLadder("keeper", "master", "first-hive")))
                .containsExactly("returned: One of the courses was not chosen.");
        assertThat(act(onTheLadder("keeper", "keeper"))).containsExactly("to: They have it already.");
        assertThat(act(onTheLadder("keeper", "king"))).containsExactly("to: There is no such level.");
    }

    @Test
    void aLowerLevelLastsAsLongAsTheHigherWouldHave() {
        var down = onTheLadder("master", "keeper");
        act(new Act.Give(ADA, List.of(Destination.to(new Target.OfLevel("master"))), Period.ofMonths(3), "prize"));
        var end = windows(ADA, new Target.OfLevel("master")).getLast().window().end();
        assertThat(act(down)).isEmpty();
        assertThat(windows(ADA, new Target.OfLevel("keeper")).getLast().window().end())
                .isEqualTo(end)
                .isPresent();
        assertThat(has("master")).isFalse();

        facts.clear();
        act(sell("H1", new Act.Payment.Already("", ""), item("FIRST", "9.00")));
        assertThat(act(down)).isEmpty();
        assertThat(facts).anyMatch(fact -> fact.happening().equals(new Happening.SubscriptionCancelled("H1-1", false)));
        assertThat(has("keeper")).isTrue();
        assertThat(has("master")).isFalse();

        facts.clear();
        act(sell("H2", new Act.Payment.Already("", ""), item("QUEEN", "180.00")));
        assertThat(act(down)).containsExactly("from: It comes from order H2. Give that back first.");
        assertThat(has("master")).isTrue();
    }

    /** Silver by the month, gold by hand: gold ends with the subscription, and goes on with it. */
    @Test
    void aHigherLevelFollowsWhatPaysForTheOneBefore() {
        var ignored = onTheLadder("keeper", "master");
        rulebook = rulebook.withLinks(List.of(new Link(
                "f",
                new Source.OfProduct("FIRST"),
                List.of(Destination.to(new Target.OfLevel("keeper"))),
                Terms.DEFAULT)));
        act(sell("H1", new Act.Payment.Already("", ""), item("FIRST", "9.00")));
        assertThat(has("keeper")).isTrue();
        var before = List.copyOf(facts);
        assertThat(act(ignored)).isEmpty();
        var gold = windows(ADA, new Target.OfLevel("master"));
        assertThat(gold).singleElement().matches(Access::renews);
        assertThat(has("master")).isTrue();
        facts.add(shop.fact(ADA, NOW.plusSeconds(60), new Happening.SubscriptionRenewed("H1-1", day(90))));
        assertThat(windows(ADA, new Target.OfLevel("master")).getLast().window().end())
                .isEqualTo(Optional.of(new SchoolCalendar(rulebook.school().zone()).plus(day(90), Period.ofDays(7))));
        facts.add(shop.fact(ADA, NOW.plusSeconds(120), new Happening.SubscriptionCancelled("H1-1", false)));
        assertThat(windows(ADA, new Target.OfLevel("master")).getLast().window().end())
                .as("cancelled with what pays for it")
                .contains(NOW.plusSeconds(120));

        facts.clear();
        facts.addAll(before);
        assertThat(act(new Act.ChangeLevel(ADA, "keeper", "master", List.of(), false, "asked for it")))
                .isEmpty();
        var paid = windows(ADA, new Target.OfLevel("master")).getLast();
        assertThat(paid.renews()).isFalse();
        assertThat(paid.window().end())
                .as("the day up to which it is paid for, without the grace")
                .isEqualTo(windows(ADA, new Target.OfLevel("keeper"))
                        .getLast()
                        .entitlements()
                        .getFirst()
                        .stretch()
                        .grace()
                        .asList()
                        .stream()
                        .map(Window::start)
                        .findFirst());
    }

    @Test
    void aPlaceIsSpentOnlyWhereThereIsOne() {
        var places = new Allowance(1, null, List.of(), List.of());
        rulebook = new Rulebook(rulebook.school(), rulebook.courses(), rulebook.products(), rulebook.links())
                .with(Sort.LEVEL, List.of(new Level("keeper", "Keeper", null, 1, places)))
                .with(Sort.TAG, List.of(new Named("vip", "VIP")));
        assertThat(act(new Act.Choose(ADA, "queen-rearing")))
                .containsExactly("course: The allowance has no place left for it.");
        assertThat(act(new Act.StartLevel(ADA, "keeper"))).isEmpty();
        assertThat(act(new Act.Choose(ADA, "queen-rearing"))).isEmpty();
        assertThat(isOpen(ADA, QUEENS)).isTrue();
        assertThat(act(new Act.Choose(ADA, "queen-rearing"))).containsExactly("course: It is chosen already.");
        assertThat(act(new Act.Choose(ADA, "first-hive")))
                .containsExactly("course: The allowance has no place left for it.");
        assertThat(act(new Act.Release(ADA, "queen-rearing"))).isEmpty();
        assertThat(act(new Act.Release(ADA, "queen-rearing"))).containsExactly("course: It was not chosen.");
        assertThat(act(new Act.EndLevel(ADA, "keeper"))).isEmpty();
        assertThat(act(new Act.EndLevel(ADA, "keeper")))
                .containsExactly("level: It was not given by hand or by a system.");
        assertThat(act(new Act.AddTag(ADA, "vip"))).isEmpty();
        assertThat(act(new Act.RemoveTag(ADA, "vip"))).isEmpty();
        assertThat(act(new Act.RemoveTag(ADA, "vip")))
                .containsExactly("tag: It was not put on by hand or by a system.");
    }

    @Test
    void peopleAreJoinedOnceAndPartedOnce() {
        facts.add(shop.placed("O1", ADA, day(1), line("1", "QUEEN", "180.00")));
        facts.add(shop.paid("O1", ADA, day(1)));
        assertThat(act(new Act.Join(ADA, ADA))).contains("into: This is the same person.");
        assertThat(act(new Act.Part(ADA))).containsExactly("person: They are not joined with anybody.");
        assertThat(act(new Act.Join(ADA, BEN))).isEmpty();
        assertThat(isOpen(BEN, QUEENS)).isTrue();
        assertThat(act(new Act.Join(BEN, ADA))).containsExactly("into: They are joined already.");
        assertThat(act(new Act.Part(ADA))).isEmpty();
        assertThat(isOpen(BEN, QUEENS)).isFalse();
        assertThat(isOpen(ADA, QUEENS)).isTrue();
        assertThat(act(new Act.Part(ADA))).containsExactly("person: They are not joined with anybody.");
    }

    /** Whatever happened before: line by line, all that came is given back. */
    @Test
    void lineByLineAllThatWasPaidIsGivenBack() {
        LongStream.range(0, 300)
                .mapToObj(World::of)
                .forEach(any -> Shrink.check(any, world -> {
                    var engine = new Engine(world.rulebook());
                    var all = new ArrayList<>(world.facts());
                    var orders = Histories.of(Ledger.of(all).asOf(World.END)).all().stream()
                            .flatMap(history -> history.orders().stream())
                            .toList();
                    for (var order : orders) {
                        for (OrderLine line : order.details().lines()) {
                            var refund = new Act.Refund(order.id(), line.line(), null, "");
                            var decision = new Desk(engine, Ledger.of(all), World.END)
                                    .decide(refund, "r-" + order.id() + "-" + line.line());
                            all.addAll(decision.facts());
                        }
                    }
                    Histories.of(Ledger.of(all).asOf(World.END)).all().stream()
                            .flatMap(history -> history.orders().stream())
                            .map(order -> new OrderAccount(order, engine))
                            .filter(DeskTests::nothingWasWaivedBeforeItWasPaid)
                            .map(OrderAccount::sums)
                            .forEach(sums -> assertThat(sums.givenBack()).isEqualByComparingTo(sums.paid()));
                }));
    }

    /** A refund that came before the money counts as given back for the engine, and the money then stays. */
    private static boolean nothingWasWaivedBeforeItWasPaid(OrderAccount account) {
        return account.movements().stream()
                .map(Movement::kind)
                .dropWhile(kind -> kind != Movement.Kind.WAIVED)
                .noneMatch(kind -> kind == Movement.Kind.PAID);
    }

    private Rulebook withProduct(UnaryOperator<Product> change) {
        return rulebook.withCatalogue(
                rulebook.courses(),
                rulebook.products().stream()
                        .map(product -> product.id().equals("QUEEN") ? change.apply(product) : product)
                        .toList());
    }
}
