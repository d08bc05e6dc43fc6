package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.deque.html.axecore.playwright.AxeBuilder;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.WaitForSelectorState;
import java.io.IOException;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import yoru.e2e.School.Part;

/** No screen breaks a rule of WCAG 2.2 A or AA that axe-core 4.11 can tell, in either theme. */
class AccessibilityTests {

    private static final List<String> RULES = List.of("wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa");

    private static final String NIGHT = "yoru-night";
    private static final String CONTRAST = "color-contrast";
    private static final int PHONE_WIDTH = 390;
    private static final int PHONE_HEIGHT = 844;

    private static final String COLOURS_HAVE_CHANGED = """
            () => Promise.all(document.getAnimations().filter((one) => one instanceof CSSTransition)
                .map((one) => one.finished.catch(() => undefined)))""";

    private static final int PARTS = 3;

    @RegisterExtension
    final Chromium chromium = new Chromium();

    private final School school = School.running();
    private int looked = LocalDate.now(ZoneOffset.UTC).getDayOfYear();

    @Test
    void everyScreenInLightAndDark() throws IOException, InterruptedException {
        var learner = Learner.stranger(school, chromium.stranger(), "Isolde Brennan");
        var order = learner.buys("Starter bundle", "SPRING20");
        learner.signsInToClassroom();
        var faults = new ArrayList<String>();
        for (var page : List.of("/", "/basket", "/orders/" + order, "/account", "/keeper")) {
            look(learner.page(), school.address(Part.SHOP) + page, faults);
        }
        for (var page : List.of(
                "/",
                "/my",
                "/courses/first-hive",
                "/courses/first-hive/box",
                "/courses/winter-care/feed",
                "/sign-in",
                "/keeper")) {
            look(learner.page(), school.address(Part.CLASSROOM) + page, faults);
        }
        for (var part : List.of(Part.CONTACTS, Part.COMMUNITY, Part.MAILBOX)) {
            look(learner.page(), school.address(part), faults);
            look(learner.page(), school.address(part) + "/practice/manners", faults);
        }
        var stranger = chromium.stranger();
        stranger.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.DARK));
        stranger.navigate(school.server());
        assertThat(stranger.locator("html").getAttribute("data-theme")).isEqualTo(NIGHT);
        stranger.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.LIGHT));
        look(stranger, school.server() + "/first", faults);
        look(stranger, school.server() + "/password#a-code-of-a-letter", faults);
        look(stranger, school.server(), faults);
        Chromium.signIn(stranger);
        OnScreen.heading(stranger, "Today").waitFor();
        theFrameOfAPhone(stranger, faults);
        yoruScreens(stranger, learner, order, faults);
        assertThat(faults).isEmpty();
    }

    private void yoruScreens(Page page, Learner learner, String order, List<String> faults)
            throws IOException, InterruptedException {
        for (var screen : List.of(
                "/today",
                "/mapping",
                "/mapping?view=history",
                "/mapping?view=by-source",
                "/mapping?view=by-target",
                "/mapping?view=findings",
                "/mapping?view=catalogue",
                "/mapping?view=catalogue&thing=school",
                "/mapping?view=catalogue&thing=product%2FFIRST",
                "/mapping?view=catalogue&thing=course%2Fqueen-rearing",
                "/mapping?view=catalogue&thing=level%2Fkeeper",
                "/mapping?view=catalogue&thing=tag%2Fopen-day-guest",
                "/orders",
                "/orders?show=OVERDUE",
                "/orders/by-hand",
                "/orders/no-such-order",
                "/team",
                "/school",
                "/account",
                "/policies",
                "/followups",
                "/followups?which=circle-of-a-course",
                "/followups?view=lately",
                "/followups?view=letters",
                "/rehearse",
                "/rehearse?which=a-guest&step=4",
                "/quotes",
                "/quotes/999",
                "/held",
                "/exchange",
                "/people/segments",
                "/claim/no-such-gift",
                "/door",
                "/door/queen-rearing",
                "/door/no-such-course",
                "/thanks/no-such-order",
                "/mine/no-such-link",
                ownPage(learner.email()),
                "/people",
                "/people?q=nobody-of-that-name",
                "/systems",
                "/systems/add",
                "/systems/practice-classroom",
                "/systems/practice-classroom?view=out-of-step",
                "/systems/practice-classroom?view=shown",
                "/systems/practice-shop?view=matching",
                "/systems/practice-mailbox?view=settings",
                "/systems/no-such-system",
                "/journal",
                "/journal?show=troubles",
                "/no-such-page")) {
            look(page, school.server() + screen, faults);
        }
        var id = school.rows(Part.SERVER, "select id from person where person_key = ?", learner.email())
                .getFirst();
        look(page, school.server() + "/people/" + id, faults);
        look(page, school.server() + "/people/" + id + "?at=2025-01-01", faults);
        look(page, school.server() + "/people/999999", faults);
        desk(page, id, learner.email(), order, faults);

        page.navigate(school.server() + "/mapping");
        OnScreen.cell(page, "First Hive opens First Hive").click();
        page.keyboard().press("Space");
        page.keyboard().press("ArrowRight");
        page.keyboard().press("Enter");
        page.getByText("If you publish this draft").waitFor();
        page.getByRole(AriaRole.COMPLEMENTARY).getByText("lose access").first().waitFor();
        // what ships with the demo rehearses this course
        PlaywrightAssertions.assertThat(OnScreen.button(page, "Publish 2 changes"))
                .isDisabled();
        page.getByLabel("Why is it published all the same?").fill("to look at it");
        PlaywrightAssertions.assertThat(OnScreen.button(page, "Publish 2 changes"))
                .isEnabled();
        check(page, "the mapping with a draft and its terms", faults);
        OnScreen.button(page, "Discard").click();
    }

    /** Where the letter about what they bought leads. */
    private String ownPage(String email) throws IOException, InterruptedException {
        await().atMost(Duration.ofMinutes(1)).until(() -> school.letters(email).contains("/mine/"));
        return school.letters(email).replaceAll("(?s).*?(/mine/[\\w.-]+).*", "$1");
    }

    /** Filled in, with what would follow. */
    private void desk(Page page, Object person, String email, String order, List<String> faults) {
        look(page, school.server() + "/orders/" + order + "/invoice", faults);
        look(page, school.server() + "/orders/" + order, faults);
        OnScreen.button(page, "Cancel").click();
        page.getByText("Closes").first().waitFor();
        check(page, "an order about to be cancelled", faults);
        page.navigate(school.server() + "/people/" + person);
        OnScreen.button(page, "Give access").click();
        page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("What to give"))
                .fill("care");
        page.getByRole(AriaRole.OPTION).first().waitFor();
        // while a list is open what is around it is hidden from screen readers; Tab closes the list before it gets
        // there
        check(page, "something about to be given", faults, List.of("aria-hidden-focus"));
        page.keyboard().press("Escape"); // while the list is open, what is around it is not read out
        OnScreen.button(page, "Leave it").click();
        page.getByText("More", new Page.GetByTextOptions().setExact(true)).click();
        page.getByText("Erase for good").click();
        page.getByLabel("Write " + email).fill(email);
        page.getByText("Closes").first().waitFor();
        check(page, "somebody about to be erased", faults);
        page.navigate(school.server() + "/orders/by-hand");
        page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("For whom"))
                .fill("nobody.yet@post.example");
        page.getByRole(AriaRole.OPTION).first().click();
        page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("Add a product"))
                .fill("queen");
        page.getByRole(AriaRole.OPTION).first().click();
        page.getByText("They will read").waitFor();
        check(page, "an order by hand filled in", faults);
    }

    private void look(Page page, String address, List<String> faults) {
        page.navigate(address);
        page.getByRole(AriaRole.HEADING)
                .or(page.getByRole(AriaRole.ALERT))
                .or(page.locator("[data-part=empty]"))
                .first()
                .waitFor();
        page.locator("[data-part=waiting]").waitFor(new Locator.WaitForOptions().setState(WaitForSelectorState.HIDDEN));
        check(page, address, faults);
    }

    private void check(Page page, String what, List<String> faults) {
        check(page, what, faults, List.of());
    }

    /**
     * Everything as it is on a display and on a phone, and the contrast in the dark too. A phone has the colours of the
     * display; what only a phone shows is in the frame, which {@link #theFrameOfAPhone} looks at once. On a phone and in the dark
     * a third of the screens are looked at each day, in the long run all.
     */
    private void check(Page page, String what, List<String> faults, List<String> without) {
        page.evaluate(COLOURS_HAVE_CHANGED); // a button that has just been enabled is on its way
        check(rules(page, without), what, faults);
        looked++;
        boolean whole = LongRun.IS || looked % PARTS == 0;
        onAPhone(page, what, whole, without, faults);
        if (whole && isDay(page)) {
            inTheDark(page, what, faults);
        }
    }

    private static void onAPhone(Page page, String what, boolean whole, List<String> without, List<String> faults) {
        var display = page.viewportSize();
        page.setViewportSize(PHONE_WIDTH, PHONE_HEIGHT);
        if (whole) {
            var others = new ArrayList<>(without);
            others.add(CONTRAST);
            check(rules(page, others), what + " on a phone", faults);
        }
        if (page.evaluate("document.documentElement.scrollWidth > innerWidth").equals(true)) {
            faults.add(what + " on a phone: goes sideways");
        }
        page.setViewportSize(display.width, display.height);
    }

    private static boolean isDay(Page page) {
        return "yoru-day".equals(page.locator("html").getAttribute("data-theme"));
    }

    private static void inTheDark(Page page, String what, List<String> faults) {
        page.evaluate("document.documentElement.dataset.theme = '" + NIGHT + "'");
        page.evaluate(COLOURS_HAVE_CHANGED);
        check(new AxeBuilder(page).withRules(List.of(CONTRAST)), what + " in the dark", faults);
        page.evaluate("document.documentElement.dataset.theme = 'yoru-day'");
    }

    /** The contrast of the frame as only a phone has it, its menu open. */
    private static void theFrameOfAPhone(Page page, List<String> faults) {
        var display = page.viewportSize();
        page.setViewportSize(PHONE_WIDTH, PHONE_HEIGHT);
        for (boolean open : List.of(false, true)) {
            if (open) {
                OnScreen.button(page, "All sections").click();
                page.getByRole(AriaRole.MENUITEM).first().waitFor();
            }
            var what = open ? "the menu of a phone" : "Today on a phone";
            page.evaluate(COLOURS_HAVE_CHANGED);
            check(new AxeBuilder(page).withRules(List.of(CONTRAST)), what, faults);
            inTheDark(page, what, faults);
        }
        page.keyboard().press("Escape");
        page.setViewportSize(display.width, display.height);
    }

    private static AxeBuilder rules(Page page, List<String> without) {
        var rules = new AxeBuilder(page).withTags(RULES);
        return without.isEmpty() ? rules : rules.disableRules(without);
    }

    private static void check(AxeBuilder axe, String what, List<String> faults) {
        axe.setLegacyMode(true) // no screen has frames: one run in the page itself is enough, and quicker
                .analyze()
                .getViolations()
                .forEach(rule -> rule.getNodes()
                        .forEach(node -> faults.add("%s: %s: %s %s"
                                .formatted(what, rule.getId(), node.getHtml(), node.getFailureSummary()))));
    }
}
