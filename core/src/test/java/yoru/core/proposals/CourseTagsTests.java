package yoru.core.proposals;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import yoru.core.Shop;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Named;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.School;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.TagName;
import yoru.core.rulebook.TagName.Role;
import yoru.core.rulebook.Terms;

/** Tags by the school's names. */
class CourseTagsTests {

    private final Rulebook rulebook = school(Shop.rulebook(
            OpensOn.PAID,
            Shop.link("FIRST", "first-hive", Shop.lasting("P1Y")),
            Shop.link("FREE", "first-hive", Terms.DEFAULT)));

    private static Rulebook school(Rulebook shop) {
        var names = List.of(
                new TagName(Role.BOUGHT, "{course}-bought"),
                new TagName(Role.OPENS, "in-{course}"),
                new TagName(Role.FINISHED, "{course}-done"),
                new TagName(Role.REFUNDED, "{course}-refunded"));
        var school = shop.school();
        return new Rulebook(
                        new School(
                                school.zone(),
                                school.currency(),
                                school.tiers(),
                                school.opensOn(),
                                school.ladders(),
                                names),
                        shop.courses(),
                        shop.products(),
                        shop.links())
                .with(Sort.TAG, List.of(new Named("in-first-hive", "In")));
    }

    @Test
    void everyPurchaseThatOpensTheCoursePutsTheTagOn() {
        var made = new CourseTags(rulebook)
                .of(List.of(rulebook.course("first-hive").orElseThrow()));
        assertThat(made.tags())
                .extracting(Named::id)
                .as("one is there already")
                .containsExactly("first-hive-bought", "first-hive-done", "first-hive-refunded");
        assertThat(made.cells().stream().map(CourseTagsTests::words))
                .containsExactly(
                        "product/FIRST tag/first-hive-bought",
                        "product/FREE tag/first-hive-bought",
                        "tag/in-first-hive course/first-hive",
                        "completed/first-hive tag/first-hive-done");
        assertThat(made.cells().getFirst().terms())
                .as("bought is bought, however long it is open")
                .contains(Terms.DEFAULT);
    }

    @Test
    void madeTwiceNothingIsMade() {
        var courses = rulebook.courses();
        var made = new CourseTags(rulebook).of(courses);
        var after = new Rulebook(
                        rulebook.school(),
                        courses,
                        rulebook.products(),
                        rulebook.with(made.cells()).links())
                .with(Sort.TAG, made.tags());
        var again = new CourseTags(after).of(courses);
        assertThat(again.cells()).isEmpty();
        assertThat(again.tags()).extracting(Named::id).containsExactly("in-first-hive");
        assertThat(made.cells()).extracting(CellChange::source).contains(new Source.OfCompleted("queen-rearing"));
    }

    private static String words(CellChange change) {
        return change.source().path() + " " + change.destination().place();
    }
}
