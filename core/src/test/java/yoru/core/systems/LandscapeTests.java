package yoru.core.systems;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import yoru.core.access.HowLong;
import yoru.core.rulebook.Target;

class LandscapeTests {

    private static final Target HIVE = new Target.OfCourse("first-hive");
    private static final Target QUEEN = new Target.OfCourse("queen-rearing");
    private static final Target STARTER = new Target.OfTag("starter");
    private static final Set<Ability> TEACHES =
            Set.of(Ability.ENROLMENT, Ability.SECTIONS, Ability.CATALOGUE, Ability.TAGS);

    private static ConnectedSystem classroom(String id, boolean isOn, Target... lists) {
        Map<Target, String> pages = new java.util.HashMap<>();
        for (Target target : lists) {
            pages.put(target, target.equals(HIVE) ? "https://" + id + ".example/hive" : "");
        }
        return new ConnectedSystem(id, "The " + id, isOn, TEACHES, pages, "https://" + id + ".example/", null);
    }

    private static final ConnectedSystem FOLDER =
            new ConnectedSystem("folder", "Folder", true, Set.of(Ability.ENROLMENT), Map.of(), null, null);

    private static List<String> told(Target target, ConnectedSystem... systems) {
        return new Landscape(List.of(systems))
                .toldOf(target).stream().map(ConnectedSystem::id).toList();
    }

    @Test
    void ofSeveralThatCanThoseAreToldThatListItAndThoseThatListNothing() {
        var barn = classroom("barn", true, HIVE);
        var loft = classroom("loft", true, QUEEN);
        assertThat(told(HIVE, barn, loft, FOLDER)).containsExactly("barn", "folder");
        assertThat(told(new Target.OfSection("queen-rearing", "inner"), barn, loft, FOLDER))
                .as("a section comes with its course, and a folder knows no sections")
                .containsExactly("loft");
        assertThat(told(new Target.OfCourse("wax-works"), barn, loft))
                .as("what nobody lists may be anywhere")
                .containsExactly("barn", "loft");
        assertThat(told(STARTER, classroom("barn", true, STARTER), loft))
                .as("a tag is made where it is first put on")
                .containsExactly("barn", "loft");
        assertThat(told(QUEEN, barn)).as("there is no other").containsExactly("barn");
        assertThat(told(new Target.OfLevel("keeper"), barn)).isEmpty();
    }

    @Test
    void whatIsOnlyListedWhereASystemIsOffIsToldToNobodyElse() {
        var barn = classroom("barn", false, HIVE);
        var loft = classroom("loft", true, QUEEN);
        var mill = classroom("mill", true);
        assertThat(told(HIVE, barn, loft, mill)).isEmpty();
        assertThat(new Landscape(List.of(barn, loft, mill)).isOnlyListedWhereOff(HIVE))
                .isTrue();
        assertThat(new Landscape(List.of(barn, loft, mill)).isOnlyListedWhereOff(QUEEN))
                .isFalse();
        assertThat(Landscape.EMPTY.isOnlyListedWhereOff(HIVE)).isFalse();
    }

    @Test
    void peopleFindItOnItsPageElseOnTheFrontPage() {
        var landscape = new Landscape(List.of(FOLDER, classroom("barn", true, HIVE, QUEEN)));
        assertThat(landscape.where(HIVE)).contains(new Landscape.Where("The barn", "https://barn.example/hive"));
        assertThat(landscape.where(new Target.OfSection("first-hive", "inner")))
                .contains(new Landscape.Where("The barn", "https://barn.example/hive"));
        assertThat(landscape.where(QUEEN)).contains(new Landscape.Where("The barn", "https://barn.example/"));
        assertThat(new Landscape(List.of(FOLDER)).where(HIVE)).isEmpty();
    }

    @Test
    void nobodyIsToldOfNothingWhoWasNeverToldOfIt() {
        var open = Wish.open("barn", new Matter.Access(HIVE), HowLong.ALWAYS);
        var closed = Wish.closed("barn", new Matter.Access(HIVE));
        assertThat(closed.isNewsAfter(Optional.empty())).isFalse();
        assertThat(closed.isNewsAfter(Optional.of(open))).isTrue();
        assertThat(open.isNewsAfter(Optional.empty())).isTrue();
        assertThat(open.isNewsAfter(Optional.of(open))).isFalse();
        assertThat(Wish.field("barn", "ends", "").isNewsAfter(Optional.empty())).isFalse();
        assertThat(Wish.field("barn", "ends", "").isNewsAfter(Optional.of(Wish.field("barn", "ends", "2027-03-02"))))
                .isTrue();
    }
}
