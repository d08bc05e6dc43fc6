package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.time.Duration;
import java.util.UUID;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import yoru.e2e.School.Part;

/** The learner's way: from the link in a mail to the lesson, and what is met where something is closed. */
class DoorScreenTests {

    private static final Duration PATIENCE = Duration.ofSeconds(60);
    private static final String COURSE = "queen-rearing";

    @RegisterExtension
    final Chromium chromium = new Chromium();

    private final School school = School.running();

    private String lesson(String section) {
        return school.address(Part.CLASSROOM) + "/courses/" + COURSE + "/" + section;
    }

    /** Until the practice systems have been told: a publish reaches them a moment later. */
    private void whenTold(Page page, String address, String text) {
        await().atMost(PATIENCE).until(() -> {
            page.navigate(address);
            return page.content().contains(text);
        });
    }

    private String linkIn(String person, String path) throws IOException, InterruptedException {
        await().atMost(PATIENCE).until(() -> school.letters(person).contains(path));
        var found = Pattern.compile(Pattern.quote(path) + "[\\w.-]+").matcher(school.letters(person));
        var last = "";
        while (found.find()) {
            last = found.group();
        }
        return school.server() + last;
    }

    @Test
    void aStrangerComesFromALinkInAMailToTheLessonOnAPhone() {
        var learner = Learner.stranger(school, chromium.stranger(), "Ines Vale");
        var page = learner.page();
        page.setViewportSize(390, 844);
        whenTold(page, lesson("why"), "You are in.");
        page.navigate(school.server() + "/door/" + COURSE + "?to=" + lesson("grafting"));
        assertThat(OnScreen.heading(page, "Queen Rearing")).isVisible();
        assertThat(page.getByText("You wanted the lesson Grafting larvae")).isVisible();
        assertThat(fitsItsWidth(page)).isTrue();
        OnScreen.link(page, "Read “Why rear queens”").click();
        OnScreen.link(page, "Why rear queens").click();
        assertThat(page.getByText("You are in.")).isVisible();

        page.navigate(school.server() + "/door/" + COURSE + "?to=" + lesson("grafting"));
        // another walk may have mapped something cheaper to it, so that this is not the first
        page.locator("a[href$='QUEEN~QUEEN-SELF'], a[href$='product=QUEEN-SELF']")
                .click();
        page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Basket"))
                .waitFor();
        assertThat(page.getByText("Queen Rearing, self-paced")).isVisible();
        page.getByLabel("Discount code").fill("OPENDAY");
        OnScreen.button(page, "Check out").click();
        page.getByLabel("New here: make an account").check();
        page.getByLabel("Your name").fill(learner.name());
        page.getByLabel("E-mail address").fill(learner.email());
        page.getByLabel("Password").fill("a quiet apiary");
        OnScreen.button(page, "Order").click();
        assertThat(page.getByText("Thank you. Queen Rearing, self-paced opens Queen Rearing"))
                .isVisible();
        OnScreen.link(page, "All that I have bought").click();
        page.waitForURL("**/thanks/**");
        whenTold(page, page.url(), "Begin: Queen Rearing");
        assertThat(OnScreen.heading(page, "Thank you, Ines Vale")).isVisible();
        assertThat(fitsItsWidth(page)).isTrue();
        page.getByRole(
                        AriaRole.LINK,
                        new Page.GetByRoleOptions()
                                .setName("Begin: Queen Rearing")
                                .setExact(true))
                .click();
        assertThat(OnScreen.heading(page, "Queen Rearing")).isVisible();

        signsInAtTheDoor(page, learner.email());
        alreadyKnownButNotSignedIn(learner);
    }

    private void signsInAtTheDoor(Page page, String email) {
        page.navigate(lesson("grafting"));
        assertThat(page.getByText("Somebody gave it to you, or you bought it?")).isVisible();
        page.locator("main").getByText("Sign in").last().click();
        page.getByLabel("E-mail address").fill(email);
        OnScreen.button(page, "Sign in").click();
        assertThat(page).hasURL(lesson("grafting"));
        await().atMost(PATIENCE).until(() -> {
            page.navigate(lesson("grafting"));
            return page.getByText("You are in.").isVisible();
        });
    }

    private void alreadyKnownButNotSignedIn(Learner learner) {
        var elsewhere = chromium.stranger();
        signsInAtTheDoor(elsewhere, learner.email());
        elsewhere.navigate(school.address(Part.CLASSROOM) + "/sign-in");
        elsewhere.getByLabel("E-mail address").fill(learner.email());
        OnScreen.button(elsewhere, "Sign in").click();
        assertThat(elsewhere).hasURL(Pattern.compile("/my$"));
    }

    private static boolean fitsItsWidth(Page page) {
        return (Boolean) page.evaluate("document.documentElement.scrollWidth <= window.innerWidth");
    }

