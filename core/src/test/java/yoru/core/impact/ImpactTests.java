package yoru.core.impact;

import static org.assertj.core.api.Assertions.assertThat;
import static yoru.core.Shop.day;
import static yoru.core.Shop.line;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import yoru.core.Shop;
import yoru.core.impact.Change.Kind;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Applies;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Section;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Starts;
import yoru.core.rulebook.Terms;

class ImpactTests {

    private static final Source QUEEN = new Source.OfProduct("QUEEN");
    private static final Destination COURSE = Destination.whole("queen-rearing");

    private final Shop shop = new Shop();
    private final Ledger ledger = Ledger.of(List.of(
            shop.placed("O1", "ada", day(0), line("1", "QUEEN", "180.00")),
            shop.paid("O1", "ada", day(0)),
            shop.placed("O2", "ben", day(1), line("1", "QUEEN", "180.00"), line("2", "FIRST", "90.00")),
            shop.paid("O2", "ben", day(1))));
    private final Rulebook nothing = Shop.rulebook(OpensOn.PAID);
    private final Rulebook always = nothing.with(List.of(new CellChange(QUEEN, COURSE, Terms.DEFAULT)));
    private final Rulebook month = nothing.with(List.of(new CellChange(QUEEN, COURSE, Shop.lasting("P1M"))));
    private final Rulebook both =
            always.with(List.of(new CellChange(new Source.OfProduct("FIRST"), COURSE, Terms.DEFAULT)));

    @Test
    void saysWhoGainsLosesAndEndsAtAnotherTime() {
        assertThat(kinds(nothing, always)).containsExactly("ada GAINS", "ben GAINS");
        assertThat(kinds(always, nothing)).containsExactly("ada LOSES", "ben LOSES");
        assertThat(kinds(always, month)).containsExactly("ada SHORTER", "ben SHORTER");
        assertThat(kinds(month, always)).containsExactly("ada LONGER", "ben LONGER");
        assertThat(kinds(both, both.with(List.of(new CellChange(QUEEN, COURSE, null)))))
                .as("ben keeps it for another reason")
                .containsExactly("ada LOSES");
    }

    @Test
    void saysWhatWasAndWhatWillBeAndWhetherItIsNow() {
        var shorter = new Impact(always, month).over(ledger, day(2)).getFirst();
        assertThat(shorter.now()).isFalse();
        assertThat(shorter.before())
                .singleElement()
                .satisfies(one -> assertThat(one.window().end()).isEmpty());
        assertThat(shorter.after())
                .singleElement()
                .satisfies(one -> assertThat(one.window().end()).isPresent());
        var lost = new Impact(always, nothing).over(ledger, day(2)).getFirst();
        assertThat(lost.now()).isTrue();
        assertThat(lost.after()).isEmpty();
        assertThat(new Impact(month, always).over(ledger, day(90)).getFirst().before())
                .as("what is over is no part of it")
                .isEmpty();
    }

    @Test
    void whatIsOverIsNoLoss() {
        assertThat(new Impact(month, nothing).over(ledger, day(60))).isEmpty();
    }

    @Test
    void aLaterStartIsALossUntilThenAndAnEarlierOneAGain() {
        var notBefore = nothing.with(List.of(new CellChange(QUEEN, COURSE, startsAt("2025-03-20T09:00"))));
        assertThat(new Impact(always, notBefore).over(ledger, day(2))).allSatisfy(change -> {
            assertThat(change.kind()).isEqualTo(Kind.LOSES);
            assertThat(change.now()).isTrue();
            assertThat(change.backOn()).contains(Instant.parse("2025-03-20T09:00:00Z"));
        });
        var count = Headcount.of(new Impact(always, notBefore).over(ledger, day(2)));
        assertThat(count.of(Kind.LOSES))
                .isEqualTo(new Headcount.Figure(2, 0, 2, Instant.parse("2025-03-20T09:00:00Z")));
        assertThat(new Impact(notBefore, always).over(ledger, day(2))).allSatisfy(change -> {
            assertThat(change.kind()).isEqualTo(Kind.LONGER);
            assertThat(change.opensNow()).isTrue();
        });
        assertThat(new Impact(always, notBefore).over(ledger, day(40)))
                .as("the day is past")
                .isEmpty();
    }

    @Test
    void underAMinuteIsNoChange() {
        var at = nothing.with(List.of(new CellChange(QUEEN, COURSE, startsAt("2025-03-20T09:00:00"))));
        var soonAfter = nothing.with(List.of(new CellChange(QUEEN, COURSE, startsAt("2025-03-20T09:00:59"))));
        var aMinuteLater = nothing.with(List.of(new CellChange(QUEEN, COURSE, startsAt("2025-03-20T09:01:00"))));
        assertThat(kinds(at, soonAfter)).isEmpty();
        assertThat(kinds(at, aMinuteLater)).containsExactly("ada SHORTER", "ben SHORTER");
        assertThat(kinds(aMinuteLater, at)).containsExactly("ada LONGER", "ben LONGER");
    }

