package yoru.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import yoru.core.Shop;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.OrderLine;
import yoru.core.ledger.Warning;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;

/** What is kept and cannot be used is told, fact by fact. */
class WarningsTests {

    private static final Instant LAST = Instant.parse("9999-12-31T23:59:59Z");

    private final Shop shop = new Shop();
    private final List<Fact> facts = new ArrayList<>();

    private void buys(String order, Instant at, OrderLine... lines) {
        facts.add(shop.placed(order, "ada", at, lines));
        facts.add(shop.paid(order, "ada", at));
    }

    /** Whatever is claimed, refunded, renewed or ended that never was is warned of by its own fact. */
    @Test
    void whatNeverWasIsWarnedOfFactByFact() {
        buys("O1", Shop.MARCH, Shop.line("1", "QUEEN", "1.00"));
        int good = facts.size();
        var nonsense = List.<Happening>of(
                new Happening.OrderRefunded("O1", "2", null),
                new Happening.OrderRefunded("O9", null, new BigDecimal("1e17")),
                new Happening.InstalmentPaid("O1", "1", 2),
                new Happening.InstalmentFailed("O1", "7", 2),
                new Happening.GiftClaimed("O1", "1", 1),
                new Happening.GiftClaimed("O9", "1", 1),
                new Happening.SubscriptionRenewed("S1", LAST),
                new Happening.SubscriptionCancelled("S1", true),
                new Happening.SubscriptionStarted("S2", "SMOKER", null, LAST, false),
                new Happening.LevelStarted("\uD83D\uDC1D"),
                new Happening.TagRemoved("gone"),
                new Happening.CourseChosen("gone"),
                new Happening.GrantEnded("G1"),
                new Happening.GrantGiven(
                        "G2", List.of(new Destination.Exactly(new Target.OfTag("gone"))), null, "prize"),
                new Happening.GrantGiven("G3", List.of(Destination.whole("gone")), null, "prize"),
                new Happening.GrantGiven(
                        "G4", List.of(new Destination.OfCourse("queen-rearing", "no-tier")), null, "prize"),
                new Happening.CourseCompleted("gone"),
                new Happening.CourseReleased("gone"),
                new Happening.LevelEnded("gone"),
                new Happening.TagAdded("gone"),
                new Happening.Unknown("hive.danced"));
        nonsense.forEach(happening -> facts.add(shop.fact("ada", Shop.day(3), happening)));
        var rulebook = Shop.rulebook(OpensOn.PAID, Shop.link("QUEEN", "queen-rearing", Terms.DEFAULT));
        var evaluation = new Engine(rulebook).evaluate(Ledger.of(facts), LAST);
        assertThat(evaluation.warnings())
                .extracting(Warning::fact)
                .containsExactlyInAnyOrderElementsOf(
                        facts.subList(good, facts.size()).stream().map(Fact::id).toList());
        assertThat(evaluation.access())
                .singleElement()
                .satisfies(row -> assertThat(row.state()).isEqualTo(State.OPEN));
    }

    @Test
    void whatIsRightIsNotWarnedOf() {
        buys("O1", Shop.MARCH, Shop.line("1", "QUEEN", "1.00"));
        facts.add(shop.fact("ada", Shop.day(2), new Happening.OrderRefunded("O1", "1", null)));
        facts.add(shop.fact("ada", Shop.day(2), new Happening.CourseCompleted("first-hive")));
        facts.add(shop.fact(
                "ada",
                Shop.day(2),
                new Happening.GrantGiven(
                        "G1", List.of(new Destination.OfCategory("none yet", List.of(), null)), null, "prize")));
        facts.add(shop.fact("ada", Shop.day(3), new Happening.GrantEnded("G1")));
        assertThat(new Engine(Shop.rulebook(OpensOn.PAID))
                        .evaluate(Ledger.of(facts), LAST)
                        .warnings())
                .isEmpty();
    }
}