    @Test
    void whoIsSignedInWithoutAccessReadsWhatTheMarginSaidBeforeItWasPublished() {
        var learner = Learner.stranger(school, chromium.stranger(), "Odd Lund");
        learner.buys("Honey Harvest", "OPENDAY");
        learner.signsInToClassroom();
        whenTold(learner.page(), lesson("grafting"), "is not open for you yet");
        assertThat(learner.page().locator("main").getByText("Sign in")).isHidden();
        assertThat(learner.page().getByText("Get it: Queen Rearing, self-paced, €180.00"))
                .isVisible();

        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/mapping?view=catalogue&thing=course%2Fwinter-care");
        var own =
                "Ask <b>Orla</b> for {{title}} " + UUID.randomUUID().toString().substring(0, 4);
        var read = own.replace("{{title}}", "Winter Care");
        yoru.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("Somebody signed in who does not have it"))
                .getByLabel("reads this")
                .check();
        yoru.getByLabel("What is read: somebody signed in who does not have it").fill(own);
        var margin = yoru.getByRole(AriaRole.COMPLEMENTARY);
        assertThat(margin.getByText("Whoever opens Winter Care without access")).isVisible();
        assertThat(margin).containsText("will meet “" + read + "”");
        assertThat(yoru.getByLabel("What is met")).containsText(read);
        OnScreen.button(yoru, "Publish 1 change").click();
        assertThat(margin).containsText("Nothing is changed yet");
        await().atMost(PATIENCE).until(() -> {
            learner.page().navigate(school.address(Part.CLASSROOM) + "/courses/winter-care");
            return learner.page().getByText(read).isVisible(); // the markup is read as text
        });
        yoru.navigate(school.server() + "/systems/practice-classroom?view=shown");
        OnScreen.button(yoru, "Look now").click();
        assertThat(OnScreen.button(yoru, "Look now")).isEnabled();
        assertThat(yoru.getByLabel("What it shows")).containsText("It shows what it should at");

        refusesAnotherHost(yoru);
        yoru.navigate(school.server() + "/mapping?view=history");
        assertThat(yoru.getByText("door of Winter Care").first()).isVisible();
    }

    private void refusesAnotherHost(Page yoru) {
        yoru.navigate(school.server() + "/mapping?view=catalogue&thing=course%2Fwinter-care");
        yoru.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("Somebody who is not signed in"))
                .getByLabel("is sent to another page")
                .check();
        yoru.getByLabel("Where they are sent: somebody who is not signed in").fill("https://elsewhere.example/");
        assertThat(yoru.getByText("where no connected system is").first()).isVisible();
        OnScreen.button(yoru, "Discard").click();
        assertThat(yoru.getByRole(AriaRole.COMPLEMENTARY)).containsText("Nothing is changed yet");
    }

    @Test
    void whoeverCannotGetInIsWrittenToAndThePageSaysTheSameToAll() throws IOException, InterruptedException {
        var known = Learner.stranger(school, chromium.stranger(), "Karin Known");
        known.buys("Honey Harvest", "OPENDAY");
        linkIn(known.email(), "/mine/");
        var asked = asksForHelp(known.page(), known.email());
        assertThat(asksForHelp(known.page(), "nobody-" + UUID.randomUUID() + "@post.example"))
                .isEqualTo(asked);
        await().atMost(PATIENCE).until(() -> school.letters(known.email()).contains("How to get in"));
        assertThat(school.letters(known.email())).contains("Honey Harvest").contains("Sign in as " + known.email());

        var guest = Learner.stranger(school, chromium.stranger(), "Gus Guest");
        letsGuestsBuy(guest.page());
        guest.buysAsGuest("Honey Harvest");
        asksForHelp(guest.page(), guest.email());
        guest.page().navigate(linkIn(guest.email(), "/mine/proof/"));
        OnScreen.button(guest.page(), "It is mine").click();
        assertThat(OnScreen.heading(guest.page(), "It is yours")).isVisible();
        guest.signsInToClassroom();
        whenTold(guest.page(), school.address(Part.CLASSROOM) + "/courses/honey-harvest", "Open for you.");

        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/journal");
        assertThat(yoru.getByText("Asked how to get in").first()).isVisible();
    }

    private void letsGuestsBuy(Page page) {
        page.navigate(school.address(Part.SHOP) + "/keeper");
        var allow = OnScreen.button(page, "Allow it");
        if (allow.isVisible()) {
            allow.click();
        }
    }

    private String asksForHelp(Page page, String address) {
        page.navigate(school.server() + "/door/honey-harvest");
        page.getByLabel("I have bought it and cannot get in").fill(address);
        OnScreen.button(page, "Send me what I have").click();
        assertThat(OnScreen.heading(page, "Look into your mail")).isVisible();
        return page.content();
    }

    @Test
    void onAPageOfTheirOwnPeopleChooseGiveBackAndSend() throws IOException, InterruptedException {
        var member = Learner.stranger(school, chromium.stranger(), "Mara Member");
        member.buys("Keeper", "");
        var page = member.page();
        page.navigate(linkIn(member.email(), "/mine/"));
        assertThat(page.getByText("Keeper: 0 of 4 courses chosen")).isVisible();
        page.getByLabel("Choose a course")
                .selectOption(new com.microsoft.playwright.options.SelectOption().setLabel("Hive Health"));
        OnScreen.button(page, "Choose it").click();
        assertThat(page.getByText("Keeper: 1 of 4 courses chosen")).isVisible();
        inTheClassroom(member.email(), "hive-health", "open");
        OnScreen.button(page, "give back Hive Health").click();
        assertThat(page.getByText("Keeper: 0 of 4 courses chosen")).isVisible();
        inTheClassroom(member.email(), "hive-health", "closed");

        var buyer = Learner.stranger(school, chromium.stranger(), "Berta Buyer");
        buyer.buysSeveral("Places for a beekeeping club", 2);
        page.navigate(linkIn(buyer.email(), "/mine/"));
        var friend = "friend-" + UUID.randomUUID() + "@post.example";
        page.getByLabel("Send it to").fill(friend);
        OnScreen.button(page, "Send place 2").click();
        assertThat(page.getByText("sent to " + friend + ", not taken up yet")).isVisible();
        linkIn(friend, "/claim/");
        page.setViewportSize(390, 844);
        assertThat(fitsItsWidth(page)).isTrue();
    }

    private void inTheClassroom(String person, String course, String state) {
        await().atMost(PATIENCE)
                .until(() -> school.count(
                                Part.CLASSROOM,
                                "select count(*) from enrolment where learner = ? and course_id = ? and state = ?",
                                person,
                                course,
                                state)
                        == 1);
    }
}
