package yoru.core.samples;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.Period;
import java.util.List;
import org.junit.jupiter.api.Test;
import yoru.core.Shop;
import yoru.core.access.Window;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Terms;

/** What a cell does for somebody invented; expected windows are counted by hand. */
class SampleStoryTests {

    private static final Instant NOW = Instant.parse("2026-01-31T10:00:00Z");
    private static final Destination COURSE = Destination.whole("first-hive");

    private static List<SampleStory.Scene> scenes(Source source, Billing billing, Terms terms) {
        var shop = Shop.rulebook(OpensOn.FULFILLED);
        var rulebook = new Rulebook(
                        shop.school(),
                        List.of(new Course("first-hive", "First Hive", List.of())),
                        List.of(new Product("FIRST", "First Hive", List.of(), billing)),
                        List.of(new Link("L", source, List.of(COURSE), terms)))
                .with(Sort.LEVEL, List.of(new Level("keeper", "Keeper", null, 0, null)));
        return SampleStory.of(rulebook, source, COURSE, NOW);
    }

    private static Window until(String end) {
        return new Window(NOW, Instant.parse(end));
    }

    @Test
    void aYearIsAYearUntilTheMoneyIsGivenBack() {
        var scenes = scenes(new Source.OfProduct("FIRST"), new Billing.Once(), Shop.lasting("P1Y"));
        assertThat(scenes)
                .containsExactly(
                        new SampleStory.Scene("Bought today", List.of(until("2027-01-31T10:00:00Z"))),
                        new SampleStory.Scene("and again a week later", List.of(until("2027-02-07T10:00:00Z"))),
                        new SampleStory.Scene(
                                "and the money given back after a week", List.of(until("2026-02-07T10:00:00Z"))));
    }

    @Test
    void instalmentsThatDoNotComeSuspend() {
        var plan = new Billing.Instalments(3, Period.ofMonths(1), Period.ofDays(7));
        var scenes = scenes(new Source.OfProduct("FIRST"), plan, Shop.lasting("P1Y"));
        assertThat(scenes.get(0).windows()).containsExactly(until("2027-01-31T10:00:00Z"));
        assertThat(scenes.get(1).windows())
                .as("due on 28 February, and seven days more")
                .containsExactly(until("2026-03-07T10:00:00Z"));
    }

    @Test
    void aSubscriptionRunsAsLongAsItIsPaid() {
        var monthly = new Billing.Recurring(Period.ofMonths(1), Period.ofDays(7), Period.ZERO, null, false);
        var scenes = scenes(new Source.OfProduct("FIRST"), monthly, Terms.DEFAULT);
        assertThat(scenes)
                .extracting(scene -> scene.windows().getFirst().end().orElseThrow())
                .containsExactly(
                        Instant.parse("2026-03-07T10:00:00Z"),
                        Instant.parse("2026-04-04T09:00:00Z"), // local time is kept over the change to summer time
                        Instant.parse("2026-02-28T10:00:00Z"));
    }

    @Test
    void aLevelOpensAsLongAsItIsHeld() {
        var scenes = scenes(new Source.OfLevel("keeper"), new Billing.Once(), Terms.DEFAULT);
        assertThat(scenes.get(0).windows().getFirst().end()).isEmpty();
        assertThat(scenes.get(1).windows()).containsExactly(until("2026-02-28T10:00:00Z"));
        assertThat(SampleStory.of(Shop.rulebook(OpensOn.PAID), new Source.OfLevel("keeper"), COURSE, NOW))
                .as("no link")
                .isEmpty();
    }
}
