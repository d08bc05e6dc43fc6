package yoru.core.findings;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import yoru.core.Shop;
import yoru.core.findings.CourseState.Door;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Terms;

class FindingsTests {

    @Test
    void findsWhatIsUnfinishedOrWrong() {
        var rulebook = Shop.rulebook(
                OpensOn.PAID,
                Shop.link("QUEEN", "queen-rearing", Terms.DEFAULT),
                Shop.link("QUEEN", "old", Terms.DEFAULT));
        var sales = List.of(
                new Sales("QUEEN", 5, false),
                new Sales("FIRST", 3, false),
                new Sales("FREE", 7, true),
                new Sales("WHAT", 1, false));
        var courses = List.of(
                new CourseState("queen-rearing", "Queen Rearing", false, false, Door.FREE_SIGN_UP),
                new CourseState("first-hive", "First Hive", true, true, Door.YORU_ONLY));
        assertThat(new Findings(rulebook).check(sales, courses))
                .containsExactly(
                        new Finding.SideDoor("queen-rearing", "Queen Rearing", Door.FREE_SIGN_UP, 1),
                        new Finding.OpensNothing("FIRST", "FIRST", 3),
                        new Finding.UnknownProduct("WHAT", 1),
                        new Finding.Empty("queen-rearing", "Queen Rearing"),
                        new Finding.Unpublished("queen-rearing", "Queen Rearing"),
                        new Finding.NoWayIn("first-hive", "First Hive"),
                        new Finding.Vanished("old", 1));
    }
}
