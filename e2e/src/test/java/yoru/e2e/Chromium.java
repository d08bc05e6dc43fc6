package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.extension.AfterEachCallback;
import org.junit.jupiter.api.extension.BeforeEachCallback;
import org.junit.jupiter.api.extension.ExtensionContext;

/** Debian's Chromium, a fresh profile for every test; a test that fails leaves a picture in target/failures. */
final class Chromium implements BeforeEachCallback, AfterEachCallback {

    /** A condition that holds by itself holds by then, also on two busy cores. */
    private static final int PATIENCE_MS = 30_000;

    /** Password of colleagues. */
    static final String COLLEAGUES = "smoke under seven lids";

    /** Who makes the owner's account where there is none. */
    static final String OWNER = "signe@hollowoak.example";

    /** Their password. */
    static final String OWNERS = "a long walk to the hives";

    private static final List<String> ARGUMENTS = List.of(
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync");
    /** In what the browser says where something was against the content policy: {@code script-src}, {@code img-src}. */
    private static final String CONTENT_POLICY = "-src'";

    private static final Browser BROWSER = launch();

    private final List<BrowserContext> contexts = new ArrayList<>();
    private final List<Page> pages = new ArrayList<>();
    private final List<String> scriptErrors = new ArrayList<>();
    private boolean isOperatorHere;

    private static Browser launch() {
        PlaywrightAssertions.setDefaultAssertionTimeout(PATIENCE_MS);
        var playwright = Playwright.create(
                new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
        return playwright
                .chromium()
                .launch(new BrowserType.LaunchOptions()
                        .setExecutablePath(Path.of("/usr/bin/chromium"))
                        .setArgs(ARGUMENTS));
    }

    @Override
    public void beforeEach(ExtensionContext context) {
        scriptErrors.clear();
        isOperatorHere = false;
    }

    @Override
    public void afterEach(ExtensionContext context) {
        if (context.getExecutionException().isPresent()) {
            for (int at = 0; at < pages.size(); at++) {
                var name = context.getRequiredTestMethod().getName() + "-" + at + ".png";
                pages.get(at).screenshot(new Page.ScreenshotOptions().setPath(Path.of("target", "failures", name)));
            }
        }
        contexts.forEach(BrowserContext::close);
        contexts.clear();
        pages.clear();
        if (!scriptErrors.isEmpty()) {
            throw new AssertionError("the page's scripts failed: " + scriptErrors);
        }
    }

    /** A window of somebody who has never been here: no cookies, nothing kept. */
    Page stranger() {
        var context = BROWSER.newContext(new Browser.NewContextOptions().setViewportSize(1280, 800));
        context.setDefaultTimeout(PATIENCE_MS);
        contexts.add(context);
        return window(context);
    }

    private Page window(BrowserContext context) {
        var page = context.newPage();
        page.onPageError(scriptErrors::add);
        page.onConsoleMessage(message -> {
            if (message.text().contains(CONTENT_POLICY)) {
                scriptErrors.add(message.location() + message.text());
            }
        });
        pages.add(page);
        return page;
    }

    /** A window of whoever makes the owner's account of a Yoru that nobody has used. */
    Page firstOwner(School school) throws IOException {
        var page = stranger();
        page.navigate(school.server() + "/first");
        page.getByLabel("Code").fill(school.firstCode());
        page.getByLabel("Your name").fill("Signe Holm");
        page.getByLabel("E-mail address").fill(OWNER);
        page.getByLabel("Password").fill(OWNERS);
        OnScreen.button(page, "Make the account").click();
        assertThat(OnScreen.heading(page, "First steps")).isVisible();
        return page;
    }

    /** A window in which the demo's operator has signed in to Yoru. */
    Page operator(School school) {
        if (!isOperatorHere) {
            withoutADraft(school);
            isOperatorHere = true;
        }
        var page = stranger();
        page.navigate(school.server());
        signIn(page);
        page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Today"))
                .waitFor();
        return page;
    }

    /** A window in which somebody else has signed in who may change the mapping. */
    Page colleague(School school, String name) {
        var email = "colleague-" + UUID.randomUUID() + "@hollowoak.example";
        try {
            var owner = SignedIn.to(school);
            owner.post("/api/team", """
                    {"email": "%s", "name": "%s", "role": "OPERATOR"}""".formatted(email, name));
            var link = school.whereToChooseAPassword(email);
            owner.post("/api/session/new-password", """
                    {"code": "%s", "password": "%s"}""".formatted(link.substring(link.indexOf('#') + 1), COLLEAGUES));
        } catch (IOException | InterruptedException e) {
            throw new IllegalStateException(e);
        }
        var page = stranger();
        page.navigate(school.server());
        signIn(page, email, COLLEAGUES);
        OnScreen.heading(page, "Today").waitFor();
        return page;
    }

    /** What another test has changed in the mapping and not published is no draft of this one. */
    private static void withoutADraft(School school) {
        try {
            SignedIn.to(school).withoutADraft();
        } catch (IOException | InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    static void signIn(Page page) {
        signIn(page, School.EMAIL, School.PASSWORD);
    }

    static void signIn(Page page, String email, String password) {
        page.getByLabel("E-mail address").fill(email);
        page.getByLabel("Password").fill(password);
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Sign in"))
                .click();
    }
}
