package yoru.core.impact;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import yoru.core.Shop;
import yoru.core.ledger.Mention;
import yoru.core.rulebook.Allowance;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Ladder;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Named;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Option;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Quantity;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.School;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;

/** A change is looked for where it can be felt, and nowhere else. That nobody is left out, the properties say. */
class ConcernTests {

    private final Rulebook rulebook = new Rulebook(
                    new School(
                            ZoneOffset.UTC,
                            Shop.EUR,
                            List.of("open", "core"),
                            OpensOn.PAID,
                            List.of(new Ladder("hive", true))),
                    List.of(new Course("a", "a", List.of("starter")), new Course("b", "b", List.of())),
                    List.of(
                            new Product(
                                    "P",
                                    "P",
                                    List.of("paper"),
                                    List.of(new Option("P-LIVE", "live")),
                                    null,
                                    new Billing.Once(),
                                    Quantity.ONCE),
                            new Product("Q", "Q", List.of("paper"), new Billing.Once()),
                            new Product("R", "R", List.of(), new Billing.Once())),
                    List.of(
                            link("product", new Source.OfProduct("P"), Destination.whole("a")),
                            link("option", new Source.OfOption("P-LIVE"), Destination.whole("b")),
                            link("category", new Source.OfCategory("paper"), Destination.whole("b")),
                            link(
                                    "bridge",
                                    new Source.OfProduct("R"),
                                    new Destination.Exactly(new Target.OfTag("member"))),
                            link("tag", new Source.OfTag("member"), Destination.whole("a")),
                            link("level", new Source.OfLevel("helper"), Destination.whole("a")),
                            link("finished", new Source.OfCompleted("a"), Destination.whole("b")),
                            link(
                                    "starter",
                                    new Source.OfProduct("Q"),
                                    new Destination.OfCategory("starter", List.of(), null))))
            .with(
                    Sort.LEVEL,
                    List.of(
                            new Level("helper", "helper", "hive", 1, null),
                            new Level("keeper", "keeper", "hive", 2, new Allowance(1, null, List.of(), List.of()))))
            .with(Sort.TAG, List.of(new Named("member", "member")));

    private static Link link(String id, Source from, Destination to) {
        return new Link(id, from, List.of(to), Terms.DEFAULT);
    }

    private List<String> concernedByLinkless(String id) {
        return mentions(without(id));
    }

    private Rulebook without(String id) {
        return rulebook.withLinks(
                rulebook.links().stream().filter(link -> !link.id().equals(id)).toList());
    }

    private List<String> mentions(Rulebook other) {
        var there = new Impact(rulebook, other).concern();
        var back = new Impact(other, rulebook).concern();
        assertThat(back).as("the other way round").isEqualTo(there);
        assertThat(there.everybody()).isFalse();
        return there.mentions().stream().map(Mention::key).sorted().toList();
    }

    @Test
    void aLinkConcernsWhoHasItsSourceHoweverTheyCameToIt() {
        assertThat(concernedByLinkless("product")).containsExactly("product P");
        assertThat(concernedByLinkless("option")).containsExactly("product P");
        assertThat(concernedByLinkless("category")).containsExactly("product P", "product Q");
        assertThat(concernedByLinkless("finished")).containsExactly("course a");
        assertThat(concernedByLinkless("bridge")).containsExactly("product R");
        assertThat(concernedByLinkless("tag")).containsExactly("grant", "product R", "tag member");
        assertThat(concernedByLinkless("level")).containsExactly("grant", "level helper", "level keeper");
        assertThat(concernedByLinkless("")).isEmpty();
        assertThat(new Impact(rulebook, rulebook).concern().isNothing()).isTrue();
    }

    /** What follow-ups give is in no fact yet, and what they write names things. */
    @Test
    void followUpsAreConcernedWithMoreThanAccessIs() {
        assertThat(inFollowupsWithout("product").mentions()).containsExactly(new Mention.OfProduct("P"));
        assertThat(inFollowupsWithout("finished").mentions()).containsExactly(new Mention.OfCourse("a"));
        assertThat(inFollowupsWithout("").isNothing()).isTrue();
        assertThat(inFollowupsWithout("tag").everybody()).isTrue();
        var renamed = rulebook.courses().stream()
                .map(course -> new Course(course.id(), course.id() + " anew", course.categories()))
                .toList();
        assertThat(Concern.inFollowups(rulebook, rulebook.withCatalogue(renamed, rulebook.products()))
                        .everybody())
                .isTrue();
    }

    private Concern inFollowupsWithout(String id) {
        return Concern.inFollowups(rulebook, without(id));
    }

    @Test
    void aCourseInACategoryConcernsWhoHasTheCategory() {
        var courses = new ArrayList<>(rulebook.courses());
        courses.add(new Course("c", "c", List.of("starter")));
        assertThat(mentions(rulebook.withCatalogue(courses, rulebook.products())))
                .containsExactly("course c", "grant", "product Q");
    }

    @Test
    void aProductConcernsItsBuyers() {
        UnaryOperator<Product> free =
                product -> new Product(product.id(), product.title(), product.categories(), new Billing.Free());
        var products = rulebook.products().stream()
                .map(product -> product.id().equals("R") ? free.apply(product) : product)
                .toList();
        assertThat(mentions(rulebook.withCatalogue(rulebook.courses(), products)))
                .containsExactly("product R");
    }

    @Test
    void theSchoolConcernsEverybody() {
        var fulfilled = new School(ZoneOffset.UTC, Shop.EUR, OpensOn.FULFILLED);
        var other = new Rulebook(fulfilled, rulebook.courses(), rulebook.products(), rulebook.links());
        assertThat(new Impact(rulebook, other).concern().everybody()).isTrue();
        assertThat(new Impact(rulebook, other).concern().isNothing()).isFalse();
    }
}
