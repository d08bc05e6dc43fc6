package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.google.gson.JsonObject;
import com.microsoft.playwright.CDPSession;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;

/** An owner makes a passkey, signs in and proves who they are with it, and removes it; Chromium brings the device (WebDriver, W3C Web Authentication 11). */
class PasskeyScreenTests {

    @RegisterExtension
    final Chromium chromium = new Chromium();

    private static School school;

    @BeforeAll
    static void start() {
        school = School.untouched();
    }

    @AfterAll
    static void stop() {
        school.close();
    }

    @Test
    void itReplacesPasswordAndCode() throws IOException {
        var page = chromium.firstOwner(school);
        page.navigate(school.server() + "/account");
        assertThat(page.getByText("is a name, not a number")).isVisible();

        // browsers make passkeys for names only
        var named = school.server().replace("127.0.0.1", "localhost");
        page.navigate(school.server() + "/school");
        page.getByLabel("Address of this Yoru").fill(named);
        OnScreen.button(page, "This is who we are").click();
        assertThat(page.getByText("Said by the school itself.")).isVisible();
        page.navigate(school.server() + "/account");
        assertThat(page.getByText("Passkeys are good at localhost; you came by 127.0.0.1."))
                .isVisible();

        var device = device(page);
        page.navigate(named);
        Chromium.signIn(page, Chromium.OWNER, Chromium.OWNERS);
        assertThat(OnScreen.heading(page, "First steps")).isVisible();
        makes(page, "My telephone");
        assertThat(page.getByText("From now on you can sign in with it.")).isVisible();
        makes(page, "My telephone again");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("This device has one already");

        OnScreen.button(page, "Sign out").click();
        OnScreen.button(page, "By passkey").click();
        assertThat(OnScreen.heading(page, "First steps")).isVisible();

        school.change(
                School.Part.SERVER, "delete from spring_session_attributes where attribute_name = 'yoru.provedAt'");
        page.navigate(named + "/account");
        OnScreen.button(page, "Set it up").click();
        var asked = page.getByRole(AriaRole.DIALOG);
        asked.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("By passkey"))
                .click();
        assertThat(asked).isHidden();
        OnScreen.button(page, "Set it up").click();
        assertThat(page.getByLabel("The code that it shows now")).isVisible();

        OnScreen.button(page, "Remove My telephone").click();
        OnScreen.button(page, "It lets nobody in any more").click();
        assertThat(page.getByText("My telephone", new Page.GetByTextOptions().setExact(true)))
                .isHidden();
        OnScreen.button(page, "Sign out").click();
        OnScreen.button(page, "By passkey").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("This passkey is not one of an account here");
        device.detach();
    }

    private static void makes(Page page, String name) {
        page.navigate(page.url().replaceAll("(://[^/]+).*", "$1/account"));
        page.getByLabel("What you call the device").fill(name);
        OnScreen.button(page, "Make a passkey").click();
    }

    /** A device that keeps passkeys and sees who holds it. */
    private static CDPSession device(Page page) {
        var session = page.context().newCDPSession(page);
        session.send("WebAuthn.enable");
        var options = new JsonObject();
        options.addProperty("protocol", "ctap2");
        options.addProperty("transport", "internal");
        options.addProperty("hasResidentKey", true);
        options.addProperty("hasUserVerification", true);
        options.addProperty("isUserVerified", true);
        var all = new JsonObject();
        all.add("options", options);
        session.send("WebAuthn.addVirtualAuthenticator", all);
        return session;
    }
}
