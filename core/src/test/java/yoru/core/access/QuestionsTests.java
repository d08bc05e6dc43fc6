package yoru.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.Period;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import yoru.core.Shop;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Allowance;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Named;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Starts;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;

/** What support is asked: why is it closed, and how many choices are left. */
class QuestionsTests {

    private static final Target QUEENS = new Target.OfCourse("queen-rearing");
    private static final Instant NOW = Shop.day(40);

    private final Shop shop = new Shop();
    private final List<Fact> facts = new ArrayList<>();
    private Rulebook rulebook = Shop.rulebook(OpensOn.PAID, Shop.link("QUEEN", "queen-rearing", Shop.lasting("P10D")));

    private List<String> whyClosed() {
        var engine = new Engine(rulebook);
        var history = Histories.of(Ledger.of(facts).asOf(NOW)).person("ada");
        var explanation = new Explanation(rulebook, 3);
        return new WhyClosed(engine)
                .of(history, QUEENS, NOW).stream().map(explanation::obstacle).toList();
    }

    @Test
    void nothingThatSheHasOpensIt() {
        assertThat(whyClosed()).containsExactly("Nothing that is held opens it; QUEEN would.");
        rulebook = Shop.rulebook(OpensOn.PAID);
        assertThat(whyClosed()).containsExactly("Nothing opens it, whatever is held.");
    }

    @Test
    void theNearestReasonsComeFirst() {
        facts.add(shop.placed("1", "ada", Shop.day(0), Shop.line("1", "QUEEN", "9.00")));
        facts.add(shop.paid("1", "ada", Shop.day(0)));
        facts.add(shop.placed("2", "ada", Shop.day(3), Shop.line("1", "QUEEN", "9.00")));
        facts.add(shop.paid("2", "ada", Shop.day(3)));
        facts.add(shop.placed("3", "ada", Shop.day(5), Shop.line("1", "QUEEN", "9.00")));
        facts.add(shop.placed("4", "ada", Shop.day(6), Shop.line("1", "QUEEN", "9.00")));
        facts.add(shop.fact("ada", Shop.day(7), new Happening.OrderCancelled("4")));
        var gift = new OrderLine("1", "QUEEN", null, 1, new BigDecimal("9.00"), "friend@post.example");
        facts.add(shop.placed("5", "ada", Shop.day(6), gift));
        assertThat(whyClosed())
                .containsExactly(
                        "Order 3, line 1: QUEEN is not paid yet.",
                        "Order 4, line 1: QUEEN was taken back before it opened.",
                        "Order 5, line 1: QUEEN is for somebody else.",
                        "It ended on 14 Mar 2025 (order 2, 10 days).",
                        "It ended on 11 Mar 2025 (order 1, 10 days).");
    }

    /** Why the first line of an order opens nothing to whoever placed it. */
    private String whyUnopened(String order) {
        var known = Histories.of(Ledger.of(facts).asOf(NOW)).order(order).orElseThrow();
        var line = known.details().lines().getFirst();
        return new Explanation(rulebook, 3)
                .unopened(new WhyUnopened(new Engine(rulebook), "SMOKER"::equals).of(known, line));
    }

    @Test
    void whyALineOpensNothing() {
        var plain = Shop.rulebook(OpensOn.PAID, Shop.link("QUEEN", "queen-rearing", Terms.DEFAULT));
        var once = new Billing.Once();
        rulebook = new Rulebook(
                plain.school(),
                plain.courses(),
                List.of(
                        new Product("QUEEN", "QUEEN", List.of(), once),
                        new Product("SMOKER", "SMOKER", List.of(), once),
                        new Product("PLAIN", "PLAIN", List.of(), once),
                        new Product(
                                "YEAR",
                                "YEAR",
                                List.of(),
                                new Billing.Recurring(Period.ofYears(1), Period.ZERO, Period.ZERO, null, false))),
                List.of(plain.links().getFirst(), Shop.link("YEAR", "queen-rearing", Terms.DEFAULT)));
        var products = List.of("QUEEN", "SMOKER", "PLAIN", "YEAR", "ELSEWHERE");
        products.forEach(it -> facts.add(shop.placed(it, "ada", Shop.day(0), Shop.line("1", it, "9.00"))));
        assertThat(products.stream().map(this::whyUnopened))
                .containsExactly(
                        "It opens when it is paid.",
                        "A thing to post. It stays to be fulfilled.",
                        "Nothing is mapped to it yet.",
                        "Its subscription begins when it is paid: enter it then.",
                        "The mapping does not know this product.");

        facts.add(shop.fact("ada", Shop.day(1), new Happening.OrderCancelled("QUEEN")));
        facts.add(shop.fact("ada", Shop.day(1), new Happening.OrderFulfilled("SMOKER")));
        facts.add(shop.paid("YEAR", "ada", Shop.day(1)));
        var gift = new OrderLine("1", "QUEEN", null, 1, new BigDecimal("9.00"), "friend@post.example");
        facts.add(shop.placed("5", "ada", Shop.day(2), gift));
        assertThat(List.of(whyUnopened("QUEEN"), whyUnopened("SMOKER"), whyUnopened("YEAR"), whyUnopened("5")))
                .containsExactly(
                        "It was taken back before it opened.",
                        "A thing to post: it opens nothing.",
                        "It is paid again and again: its subscription opens what it opens.",
                        "It opens for whoever takes the gift up.");
    }

