package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import yoru.e2e.School.Part;

/** Systems that are away, and a server that dies at the worst moment. */
class FailureTests {

    @RegisterExtension
    final Chromium chromium = new Chromium();

    private final School school = School.running();

    @Test
    void aClassroomThatIsAwayDuringTheSaleLearnsOfItAfterwards() {
        var learner = Learner.stranger(school, chromium.stranger(), "Casper Dunne");
        var yoru = chromium.operator(school);
        school.stop(Part.CLASSROOM);
        try {
            learner.buys("Honey Harvest", "");
            assertThat(waitsForTheClassroom(yoru).getByRole(AriaRole.LINK)).isVisible();
            // something of somebody else may end in the same minute, and wait too
            var id = school.rows(Part.SERVER, "select id from person where person_key = ?", learner.email())
                    .getFirst();
            yoru.navigate(school.server() + "/people/" + id);
            assertThat(OnScreen.heading(yoru, "Casper Dunne")).isVisible();
            assertThat(yoru.getByRole(AriaRole.COMPLEMENTARY)).containsText("Practice classroom is waited for");
            assertThat(yoru.getByRole(AriaRole.COMPLEMENTARY)).containsText("So it is open");
        } finally {
            school.start(Part.CLASSROOM);
        }
        assertThat(yoru.getByRole(AriaRole.COMPLEMENTARY))
                .containsText(
                        "enrolled",
                        new com.microsoft.playwright.assertions.LocatorAssertions.ContainsTextOptions()
                                .setTimeout(120_000));
        learner.signsInToClassroom();
        assertThat(learner.page().getByText("Honey Harvest")).isVisible();
        yoru.getByRole(
                        AriaRole.LINK,
                        new Page.GetByRoleOptions().setName("Today").setExact(false))
                .first()
                .click();
        // the note about its catalogue goes when that is read again
        assertThat(waitsForTheClassroom(yoru)).isHidden();
    }

    private static Locator waitsForTheClassroom(Page yoru) {
        return yoru.getByRole(AriaRole.LISTITEM)
                .filter(new Locator.FilterOptions().setHasText("Practice classroom: "))
                .filter(new Locator.FilterOptions().setHasText(Pattern.compile("person waits|people wait")));
    }

    /** The classroom has the request before it but has not answered; the server is killed in between. */
    @Test
    void aServerKilledBetweenIntakeAndAnswerEnrolsExactlyOnce() {
        var learner = Learner.stranger(school, chromium.stranger(), "Femke Aalders");
        school.freeze(Part.CLASSROOM, true);
        try {
            learner.buys("Winter Care", "");
            await().atMost(Duration.ofSeconds(120)).until(() -> school.count(Part.SERVER, """
                                    select count(*) from scheduled_tasks t join delivery d on t.task_instance like d.connection_id || '/' || d.person_id || '@%'
                                    join person p on p.id = d.person_id
                                    where t.task_name = 'tell' and t.picked and d.connection_id = 'practice-classroom' and p.person_key = ?""", learner.email()) == 1);
            school.kill(Part.SERVER);
        } finally {
            school.freeze(Part.CLASSROOM, false);
        }
        school.start(Part.SERVER);
        await().atMost(Duration.ofSeconds(120)).until(() -> school.count(Part.SERVER, """
                                select count(*) from delivery d join person p on p.id = d.person_id
                                where d.status = 'ANSWERED' and d.connection_id = 'practice-classroom' and p.person_key = ?""", learner.email()) == 1);
        assertThat(school.count(Part.CLASSROOM, "select count(*) from enrolment where learner = ?", learner.email()))
                .isEqualTo(1);
        var keys =
                school.rows(Part.CLASSROOM, "select key from answer where asked like ?", "%" + learner.email() + "%");
        assertThat(keys).as("whether told once or twice, under one key").isNotEmpty();
        assertThat(keys.stream().distinct()).hasSize(1);
        assertThat(school.rows(
                        Part.CLASSROOM,
                        "select asked from answer where asked like ? and asked not like '%(again)'",
                        "%" + learner.email() + "%"))
                .as("done once")
                .hasSize(1);
        learner.signsInToClassroom();
        assertThat(learner.page().getByText("Winter Care")).isVisible();
    }

    /** Killed before it could even think of the delivery: the fact was acknowledged, so it must not be lost. */
    @Test
    void aServerThatIsAwayDuringTheSaleHearsOfItFromTheShopLater() {
        var learner = Learner.stranger(school, chromium.stranger(), "Rune Halloran");
        school.kill(Part.SERVER);
        var order = learner.buys("Hive Health", "");
        assertThat(learner.page().getByText("Thank you, Rune Halloran")).isVisible();
        school.start(Part.SERVER);
        await().atMost(Duration.ofSeconds(120))
                .until(() -> school.count(
                                Part.CLASSROOM,
                                "select count(*) from enrolment where learner = ? and state = 'open'",
                                learner.email())
                        == 1);
        assertThat(school.count(Part.SERVER, "select count(*) from fact where thing = ?", "order " + order))
                .isEqualTo(2);
    }
}
