package yoru.core.followup;

import static org.assertj.core.api.Assertions.assertThat;
import static yoru.core.Shop.day;
import static yoru.core.Shop.line;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import yoru.core.Shop;
import yoru.core.followup.PurchaseCount.Counts;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.RulebookIndex;

/** How often somebody has bought something of a set before; at volume it is compared with SQL in the server's tests. */
class PurchaseCountTests {

    private static final PurchaseSet QUEENS = new PurchaseSet(Set.of("QUEEN"), Set.of(), Set.of());

    private final Shop shop = new Shop();
    private final List<Fact> facts = new ArrayList<>();

    private void buys(String order, int day, OrderLine... lines) {
        facts.add(shop.placed(order, "ada", day(day), lines));
        facts.add(shop.paid(order, "ada", day(day)));
    }

    private int before(String order, PurchaseSet set, Counts counts) {
        var plain = Shop.rulebook(OpensOn.PAID);
        var products = List.of(
                new Product("QUEEN", "QUEEN", List.of("courses"), new Billing.Once()),
                new Product("SMOKER", "SMOKER", List.of("things"), new Billing.Once()));
        var count = new PurchaseCount(new RulebookIndex(plain.withCatalogue(plain.courses(), products)));
        var history = Histories.of(Ledger.of(facts)).person("ada");
        var asked = history.orders().stream()
                .filter(one -> one.id().equals(order))
                .findFirst()
                .orElseThrow();
        return count.before(history, asked, set, counts);
    }

    @Test
    void byProductOptionAndCategory() {
        var live = new OrderLine("1", "QUEEN", "QUEEN-LIVE", 1, BigDecimal.ONE, null);
        buys("1", 1, live);
        buys("2", 2, line("1", "QUEEN", "9.00"), line("2", "SMOKER", "9.00"));
        buys("3", 3, line("1", "SMOKER", "9.00"));
        buys("4", 4, line("1", "GONE", "9.00"));
        assertThat(before("4", QUEENS, Counts.PAID)).isEqualTo(2);
        assertThat(before("2", QUEENS, Counts.PAID)).as("itself does not count").isEqualTo(1);
        assertThat(before("1", QUEENS, Counts.PAID)).isZero();
        assertThat(before("4", new PurchaseSet(Set.of(), Set.of("QUEEN-LIVE"), Set.of()), Counts.PAID))
                .isEqualTo(1);
        assertThat(before("4", new PurchaseSet(Set.of(), Set.of(), Set.of("things")), Counts.PAID))
                .isEqualTo(2);
    }

    @Test
    void whatCounts() {
        facts.add(shop.placed("1", "ada", day(1), line("1", "QUEEN", "9.00")));
        buys("2", 2, line("1", "QUEEN", "9.00"), line("2", "SMOKER", "9.00"));
        facts.add(shop.fact("ada", day(3), new Happening.OrderRefunded("2", "1", null)));
        buys("3", 3, line("1", "QUEEN", "9.00"));
        facts.add(shop.fact("ada", day(4), new Happening.OrderRefunded("3", "1", BigDecimal.ONE)));
        buys("4", 4, line("1", "QUEEN", "9.00"));
        facts.add(shop.fact("ada", day(5), new Happening.OrderCancelled("4")));
        facts.add(shop.placed("5", "ada", day(5), line("1", "QUEEN", "0.00")));
        buys("6", 6, line("1", "SMOKER", "9.00"));
        assertThat(before("6", QUEENS, Counts.ORDERED))
                .as("all but the cancelled one")
                .isEqualTo(4);
        assertThat(before("6", QUEENS, Counts.PAID))
                .as("a free one counts as paid")
                .isEqualTo(3);
        assertThat(before("6", QUEENS, Counts.PAID_AND_KEPT))
                .as("given back in part is kept")
                .isEqualTo(2);
    }
}
