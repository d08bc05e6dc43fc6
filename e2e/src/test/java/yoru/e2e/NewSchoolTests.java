package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.time.Duration;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import yoru.e2e.School.Part;

/** From a server that nobody has used to the first sale that opens a course, step by step as First steps says. */
class NewSchoolTests {

    private static final Duration AS_LONG_AS_IT_MAY_TAKE = Duration.ofMinutes(5);

    @RegisterExtension
    final Chromium chromium = new Chromium();

    private static School school;

    @BeforeAll
    static void start() {
        school = School.unconnected();
    }

    @AfterAll
    static void stop() {
        school.close();
    }

    @Test
    void theFirstSaleOpensACourseWithinFiveMinutes() throws IOException {
        long began = System.nanoTime();
        var page = chromium.firstOwner(school);
        saysWhoTheSchoolIs(page);
        var secret = connectsTheShop(page);
        school.kill(Part.SHOP);
        school.startWith(Part.SHOP, Map.of("YORU_SHOP_SECRET", secret));
        connectsTheClassroom(page);
        maps(page);

        var learner = Learner.stranger(school, chromium.stranger(), "Ottilie Marsh");
        learner.buys("Honey Harvest", "");
        await().atMost(Duration.ofSeconds(60))
                .until(() -> school.count(
                                Part.CLASSROOM,
                                "select count(*) from enrolment where learner = ? and state = 'open' and course_id = 'honey-harvest'",
                                learner.email())
                        == 1);
        page.navigate(school.server() + "/today");
        assertThat(OnScreen.heading(page, "Today")).isVisible();
        assertThat(OnScreen.heading(page, "First steps")).isHidden();
        assertThat(Duration.ofNanos(System.nanoTime() - began)).isLessThan(AS_LONG_AS_IT_MAY_TAKE);
    }

    private static Locator step(Page page, String title) {
        return page.getByRole(AriaRole.LISTITEM).filter(new Locator.FilterOptions().setHasText(title));
    }

    private static void saysWhoTheSchoolIs(Page page) {
        step(page, "Say who the school is").getByRole(AriaRole.LINK).click();
        assertThat(page.getByLabel("Name")).hasValue("Your school");
        page.getByLabel("Name").fill("Lime Tree Bees");
        page.getByLabel("Time zone").fill("Europe/Atlantis");
        OnScreen.button(page, "This is who we are").click();
        assertThat(page.getByRole(AriaRole.ALERT)
                        .filter(new Locator.FilterOptions().setHasText("is no zone of the tz database")))
                .isVisible();
        page.getByLabel("Time zone").fill("Europe/Vienna");
        OnScreen.button(page, "This is who we are").click();
        assertThat(page.getByText("Said by the school itself.")).isVisible();
        page.reload();
        assertThat(page.getByLabel("Name")).hasValue("Lime Tree Bees");
        OnScreen.button(page, "Does it lead here?").click();
        assertThat(page.getByText("It leads here.")).isVisible();
        OnScreen.button(page, Pattern.compile("Write to signe")).click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("No system that is on carries letters");
    }

    private static void toToday(Page page) {
        page.navigate(school.server() + "/today");
        assertThat(OnScreen.heading(page, "First steps")).isVisible();
    }

    /** @return the secret with which the shop is to sign */
    private static String connectsTheShop(Page page) {
        toToday(page);
        assertThat(step(page, "Say who the school is")).containsText("done");
        step(page, "Connect the shop").getByRole(AriaRole.LINK).click();
        page.getByRole(AriaRole.RADIO, new Page.GetByRoleOptions().setName("Shop sells"))
                .check();
        page.getByLabel("What you call it").fill("Practice shop");
        page.getByLabel("Its address, or any page of it").fill(school.address(Part.SHOP));
        page.getByLabel("Token that lets Yoru in").fill(school.setting("YORU_SHOP_TOKEN"));
        OnScreen.button(page, "Add it, switched off").click();
        var secret = page.locator("[data-part=secret]").textContent();
        OnScreen.button(page, "I have it").click();
        switchesOn(page);
        return secret;
    }

    private static void connectsTheClassroom(Page page) {
        toToday(page);
        assertThat(step(page, "Connect the shop")).containsText("done");
        page.navigate(school.server() + "/systems/add");
        page.getByRole(AriaRole.RADIO, new Page.GetByRoleOptions().setName("Classroom teaches"))
                .check();
        page.getByLabel("What you call it").fill("Practice classroom");
        page.getByLabel("Its address, or any page of it").fill(school.address(Part.CLASSROOM));
        page.getByLabel("Token that lets Yoru in").fill(school.setting("YORU_CLASSROOM_TOKEN"));
        OnScreen.button(page, "Add it, switched off").click();
        switchesOn(page);
    }

    private static void switchesOn(Page page) {
        OnScreen.button(page, "Test").click();
        assertThat(page.getByText("It answered with")).isVisible();
        OnScreen.button(page, "Switch on").click();
        assertThat(page.locator("[data-part=badge]")).not().hasText("off");
    }

    private static void maps(Page page) {
        toToday(page);
        step(page, "Say what opens what").getByRole(AriaRole.LINK).click();
        OnScreen.cell(page, "Honey Harvest does not open Honey Harvest").click();
        page.keyboard().press("Space");
        OnScreen.button(page, "Publish 1 change").click();
        assertThat(page.getByText("Nothing is changed yet")).isVisible();
    }
}
