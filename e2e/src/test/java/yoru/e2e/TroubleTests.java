package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import yoru.e2e.School.Part;

/** At the browser: a lost session, a lost server, a draft that somebody else was quicker than. Nothing typed is lost. */
class TroubleTests {

    @RegisterExtension
    final Chromium chromium = new Chromium();

    private final School school = School.running();

    @Test
    void aLostSessionIsSaidAndTheDraftIsKept() {
        var yoru = drafted("Smoker & veil", "First Hive");
        yoru.getByLabel("What is it for?").fill("half a thought");
        school.change(Part.SERVER, "delete from spring_session");
        var dialog = yoru.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("Your session has ended");
        Chromium.signIn(yoru);
        assertThat(dialog).isHidden();
        assertThat(yoru.getByLabel("What is it for?")).hasValue("half a thought");
        assertThat(OnScreen.cell(yoru, "Smoker & veil opens First Hive")).isVisible();
        assertThat(OnScreen.button(yoru, "Publish 1 change")).isEnabled();
    }

    @Test
    void aLostServerIsSaidAndTheDraftOutlivesAReload() {
        var yoru = drafted("Smoker & veil", "Hive Health");
        school.kill(Part.SERVER);
        try {
            yoru.keyboard().press("ArrowRight");
            yoru.keyboard().press("Space");
            assertThat(yoru.getByText("Yoru’s server does not answer.")).isVisible();
            assertThat(OnScreen.cell(yoru, "Smoker & veil opens Honey Harvest")).isVisible();
        } finally {
            school.start(Part.SERVER);
        }
        assertThat(yoru.getByText("Yoru’s server does not answer."))
                .isHidden(new LocatorAssertions.IsHiddenOptions().setTimeout(60_000));
        yoru.reload();
        assertThat(OnScreen.cell(yoru, "Smoker & veil opens Hive Health")).isVisible();
        assertThat(OnScreen.button(yoru, "Publish 2 changes")).isEnabled();
    }

    @Test
    void ofTwoOperatorsTheSlowerIsToldAndGoesOnWithTheDraft() {
        var slower = drafted(chromium.operator(school), "Grafting chart, printed", "First Hive");
        var quicker = drafted(chromium.colleague(school, "Tomas Byrne"), "Grafting chart, printed", "Hive Health");
        seesTheMappingAsItIsUntilItPublishes(slower);
        OnScreen.button(quicker, "Publish 1 change").click();
        assertThat(quicker.getByText("Nothing is changed yet")).isVisible();

        OnScreen.button(slower, "Publish 1 change").click();
        var notice = slower.getByRole(AriaRole.ALERT);
        assertThat(notice).containsText("Somebody else has published");
        assertThat(OnScreen.cell(slower, "Grafting chart, printed opens Hive Health"))
                .isVisible();
        OnScreen.button(slower, "Go on with my draft").click();
        assertThat(notice).isHidden();
        OnScreen.button(slower, "Publish 1 change").click();
        assertThat(slower.getByText("Nothing is changed yet")).isVisible();
        assertThat(OnScreen.cell(slower, "Grafting chart, printed opens First Hive for 1 year; a refund ends it$"))
                .isVisible();
    }

    @Test
    void whoHasReadTheCodeMakesTheOwnersAccount() throws IOException {
        var untouched = School.untouched();
        try {
            var page = chromium.stranger();
            page.navigate(untouched.server());
            assertThat(OnScreen.heading(page, "Sign in")).isVisible();
            page.navigate(untouched.server() + "/first");
            assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(1)))
                    .hasText("Make the owner’s account");
            page.getByLabel("Code").fill("GUESSED");
            page.getByLabel("Your name").fill("Signe Holm");
            page.getByLabel("E-mail address").fill("signe@hollowoak.example");
            page.getByLabel("Password").fill("short");
            OnScreen.button(page, "Make the account").click();
            assertThat(page.getByRole(AriaRole.ALERT)).containsText("at least 10 characters");
            page.getByLabel("Password").fill("a long walk to the hives");
            OnScreen.button(page, "Make the account").click();
            assertThat(page.getByRole(AriaRole.ALERT)).containsText("This code is not good");
            page.getByLabel("Code").fill(untouched.firstCode());
            OnScreen.button(page, "Make the account").click();
            assertThat(OnScreen.heading(page, "Today")).isVisible();
            assertThat(page.getByText("Nothing needs you now.")).isHidden();
            assertThat(page.getByText("No system is connected yet")).isVisible();
            assertThat(OnScreen.heading(page, "First steps")).isVisible();
            page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Add it"))
                    .first()
                    .click();
            assertThat(OnScreen.heading(page, "Add a system")).isVisible();
            page.navigate(untouched.server() + "/mapping");
            assertThat(page.getByText("There is nothing to sell yet.")).isVisible();
            page.navigate(untouched.server() + "/people");
            assertThat(page.getByText("Nobody is here yet.")).isVisible();
            OnScreen.button(page, "Sign out").click();
            assertThat(OnScreen.heading(page, "Sign in")).isVisible();
            assertThat(page.getByText("This is the practice school")).isHidden();
        } finally {
            untouched.close();
        }
    }

    /** A page that asks every ten seconds would now and then know of the other's publish before its own is refused. */
    private void seesTheMappingAsItIsUntilItPublishes(Page page) {
        var mapping = school.server() + "/api/mapping";
        var before = page.request().get(mapping).text();
        var hasPublished = new AtomicBoolean();
        page.onRequest(request -> {
            if (request.url().equals(mapping + "/publish")) {
                hasPublished.set(true);
            }
        });
        page.route(mapping, route -> {
            if (hasPublished.get()) {
                route.resume();
            } else {
                route.fulfill(new Route.FulfillOptions()
                        .setContentType("application/json")
                        .setBody(before));
            }
        });
    }

    private Page drafted(String product, String course) {
        return drafted(chromium.operator(school), product, course);
    }

    /** An operator's window with one cell opened in a draft. */
    private Page drafted(Page page, String product, String course) {
        page.navigate(school.server() + "/mapping");
        OnScreen.cell(page, product + " does not open " + course).click();
        page.keyboard().press("Space");
        assertThat(OnScreen.button(page, "Publish 1 change")).isEnabled();
        return page;
    }
}
