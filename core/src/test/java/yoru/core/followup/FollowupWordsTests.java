package yoru.core.followup;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.LocalTime;
import java.time.Period;
import java.time.ZoneId;
import java.util.Currency;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Followup.Code;
import yoru.core.rulebook.Followup.Condition;
import yoru.core.rulebook.Followup.Sold;
import yoru.core.rulebook.Followup.Step;
import yoru.core.rulebook.Followup.When;
import yoru.core.rulebook.Named;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Option;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Quantity;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.School;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Target;

/** Follow-ups are said as one would say them. */
class FollowupWordsTests {

    private static final Sold ANYTHING = new Sold(Set.of(), Set.of(), Set.of());
    private static final Sold QUEENS = new Sold(Set.of("QUEEN"), Set.of("LIVE"), Set.of("Courses"));
    private static final Destination FIRST_HIVE = Destination.whole("first-hive");
    private static final Destination TAG = new Destination.Exactly(new Target.OfTag("new"));

    private final FollowupWords words = new FollowupWords(new Rulebook(
                    new School(ZoneId.of("Europe/Dublin"), Currency.getInstance("EUR"), OpensOn.PAID),
                    List.of(new Course("first-hive", "First Hive", List.of("Starter"), false, List.of())),
                    List.of(new Product(
                            "QUEEN",
                            "Queen Rearing",
                            List.of("Courses"),
                            List.of(new Option("LIVE", "with live calls")),
                            null,
                            new Billing.Once(),
                            Quantity.ONCE)),
                    List.of())
            .with(Sort.TAG, List.of(new Named("new", "New here"))));

    @Test
    void whatIsWaitedFor() {
        assertThat(words.when(new When.OfOrder(When.Moment.PAID, QUEENS)))
                .isEqualTo("somebody has paid for any of Courses, Queen Rearing or Queen Rearing, with live calls");
        assertThat(words.when(new When.OfOrder(When.Moment.REFUNDED, ANYTHING))).isEqualTo("anything is paid back");
        assertThat(words.when(new When.OfSubscription(When.Turn.FAILED, ANYTHING)))
                .isEqualTo("a payment for anything fails");
        assertThat(words.when(new When.Ending(List.of(FIRST_HIVE, TAG), Period.ofDays(14))))
                .isEqualTo("First Hive or the tag New here ends for somebody in 14 days");
        assertThat(words.when(new When.Completed(List.of("first-hive", "gone"))))
                .isEqualTo("somebody has finished First Hive or gone");
    }

    @Test
    void whatIsAskedAndWhatCameOut() {
        var first = new Condition.Bought(QUEENS, Condition.Counts.PAID, null, 0);
        assertThat(words.condition(new Condition.Not(new Condition.Has(List.of(TAG)))))
                .isEqualTo("they do not have the tag New here");
        assertThat(words.condition(new Condition.Bought(ANYTHING, Condition.Counts.KEPT, 2, null)))
                .isEqualTo("they bought and kept anything at least 2 times before");
        assertThat(words.condition(new Condition.Amount(new BigDecimal("300")))).contains("€300.00 or more");
        assertThat(words.answer(new Followups.Answer(first, false, 3)))
                .startsWith("they bought none of any of Courses, ")
                .endsWith(" before (3): no");
        assertThat(words.conditions(List.of(new Condition.OfChannel(true), new Condition.Field("academy", "yes"))))
                .isEqualTo("it was entered by hand and the field academy says “yes”");
    }

    @Test
    void whatIsDone() {
        assertThat(words.step(new Step.Give(List.of(FIRST_HIVE, TAG), Period.ofYears(1))))
                .isEqualTo("give First Hive and the tag New here for 1 year");
        assertThat(words.step(new Step.WaitUntil(LocalTime.of(9, 0)))).isEqualTo("wait until 09:00");
        assertThat(words.step(new Step.Write(
                        "Welcome", "x", new Code(new BigDecimal("15.0"), null, null, Period.ofDays(60), 1))))
                .isEqualTo("write “Welcome” with a code for 15 % off, good for 60 days");
        Map.of(
                        "give tag/new", "give the tag New here",
                        "take course/first-hive", "take the course First Hive away",
                        "set academy=a=b", "set the field academy to “a=b”",
                        "end tag/new", "end the tag New here")
                .forEach((does, said) -> assertThat(words.done(does, null)).isEqualTo(said));
        assertThat(words.done("write Hello, ann@post.example", "Hello, Ann")).isEqualTo("write “Hello, Ann”");
    }

    @Test
    void moreThanFourAreCounted() {
        var many = new Sold(Set.of("A", "B", "C", "D", "E", "F"), Set.of(), Set.of());
        assertThat(words.set(many)).isEqualTo("A, B, C or 3 more");
    }
}
