package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import yoru.e2e.School.Part;

/** The whole way: mapped and published, bought as a stranger, open in the classroom, explained, refunded, closed. */
class FirstSaleTests {

    @RegisterExtension
    final Chromium chromium = new Chromium();

    private final School school = School.running();

    @Test
    void theFirstSaleOpensACourse() {
        var yoru = chromium.operator(school);
        mapsByKeyboard(yoru);

        var learner = Learner.stranger(school, chromium.stranger(), "Ottilie Marsh");
        learner.opensLesson("queen-rearing", "grafting");
        assertThat(OnScreen.heading(learner.page(), "This door is closed")).isVisible();
        var order = learner.buys("Pollen Lab, early place", "OPENDAY");
        learner.signsInToClassroom();
        assertThat(learner.page().getByText("Queen Rearing")).isVisible();
        // the classroom is told of the course first, and of its parts a moment later
        await().atMost(Duration.ofSeconds(60)).until(() -> {
            learner.opensLesson("queen-rearing", "grafting");
            return OnScreen.heading(learner.page(), "Grafting larvae").isVisible();
        });
        learner.page().getByText("I have done this lesson").click();
        assertThat(learner.page().getByText("You have done this lesson")).isVisible();

        findsPerson(yoru, learner);
        var why = yoru.getByRole(AriaRole.COMPLEMENTARY);
        assertThat(OnScreen.heading(yoru, "Why Queen Rearing is open")).isVisible();
        assertThat(why).containsText("Ordered at no charge");
        assertThat(why).containsText("Order " + order + ", line 1: Pollen Lab, early place. €0.00");
        assertThat(why).containsText("Pollen Lab, early place opens Queen Rearing for 1 year; a refund ends it.");
        assertThat(why).containsText("So it is open");
        assertThat(why).containsText("Practice classroom answered");
        assertThat(why).containsText("enrolled");
        looksAtAnotherDay(yoru);

        learner.isRefunded(order);
        assertThat(why).containsText("Refunded");
        assertThat(why).containsText("closed, progress kept");
        assertThat(OnScreen.heading(yoru, "Why Queen Rearing is closed")).isVisible();
        learner.opensLesson("queen-rearing", "grafting");
        assertThat(OnScreen.heading(learner.page(), "This door is closed")).isVisible();
        assertThat(learner.page().getByText("What you have learnt here is kept"))
                .isVisible();
        learner.page().navigate(school.address(Part.CLASSROOM) + "/my");
        assertThat(learner.page().getByText("1 of 4 lessons done")).isVisible();

        sendsAgain(yoru, learner);
        readsTheJournal(yoru, order);
    }

    /** Arrows, Space, Enter, undo and redo, then publish; the margin counts before anything is published. */
    private void mapsByKeyboard(Page yoru) {
        yoru.getByRole(
                        AriaRole.LINK,
                        new Page.GetByRoleOptions().setName("Mapping").setExact(true))
                .click();
        var cell = OnScreen.cell(yoru, "Pollen Lab, early place (does not open|opens) Queen Rearing(?! talk)");
        OnScreen.cell(yoru, "Open day taster does not open Moving Hives").click();
        for (var key : new String[] {"ArrowDown", "ArrowRight", "ArrowRight", "Space"}) {
            yoru.keyboard().press(key);
        }
        assertThat(cell).isFocused();
        assertThat(cell).hasAccessibleName(Pattern.compile("for 1 year; a refund ends it\\. Draft"));
        yoru.keyboard().press("Control+z");
        assertThat(cell).hasAccessibleName("Pollen Lab, early place does not open Queen Rearing");
        yoru.keyboard().press("Control+y");
        yoru.keyboard().press("Enter");
        assertThat(yoru.getByLabel("Terms: Pollen Lab, early place → Queen Rearing"))
                .isVisible();
        yoru.getByLabel("How many").fill("2");
        assertThat(cell).hasText("2y");
        yoru.getByLabel("How many").fill("1");
        yoru.keyboard().press("Escape");
        assertThat(cell).isFocused();
        var margin = yoru.getByRole(AriaRole.COMPLEMENTARY);
        assertThat(margin).containsText("If you publish this draft");
        assertThat(margin).containsText("0 gain access");
        yoru.getByLabel("What is it for?").fill("Early birds get the queens");
        OnScreen.button(yoru, "Publish 1 change").click();
        assertThat(margin).containsText("Nothing is changed yet");
        yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("History"))
                .click();
        assertThat(yoru.getByText("Early birds get the queens")).isVisible();
        assertThat(yoru.getByText("Pollen Lab, early place opens Queen Rearing for 1 year; a refund ends it"))
                .isVisible();
    }

    private void findsPerson(Page yoru, Learner learner) {
        yoru.getByRole(
                        AriaRole.LINK,
                        new Page.GetByRoleOptions().setName("People").setExact(true))
                .click();
        yoru.getByLabel("Find by name or address").fill(learner.email());
        yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Ottilie Marsh"))
                .click();
        assertThat(OnScreen.heading(yoru, "Ottilie Marsh")).isVisible();
    }

    /** The day before there was nothing; in two years it is over; the keys and the address agree. */
    private void looksAtAnotherDay(Page yoru) {
        var today = LocalDate.now(ZoneId.of("Europe/Dublin"));
        yoru.keyboard().press("[");
        assertThat(yoru).hasURL(Pattern.compile("at=" + today.minusDays(1)));
        assertThat(yoru.getByText("Nothing can be changed here")).isVisible();
        assertThat(yoru.getByText("Nothing was ever open")).isVisible();
        yoru.keyboard().press(".");
        assertThat(yoru.getByText("Nothing can be changed here")).isHidden();
        var lamp = yoru.getByRole(AriaRole.SLIDER);
        lamp.focus();
        yoru.keyboard().press("PageUp");
        assertThat(yoru).hasURL(Pattern.compile("at=" + today.plusMonths(1)));
        for (int month = 1; month < 14; month++) {
            yoru.keyboard().press("}");
        }
        assertThat(OnScreen.heading(yoru, "Why Queen Rearing will be closed")).isVisible();
        OnScreen.button(yoru, "Back to now").click();
        assertThat(OnScreen.heading(yoru, "Why Queen Rearing is open")).isVisible();
    }

    private void sendsAgain(Page yoru, Learner learner) {
        long before = answersAbout(learner);
        OnScreen.button(yoru, "Send again").click();
        org.awaitility.Awaitility.await()
                .atMost(java.time.Duration.ofSeconds(60))
                .until(() -> answersAbout(learner) == before + 1);
        assertThat(yoru.getByRole(AriaRole.COMPLEMENTARY)).containsText("closed, progress kept");
    }

    private long answersAbout(Learner learner) {
        return school.count(
                Part.CLASSROOM, "select count(*) from answer where asked like ?", "%" + learner.email() + "%");
    }

    private void readsTheJournal(Page yoru, String order) {
        yoru.getByRole(
                        AriaRole.LINK,
                        new Page.GetByRoleOptions().setName("Journal").setExact(true))
                .click();
        yoru.getByLabel("Find in the journal").fill("Order " + order);
        var refund = yoru.getByRole(AriaRole.LISTITEM)
                .filter(new Locator.FilterOptions().setHasText("Order " + order + " refunded"));
        assertThat(refund.first()).containsText("Access ended");
        assertThat(refund.first()).containsText("Practice classroom: closed, progress kept");
        OnScreen.button(yoru, "What we did").click();
        yoru.getByLabel("Find in the journal").fill("");
        assertThat(yoru.getByText("Early birds get the queens")).isVisible();
    }
}
