package yoru.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.Period;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import yoru.core.Shop;
import yoru.core.World;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Quantity;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Terms;

/** Ledgers that nobody sends in good faith. What is quadratic would not come to an end here. */
class HostileLedgerTests {

    private static final Instant FIRST = Instant.parse("0001-01-01T00:00:00Z");
    private static final Instant LAST = Instant.parse("9999-12-31T23:59:59Z");
    private static final int MANY = 100_000;

    private final Shop shop = new Shop();
    private final List<Fact> facts = new ArrayList<>();

    private static Terms extendingBy(String period) {
        return Terms.DEFAULT
                .with(new Length.Lasting(Period.parse(period)), Terms.OnRefund.END, BigDecimal.ONE)
                .with(Terms.Repeat.EXTEND);
    }

    private static Rulebook queens(Billing billing, Quantity quantity, Terms terms) {
        var plain = Shop.rulebook(OpensOn.PAID, Shop.link("QUEEN", "queen-rearing", terms));
        var product = new Product("QUEEN", "QUEEN", List.of(), List.of(), null, billing, quantity);
        return plain.withCatalogue(plain.courses(), List.of(product));
    }

    private List<Access> access(Rulebook rulebook, Instant asOf) {
        return new Engine(rulebook).evaluate(Ledger.of(facts), asOf).access();
    }

    private void buys(String order, Instant at, OrderLine... lines) {
        facts.add(shop.placed(order, "ada", at, lines));
        facts.add(shop.paid(order, "ada", at));
    }

    @Test
    void datesFromYearOneToTheEndOfTheCalendar() {
        buys("first", FIRST, Shop.line("1", "QUEEN", "1.00"));
        buys("last", LAST, Shop.line("1", "QUEEN", "1.00"));
        var rows = access(queens(new Billing.Once(), Quantity.ONCE, extendingBy("P9999Y")), LAST);
        // in year 1 Dublin's clocks were 25 minutes 21 seconds behind (local mean time, IANA tzdata)
        assertThat(rows.getFirst().window()).isEqualTo(new Window(FIRST, Instant.parse("9999-12-31T23:34:39Z")));
        assertThat(rows.getLast().window().start()).isEqualTo(LAST);
        assertThat(rows.getLast().window().end())
                .hasValueSatisfying(end -> assertThat(end).isAfter(LAST));
    }

    @Test
    void aQuantityOfTwoThousandMillionTimesTenThousandYears() {
        var line = new OrderLine("1", "QUEEN", null, Integer.MAX_VALUE, new BigDecimal("1.00"), null);
        buys("O1", Shop.MARCH, line);
        var rows = access(queens(new Billing.Once(), Quantity.LONGER, extendingBy("P9999Y9999M")), LAST);
        assertThat(rows)
                .singleElement()
                .satisfies(row -> assertThat(row.state()).isEqualTo(State.OPEN));
    }

    @Test
    void seatsByTheThousandMillionOfWhichOneIsTakenUp() {
        buys("O1", Shop.MARCH, new OrderLine("1", "QUEEN", null, Integer.MAX_VALUE, BigDecimal.ONE, null));
        facts.add(shop.fact("ben", Shop.day(1), new Happening.GiftClaimed("O1", "1", Integer.MAX_VALUE)));
        var rulebook = queens(new Billing.Once(), Quantity.SEATS, Terms.DEFAULT);
        assertThat(access(rulebook, LAST)).extracting(Access::person).containsExactly("ada", "ben");
    }

    @Test
    void anOrderOfVeryManyLinesAndAsManyRefunds() {
        var lines = IntStream.range(0, MANY)
                .mapToObj(n -> Shop.line("l" + n, "QUEEN", "999999999999999999.99"))
                .toArray(OrderLine[]::new);
        buys("O1", Shop.MARCH, lines);
        for (int n = 0; n < MANY; n++) {
            facts.add(shop.fact("ada", Shop.day(5), new Happening.OrderRefunded("O1", "l" + n, null)));
        }
        assertThat(access(queens(new Billing.Once(), Quantity.ONCE, extendingBy("P1D")), LAST))
                .singleElement()
                .satisfies(row -> assertThat(row.window().end()).hasValue(Shop.day(5)));
    }

    @Test
    void veryManyPurchasesInOneChainSuspendedAllAlong() {
        var plan = new Billing.Instalments(1000, Period.ofDays(1), Period.ZERO);
        for (int n = 0; n < MANY; n++) {
            buys("O" + n, Shop.MARCH.plusSeconds(n), Shop.line("1", "QUEEN", "1000.00"));
        }
        assertThat(access(queens(plan, Quantity.ONCE, extendingBy("P1Y")), LAST))
                .isNotEmpty();
    }

    @Test
    void veryManyLevelsTagsAndChoicesOfOnePerson() {
        var world = World.of(1);
        for (int n = 0; n < MANY; n++) {
            var at = Shop.MARCH.plusSeconds(n);
            facts.add(shop.fact(
                    "ada", at, n % 2 == 0 ? new Happening.LevelStarted("friend") : new Happening.LevelEnded("friend")));
            facts.add(shop.fact(
                    "ada", at, n % 3 == 0 ? new Happening.TagAdded("amber") : new Happening.TagRemoved("amber")));
            facts.add(shop.fact(
                    "ada",
                    at,
                    n % 5 > 0 ? new Happening.CourseChosen("wax-works") : new Happening.CourseReleased("wax-works")));
        }
        assertThat(access(world.rulebook(), LAST)).hasSizeGreaterThan(MANY / 3);
    }

    @Test
    void aRowOfVeryManyMergesAndACircle() {
        buys("O1", Shop.MARCH, Shop.line("1", "QUEEN", "1.00"));
        for (int n = 0; n < MANY; n++) {
            var from = n == 0 ? "ada" : "ada-" + n;
            facts.add(shop.fact(from, Shop.day(1), new Happening.PersonMerged("ada-" + (n + 1))));
        }
        facts.add(shop.fact("ada-" + MANY, Shop.day(2), new Happening.PersonMerged("ada")));
        assertThat(access(queens(new Billing.Once(), Quantity.ONCE, Terms.DEFAULT), LAST))
                .extracting(Access::person)
                .containsExactly("ada-" + MANY);
    }

    @Test
    void aHandOrderRefundedBeforeItWasEverPaid() {
        facts.add(shop.fact(
                "ada",
                Shop.day(5),
                new Happening.OrderPlaced("O1", Channel.HAND, Shop.EUR, List.of(Shop.line("1", "QUEEN", "5.00")))));
        facts.add(shop.fact("ada", Shop.day(3), new Happening.OrderRefunded("O1", null, null)));
        facts.add(new Fact(new FactId("desk", "late"), "ada", Shop.day(9), new Happening.OrderPaid("O1")));
        Link link = Shop.link("QUEEN", "queen-rearing", Terms.DEFAULT);
        assertThat(access(Shop.rulebook(OpensOn.PAID, link), LAST)).isEmpty();
    }
}