    @Test
    void whatIsToComeAndWhatIsMissing() {
        rulebook = Shop.rulebook(
                OpensOn.FULFILLED,
                Shop.link("QUEEN", "queen-rearing", Terms.DEFAULT.with(new Starts.After(Period.ofDays(60)))));
        facts.add(shop.fact(
                "ada",
                Shop.day(0),
                new Happening.OrderPlaced("1", Channel.SHOP, Shop.EUR, List.of(Shop.line("1", "QUEEN", "9.00")))));
        assertThat(whyClosed()).containsExactly("Order 1, line 1: QUEEN is not fulfilled yet.");
        facts.add(shop.fact("ada", Shop.day(1), new Happening.OrderFulfilled("1")));
        assertThat(whyClosed()).containsExactly("It opens on 1 May 2025 (order 1, always).");
    }

    /** By way of a tag, and with a plan of which a part is missing. */
    @Test
    void alsoBehindATag() {
        var plain = Shop.rulebook(OpensOn.PAID);
        var plan = new Billing.Instalments(3, Period.ofDays(20), Period.ofDays(5));
        rulebook = new Rulebook(
                        plain.school(),
                        plain.courses(),
                        List.of(new Product("PLAN", "PLAN", List.of(), plan)),
                        List.of(
                                new Link(
                                        "L1",
                                        new Source.OfProduct("PLAN"),
                                        List.of(new Destination.Exactly(new Target.OfTag("member"))),
                                        Terms.DEFAULT),
                                new Link(
                                        "L2",
                                        new Source.OfTag("member"),
                                        List.of(Destination.whole("queen-rearing")),
                                        Terms.DEFAULT)))
                .with(Sort.TAG, List.of(new Named("member", "member")));
        facts.add(shop.placed("1", "ada", Shop.day(0), Shop.line("1", "PLAN", "9.00")));
        assertThat(whyClosed()).containsExactly("Order 1, line 1: PLAN is not paid yet.");
        facts.add(shop.paid("1", "ada", Shop.day(0)));
        assertThat(whyClosed()).containsExactly("A payment is missing since 26 Mar 2025 (tag member, always).");
        var access = new Engine(rulebook)
                .access(Histories.of(Ledger.of(facts).asOf(NOW)).person("ada"), NOW);
        assertThat(new Explanation(rulebook, 3).of(access.getFirst()))
                .extracting(step -> step.title() + ": " + step.text())
                .containsExactly(
                        "Bought and paid: Order 1, line 1: PLAN. €9.00, 1 Mar 2025.",
                        "The mapping says: PLAN opens member always; a refund ends it. Link L1, rulebook 3.",
                        "A payment is missing: Closed from 26 Mar 2025 until it comes.",
                        "The mapping says: Tag member opens queen-rearing as long as it is held. Link L2, rulebook 3.",
                        "So it is closed until the payment comes: 1 Mar 2025 to 26 Mar 2025; it goes on with the payment");
    }

    @Test
    void choicesLeft() {
        var courses = List.of("first-hive", "queen-rearing", "calm-swarms").stream()
                .map(id -> new Course(id, id, List.of(), id.equals("queen-rearing"), List.of()))
                .toList();
        var keeper = new Level("keeper", "Keeper", null, 0, new Allowance(2, 0, List.of(), List.of()));
        var plain = Shop.rulebook(OpensOn.PAID);
        rulebook = new Rulebook(plain.school(), courses, List.of(), List.of()).with(Sort.LEVEL, List.of(keeper));
        facts.add(shop.fact("ada", Shop.day(0), new Happening.LevelStarted("keeper")));
        facts.add(shop.fact("ada", Shop.day(1), new Happening.CourseChosen("queen-rearing")));
        facts.add(shop.fact("ada", Shop.day(2), new Happening.CourseChosen("first-hive")));
        var history = Histories.of(Ledger.of(facts)).person("ada");
        var choices = new Engine(rulebook).choices(history, NOW);
        assertThat(choices.left()).isEqualTo(1);
        assertThat(choices.waiting()).containsExactly("queen-rearing");
        assertThat(choices.places()).singleElement().satisfies(places -> {
            assertThat(places.taken()).containsExactly("first-hive");
            assertThat(places.premiumLeft()).hasValue(0);
        });
        assertThat(whyClosed()).containsExactly("It was chosen, and the allowance has no place left for it.");
        assertThat(new Engine(rulebook)
                        .choices(history, Shop.MARCH.minusSeconds(1))
                        .places())
                .isEmpty();
    }
}