    @Test
    void partsThatAreWrittenDownGiveNothingToWhoHasTheWhole() {
        var parts = List.of(new Section("grafting", "Grafting", null));
        var inParts = new Rulebook(
                always.school(),
                List.of(
                        new Course("queen-rearing", "Queen Rearing", List.of(), false, parts),
                        always.courses().getFirst()),
                always.products(),
                always.links());
        assertThat(kinds(always, inParts)).isEmpty();
        assertThat(kinds(inParts, always)).isEmpty();
        assertThat(kinds(inParts, inParts.with(List.of(new CellChange(QUEEN, COURSE, null)))))
                .containsExactly("ada LOSES", "ada LOSES", "ben LOSES", "ben LOSES");
    }

    @Test
    void aPersonCountsOnceByTheWorst() {
        var other = Destination.whole("first-hive");
        var instead =
                always.with(List.of(new CellChange(QUEEN, COURSE, null), new CellChange(QUEEN, other, Terms.DEFAULT)));
        var count = Headcount.of(new Impact(always, instead).over(ledger, day(2)));
        assertThat(count.of(Kind.LOSES)).isEqualTo(new Headcount.Figure(2, 0, 0, null));
        assertThat(count.of(Kind.GAINS)).isEqualTo(Headcount.Figure.NOBODY);
    }

    @Test
    void saysWhyBuyersGainNothing() {
        var first = new Source.OfProduct("FIRST");
        var gift = new OrderLine("1", "QUEEN", null, 1, new BigDecimal("180.00"), "friend@hive.example");
        var facts = Ledger.of(List.of(
                shop.placed("G", "gains", day(1), line("1", "QUEEN", "180.00")),
                shop.paid("G", "gains", day(1)),
                shop.placed("H", "has", day(1), line("1", "QUEEN", "180.00"), line("2", "FIRST", "90.00")),
                shop.paid("H", "has", day(1)),
                shop.placed("U", "unpaid", day(1), line("1", "QUEEN", "180.00")),
                shop.placed("O", "over", day(-60), line("1", "QUEEN", "180.00")),
                shop.paid("O", "over", day(-60)),
                shop.placed("T", "taken", day(1), line("1", "QUEEN", "180.00")),
                shop.paid("T", "taken", day(1)),
                shop.fact("taken", day(2), new Happening.OrderCancelled("T")),
                shop.placed("F", "giver", day(1), gift),
                shop.paid("F", "giver", day(1)),
                shop.fact("taker", day(2), new Happening.GiftClaimed("F", "1", 1)),
                shop.placed("N", "nothing", day(1), line("1", "FREE", "0.00")),
                shop.paid("N", "nothing", day(1))));
        var by = nothing.with(List.of(new CellChange(first, COURSE, Terms.DEFAULT)));
        var too = by.with(List.of(new CellChange(QUEEN, COURSE, Shop.lasting("P1M"))));
        assertThat(why(by, too, facts))
                .isEqualTo(Map.of(
                        "has", NoGain.Why.HAS_IT,
                        "unpaid", NoGain.Why.NOT_YET,
                        "over", NoGain.Why.OVER,
                        "taken", NoGain.Why.TAKEN_BACK,
                        "giver", NoGain.Why.FOR_SOMEBODY_ELSE));
        var fromNow = new CellChange(
                QUEEN, COURSE, Terms.DEFAULT, new Applies(day(3), null, Applies.Afterwards.RUN_OUT), null);
        assertThat(why(by, by.with(List.of(fromNow)), facts))
                .containsEntry("gains", NoGain.Why.NOT_COUNTED)
                .containsEntry("taker", NoGain.Why.NOT_COUNTED);
        assertThat(why(too, by, facts)).as("nothing is opened more").isEmpty();
    }

    private static Map<String, NoGain.Why> why(Rulebook before, Rulebook after, Ledger facts) {
        var impact = new Impact(before, after);
        Map<String, NoGain.Why> why = new TreeMap<>();
        Histories.of(facts)
                .all()
                .forEach(history -> impact.of(history, day(3)).noGain().ifPresent(it -> why.put(history.person(), it)));
        return why;
    }

    private static Terms startsAt(String at) {
        return Terms.DEFAULT.with(new Starts.At(LocalDateTime.parse(at)));
    }

    @Test
    void aChangedCellKeepsItsLinkAndSparesTheOthers() {
        var other = Destination.whole("first-hive");
        var wide = new Rulebook(
                nothing.school(),
                nothing.courses(),
                nothing.products(),
                List.of(new Link("L1", QUEEN, List.of(COURSE, other), Terms.DEFAULT)));
        var changed = wide.with(List.of(new CellChange(QUEEN, COURSE, Shop.lasting("P1Y"))));
        assertThat(changed.links()).extracting(Link::to).containsExactly(List.of(other), List.of(COURSE));
        assertThat(always.with(List.of(new CellChange(QUEEN, COURSE, Shop.lasting("P1Y"))))
                        .links())
                .extracting(Link::id)
                .containsExactly(always.links().getFirst().id());
    }

    private List<String> kinds(Rulebook before, Rulebook after) {
        return new Impact(before, after)
                .over(ledger, day(2)).stream()
                        .map(change -> change.person() + " " + change.kind())
                        .toList();
    }
}
