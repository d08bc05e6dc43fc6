package yoru.core.access;

import static org.assertj.core.api.Assertions.assertThat;
import static yoru.core.Shop.day;
import static yoru.core.Shop.line;

import java.util.List;
import org.junit.jupiter.api.Test;
import yoru.core.Shop;
import yoru.core.access.Explanation.Step;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.OpensOn;

/** What people read when they ask why. */
class ExplanationTests {

    private final Shop shop = new Shop();

    private List<Step> why(OpensOn opensOn, Fact... facts) {
        var rulebook = Shop.rulebook(opensOn, Shop.link("QUEEN", "queen-rearing", Shop.lasting("P1Y")));
        var access = new Engine(rulebook)
                .evaluate(Ledger.of(List.of(facts)), day(20))
                .access();
        assertThat(access).hasSize(1);
        return new Explanation(rulebook, 14).of(access.getFirst());
    }

    @Test
    void fromThePaymentOverTheLinkToTheWindow() {
        var steps = why(
                OpensOn.PAID,
                shop.placed("2041", "ada", day(0), line("1", "QUEEN", "180")),
                shop.paid("2041", "ada", day(1)));
        assertThat(steps)
                .extracting(Step::title)
                .containsExactly("Bought and paid", "The mapping says", "So it is open");
        assertThat(steps)
                .extracting(Step::text)
                .containsExactly(
                        "Order 2041, line 1: QUEEN. €180.00, 2 Mar 2025.",
                        "QUEEN opens queen-rearing for 1 year; a refund ends it."
                                + " Link QUEEN-queen-rearing, rulebook 14.",
                        "2 Mar 2025 to 2 Mar 2026");
    }

    @Test
    void everyReasonAndHowItEnded() {
        var steps = why(
                OpensOn.PAID,
                shop.placed("1", "ada", day(0), line("1", "QUEEN", "0")),
                shop.placed("2", "ada", day(2), line("7", "QUEEN", "180")),
                shop.paid("2", "ada", day(2)),
                shop.fact("ada", day(3), new Happening.OrderRefunded("2", "7", null)));
        assertThat(steps)
                .extracting(Step::title)
                .containsExactly(
                        "Ordered at no charge",
                        "The mapping says",
                        "Bought and paid",
                        "The mapping says",
                        "Refunded",
                        "So it is open");
        assertThat(steps.get(4).text()).isEqualTo("Order 2, line 7, 4 Mar 2025.");
    }

    @Test
    void whatIsOverSaysSo() {
        var steps = why(
                OpensOn.FULFILLED,
                shop.placed("1", "ada", day(0), line("1", "QUEEN", "180")),
                shop.fact("ada", day(1), new Happening.OrderFulfilled("1")),
                shop.fact("ada", day(5), new Happening.OrderCancelled("1")));
        assertThat(steps)
                .extracting(Step::title)
                .containsExactly(
                        "Bought and fulfilled", "The mapping says", "Cancelled", "So it was open, and is closed now");
        assertThat(steps.getLast().text()).isEqualTo("2 Mar 2025 to 6 Mar 2025");
    }
}
