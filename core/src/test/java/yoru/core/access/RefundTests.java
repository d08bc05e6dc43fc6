package yoru.core.access;

import static org.assertj.core.api.Assertions.assertThat;
import static yoru.core.Shop.day;
import static yoru.core.Shop.line;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import yoru.core.Shop;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.Warning;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Terms;

/** When a refund ends what a line opened. */
class RefundTests {

    private final Shop shop = new Shop();
    private final List<Fact> facts = new ArrayList<>();
    private Rulebook rulebook = Shop.rulebook(
            OpensOn.PAID,
            Shop.link("FIRST", "first-hive", Terms.DEFAULT),
            Shop.link("QUEEN", "queen-rearing", Terms.DEFAULT));

    private void bought(String first, String second) {
        facts.add(shop.placed("O1", "ada", day(0), line("1", "FIRST", first), line("2", "QUEEN", second)));
        facts.add(shop.paid("O1", "ada", day(1)));
    }

    private void refunded(int day, @Nullable String line, @Nullable String amount) {
        var money = amount == null ? null : new BigDecimal(amount);
        facts.add(shop.fact("ada", day(day), new Happening.OrderRefunded("O1", line, money)));
    }

    private Evaluation evaluation() {
        return new Engine(rulebook).evaluate(Ledger.of(facts), day(100));
    }

    private Optional<Instant> end(String course) {
        var windows = evaluation().access().stream()
                .filter(access -> access.target().path().equals("course/" + course))
                .map(Access::window)
                .toList();
        assertThat(windows).hasSize(1);
        return windows.getFirst().end();
    }

    @Test
    void aLineRefundLeavesTheOtherLine() {
        bought("90.00", "180.00");
        refunded(5, "1", null);
        assertThat(end("first-hive")).contains(day(5));
        assertThat(end("queen-rearing")).isEmpty();
    }

    @Test
    void partsAddUpUntilAllIsGivenBack() {
        bought("90.00", "180.00");
        refunded(5, "2", "100.00");
        refunded(6, "2", "79.99");
        assertThat(end("queen-rearing")).isEmpty();
        refunded(7, "2", "500.00");
        assertThat(end("queen-rearing")).contains(day(7));
        assertThat(end("first-hive")).isEmpty();
    }

    @Test
    void anAmountOnTheOrderIsSpreadInProportion() {
        bought("0.10", "0.20");
        refunded(5, null, "0.20");
        refunded(6, null, "0.10");
        // 0.20 over 0.10 and 0.20: 0.06 (rounded down), the last takes 0.14; then 0.10 over 0.04 and 0.06
        assertThat(end("first-hive")).contains(day(6));
        assertThat(end("queen-rearing")).contains(day(6));
    }

    @Test
    void aFreeLineEndsWithTheOrderOrWhenNamed() {
        bought("0.00", "180.00");
        refunded(5, null, "179.00");
        assertThat(end("first-hive")).isEmpty();
        refunded(6, null, "1.00");
        assertThat(end("first-hive")).contains(day(6));
        facts.removeIf(fact -> fact.happening() instanceof Happening.OrderRefunded);
        refunded(7, "1", null);
        assertThat(end("first-hive")).contains(day(7));
        assertThat(end("queen-rearing")).isEmpty();
    }

    @Test
    void refundedBeforeItBeganItNeverBegins() {
        bought("90.00", "180.00");
        facts.add(shop.fact("ada", day(0).plusSeconds(60), new Happening.OrderRefunded("O1", "1", null)));
        assertThat(evaluation().access())
                .extracting(access -> access.target().path())
                .containsExactly("course/queen-rearing");
    }

    @Test
    void keepOutlivesARefundButNotACancellation() {
        rulebook = Shop.rulebook(
                OpensOn.PAID,
                Shop.link(
                        "FIRST",
                        "first-hive",
                        Terms.DEFAULT.with(Terms.DEFAULT.length(), Terms.OnRefund.KEEP, BigDecimal.ONE)));
        bought("90.00", "180.00");
        refunded(5, null, null);
        assertThat(end("first-hive")).isEmpty();
        facts.add(shop.fact("ada", day(9), new Happening.OrderCancelled("O1")));
        assertThat(end("first-hive")).contains(day(9));
    }

    @Test
    void whatCannotBeUsedIsSaid() {
        bought("90.00", "180.00");
        refunded(5, "7", null);
        facts.add(shop.paid("O9", "ada", day(2)));
        facts.add(shop.placed("O2", "ben", day(3), line("1", "SMOKER", "40.00")));
        facts.add(new Fact(facts.getFirst().id(), "eve", day(0), new Happening.OrderPaid("O1")));
        var evaluation = evaluation();
        assertThat(evaluation.warnings())
                .extracting(Warning::sentence)
                .containsExactlyInAnyOrder(
                        "fact shop/f1 was told twice with other content; the first counts",
                        "fact shop/f3 names line 7, which order O1 does not have",
                        "fact shop/f4 names order O9, which was never placed",
                        "fact shop/f5 names product SMOKER, which the rulebook does not have");
        assertThat(evaluation.access()).extracting(Access::person).containsOnly("ada");
    }
}
