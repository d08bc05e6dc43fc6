package yoru.core.rulebook;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Period;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import yoru.core.World;

class RulebookDifferenceTests {

    private record Said(Source source, Destination destination, Terms terms, Applies applies) {}

    @Test
    void itsCellsLeadFromAnyRulebookToAnyOther() {
        for (long seed = 0; seed < 300; seed++) {
            var before = oneLinkACell(World.of(seed).rulebook());
            var after = oneLinkACell(World.of(seed + 1_000).rulebook()).links();
            var to = before.withLinks(after);
            var changes = new RulebookDifference(before, to).cells();
            assertThat(said(before.with(changes))).as("seed %d", seed).isEqualTo(said(to));
            assertThat(new RulebookDifference(before.with(changes), to).cells()).isEmpty();
            var back = new RulebookDifference(to, before).cells();
            assertThat(said(before.with(changes).with(back))).isEqualTo(said(before));
        }
    }

    @Test
    void aChangeThatChangesNothingLeavesEveryLinkAsItIs() {
        for (long seed = 0; seed < 300; seed++) {
            var rulebook = World.of(seed).rulebook();
            var firsts = new RulebookDifference(rulebook.withLinks(List.of()), rulebook).cells();
            assertThat(rulebook.with(firsts).links()).as("seed %d", seed).isEqualTo(rulebook.links());
        }
    }

    @Test
    void whatElseDiffersIsSaid() {
        var world = World.of(3).rulebook();
        var school = world.school();
        var other = new Rulebook(
                        new School(
                                school.zone(), school.currency(), school.tiers(), OpensOn.FULFILLED, school.ladders()),
                        world.things(),
                        world.links())
                .with(Sort.LEVEL, world.levels().subList(1, world.levels().size()));
        assertThat(new RulebookDifference(world, other).more(Period::toString))
                .contains("Gone: level " + world.levels().getFirst().title())
                .anySatisfy(line -> assertThat(line).contains("open when an order is fulfilled (was"));
        assertThat(new RulebookDifference(world, world).more(Period::toString)).isEmpty();
    }

    @Test
    void ofWhatChangedItSaysWhat() {
        var monthly = new Product(
                "CIRCLE",
                "Circle",
                List.of(),
                new Billing.Recurring(Period.ofMonths(1), Period.ofDays(7), Period.ZERO, null, false));
        var once = new Product("CIRCLE", "Circle", List.of(), new Billing.Once());
        var world = World.of(3).rulebook();
        assertThat(new RulebookDifference(
                                world.withCatalogue(world.courses(), List.of(once)),
                                world.withCatalogue(world.courses(), List.of(monthly)))
                        .more(Period::toString))
                .containsExactly("Changed: product Circle: paid for: every P1M, with P7D of grace (was once)");
    }

    private static Set<Said> said(Rulebook rulebook) {
        var all = new HashSet<Said>();
        rulebook.links()
                .forEach(link ->
                        link.to().forEach(to -> all.add(new Said(link.from(), to, link.terms(), link.applies()))));
        return all;
    }

    /** Without what only a document can say: two links in one cell. */
    private static Rulebook oneLinkACell(Rulebook rulebook) {
        var seen = new HashSet<String>();
        return rulebook.withLinks(rulebook.links().stream()
                .map(link -> new Link(
                        link.id(),
                        link.from(),
                        link.to().stream()
                                .filter(to -> seen.add(link.from().path() + " " + to.place()))
                                .toList(),
                        link.terms(),
                        link.applies()))
                .filter(link -> !link.to().isEmpty())
                .toList());
    }
}
