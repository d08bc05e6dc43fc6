package yoru.core.proposals;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import yoru.core.Shop;
import yoru.core.access.TermsInWords;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;

class ByNameTests {

    private static final List<String> COURSES = List.of("Honey", "Honey Harvest", "Winter Care", "Twin", "Twin");

    private static Rulebook school(String... products) {
        var courses = new java.util.ArrayList<Course>();
        COURSES.forEach(title -> courses.add(new Course("c" + courses.size(), title, List.of())));
        return new Rulebook(
                Shop.rulebook(OpensOn.PAID).school(),
                courses,
                List.of(products).stream()
                        .map(title -> new Product(title, title, List.of(), new Billing.Once()))
                        .toList(),
                List.of());
    }

    private static List<String> proposed(Rulebook rulebook) {
        return new ByName(rulebook)
                .proposals(product -> !product.title().startsWith("Veil")).stream()
                        .map(it -> it.change().source().path() + " → "
                                + it.change().destination().place() + " " + it.sure())
                        .toList();
    }

    @Test
    void theSameNameIsSurerThanAContainedOneAndTheLongestCounts() {
        assertThat(proposed(school("WINTER  care!", "Honey Harvest with tasting", "Honey", "Beeswax", "Veil, Honey")))
                .containsExactly(
                        "product/WINTER  care! → course/c2 95",
                        "product/Honey Harvest with tasting → course/c1 75",
                        "product/Honey → course/c0 95");
    }

    @Test
    void whatWouldDoEquallyWellOrOpensSomethingAlreadyIsLeftAlone() {
        assertThat(proposed(school("Twin", "Honeycomb"))).isEmpty();
        var rulebook = school("Honey");
        var change = new ByName(rulebook).proposals(product -> true).getFirst().change();
        assertThat(proposed(rulebook.with(List.of(change)))).isEmpty();
    }

    @Test
    void theTermsAreThoseInTheNameOrTheUsualOnes() {
        var rulebook = school("Honey, 6 months", "Winter Care", "Honey Harvest");
        var byName = new ByName(rulebook).proposals(product -> true);
        assertThat(byName)
                .extracting(it -> inWords(rulebook, it.change()))
                .containsExactly(
                        "for 6 months; a refund ends it",
                        "for 1 year; a refund ends it",
                        "for 1 year; a refund ends it");
        var held = rulebook.with(List.of(new CellChange(
                byName.get(1).change().source(),
                byName.get(1).change().destination(),
                yoru.core.rulebook.Terms.DEFAULT)));
        assertThat(new ByName(held).proposals(product -> true))
                .extracting(it -> inWords(held, it.change()))
                .containsExactly("for 6 months; a refund ends it", "always; a refund ends it");
    }

    private static String inWords(Rulebook rulebook, CellChange change) {
        Link link = rulebook.with(List.of(change)).links().getLast();
        return TermsInWords.of(link, rulebook);
    }
}
