package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.time.Duration;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.json.JsonMapper;
import yoru.e2e.School.Part;

/** A system connected from nothing, its fields matched; a sale seen in all five; what is out of step settled. */
class SystemsScreenTests {

    @RegisterExtension
    final Chromium chromium = new Chromium();

    private final School school = School.running();

    @Test
    void aShopAndACommunityAreConnectedFromNothingAndASaleReachesAll() throws Exception {
        var yoru = chromium.operator(school);
        connectsACommunity(yoru);
        addsASystem(yoru);
        yoru.getByRole(AriaRole.RADIO, new Page.GetByRoleOptions().setName("Shop sells"))
                .check();
        yoru.getByLabel("What you call it").fill("Honey stall");
        yoru.getByLabel("Its address, or any page of it")
                .fill("  <" + school.address(Part.SHOP) + "/keeper?tab=2#top>, ");
        assertThat(yoru.getByText("only the host is kept")).isVisible();
        yoru.getByLabel("Token that lets Yoru in").fill(school.setting("YORU_SHOP_TOKEN"));
        yoru.getByLabel("it cannot sign").check();
        OnScreen.button(yoru, "Add it, switched off").click();
        assertThat(yoru.getByText("with Bearer and the secret")).isVisible();
        var secret = yoru.locator("[data-part=secret]").textContent();
        OnScreen.button(yoru, "I have it").click();
        assertThat(OnScreen.heading(yoru, "Honey stall")).isVisible();

        OnScreen.button(yoru, "Test").click();
        assertThat(yoru.getByText("It answered with one product")).isVisible();
        assertThat(yoru.getByLabel("The record")).containsText("First Hive");
        OnScreen.button(yoru, "Try once").click();
        assertThat(yoru.getByRole(AriaRole.COMPLEMENTARY)).containsText("things listed");
        OnScreen.button(yoru, "Listen and try").click();
        assertThat(yoru.getByText("has no effect yet")).isVisible();

        var person = "stall-" + UUID.randomUUID().toString().substring(0, 8) + "@post.example";
        report(secret, person, "9001");
        matches(yoru, person);
        OnScreen.button(yoru, "Keep the matching").click();
        assertThat(yoru.getByText("Version 1, in use")).isVisible();
        OnScreen.button(yoru, "Switch on").click();
        assertThat(yoru.locator("[data-part=badge]")).not().hasText("being tried");
        OnScreen.button(yoru, "Take them up now").click();
        assertThat(yoru.getByText("0 reports").or(yoru.getByText("kept and not taken up")))
                .isHidden();
        seenInAllFive(person);
        yoru.navigate(school.server() + "/systems");
        OnScreen.link(yoru, "Keepers' corner").click();
        assertThat(lately(yoru)).containsText("Queen breeders");
        OnScreen.button(yoru, "Switch off").click();
        assertThat(yoru.getByText("It is off: nothing is sent there")).isVisible();
        leavesAListFromALetter(yoru, person);
    }

    private static void addsASystem(Page yoru) {
        yoru.getByRole(
                        AriaRole.LINK,
                        new Page.GetByRoleOptions().setName("Systems").setExact(true))
                .click();
        yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Add a system"))
                .click();
    }

    /** Its interface is not where somebody thought; it is found, tested, tried, and switched on. */
    private void connectsACommunity(Page yoru) {
        addsASystem(yoru);
        yoru.getByRole(AriaRole.RADIO, new Page.GetByRoleOptions().setName("Community has"))
                .check();
        yoru.getByLabel("What you call it").fill("Keepers' corner");
        yoru.getByLabel("Where its SCIM interface begins").fill(school.address(Part.COMMUNITY));
        yoru.getByLabel("Token that lets Yoru in").fill("\"Bearer " + school.setting("YORU_COMMUNITY_TOKEN") + "\"");
        OnScreen.button(yoru, "Add it, switched off").click();
        OnScreen.button(yoru, "Test").click();
        assertThat(yoru.getByRole(AriaRole.COMPLEMENTARY)).containsText("does not look like a SCIM interface. Tried");
        OnScreen.button(yoru, "Use " + school.address(Part.COMMUNITY) + "/scim").click();
        assertThat(yoru.getByText("Test it again")).isVisible();
        OnScreen.button(yoru, "Test").click();
        assertThat(yoru.getByText("It answered with")).isVisible();
        OnScreen.button(yoru, "Try once").click();
        assertThat(yoru.getByRole(AriaRole.COMPLEMENTARY)).containsText("It is taken back");
        OnScreen.button(yoru, "Switch on").click();
        assertThat(yoru.locator("[data-part=badge]")).not().hasText("off");
    }

    private static Locator lately(Page yoru) {
        return yoru.locator("section")
                .filter(new Locator.FilterOptions().setHas(OnScreen.heading(yoru, "What it said last")));
    }

    /** By the link at a letter's foot; the list's page then says who left it. */
    private void leavesAListFromALetter(Page yoru, String person) throws IOException, InterruptedException {
        var letter = JsonMapper.shared().readTree(school.letters(person)).get(0);
        var mailbox = chromium.stranger();
        mailbox.navigate(school.address(Part.MAILBOX) + "/letters/"
                + letter.path("number").asInt());
        OnScreen.button(mailbox, "Leave it").click();
        assertThat(mailbox.getByText("They have left the list.")).isVisible();
        yoru.navigate(school.server() + "/mapping?view=catalogue&thing=list%2Fseason-letter");
        assertThat(OnScreen.link(yoru, person)).isVisible();
    }

    /** By clicking in what came in; the currency is always the same. */
    private static void matches(Page yoru, String person) {
        yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Matched fields"))
                .click();
        var came = yoru.getByLabel("What came in");
        assertThat(came).containsText(person);
        yoru.getByLabel("A report tells of").selectOption("order.placed");
        yoru.getByLabel("Also tells of, beside order placed").selectOption("order.paid");
        OnScreen.button(yoru, "Only when …").click();
        came.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("sold"))
                .click();
        assertThat(yoru.getByLabel("What event is")).hasValue("sold");
        pick(yoru, "person, address", person);
        pick(yoru, "order", "9001");
        pick(yoru, "lines", "QUEEN-LIVE");
        pick(yoru, "lines: product", "QUEEN-LIVE");
        pick(yoru, "lines: amount", "32000");
        yoru.getByLabel("Change lines: amount").selectOption("minor-units");
        assertThat(yoru.getByLabel("The last reports")).containsText("1 with a fault");
        assertThat(yoru.getByText("cannot be told from minor units while the currency is not known"))
                .isVisible();
        name(yoru, "currency").click();
        yoru.getByLabel("or always").fill("EUR");
        assertThat(yoru.getByLabel("What Yoru understands")).containsText("320.00");
        assertThat(yoru.getByLabel("The last reports")).containsText("1 understood");
    }

    private static void pick(Page yoru, String field, String value) {
        name(yoru, field).click();
        yoru.getByLabel("What came in")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(value))
                .first()
                .click();
    }

    private static Locator name(Page yoru, String field) {
        return yoru.locator("[data-part=understood]").getByText(field, new Locator.GetByTextOptions().setExact(true));
    }

    private void report(String secret, String person, String order) throws IOException, InterruptedException {
        var answer = school.send(HttpRequest.newBuilder(URI.create(school.server() + "/hooks/honey-stall"))
                .header("authorization", "Bearer " + secret)
                .POST(HttpRequest.BodyPublishers.ofString("""
                        {"event": "sold", "ref": "%s", "mail": "%s", "items": [{"code": "QUEEN-LIVE", "cents": 32000}]}""".formatted(order, person)))
                .build());
        org.assertj.core.api.Assertions.assertThat(answer.body()).contains("TRIED");
    }

    private void seenInAllFive(String person) throws IOException, InterruptedException {
        await().atMost(Duration.ofSeconds(90))
                .until(() -> school.count(
                                Part.CLASSROOM,
                                "select count(*) from enrolment where learner = ? and course_id = 'queen-rearing' and state = 'open'",
                                person)
                        == 1);
        await().atMost(Duration.ofSeconds(90))
                .until(() -> school.count(
                                Part.COMMUNITY,
                                "select count(*) from membership s join member m on m.id = s.member where m.user_name = ? and s.place in ('queen-breeders', 'queen-rearing-talk')",
                                person)
                        == 2);
        await().atMost(Duration.ofSeconds(90))
                .until(() -> school.count(
                                Part.CONTACTS,
                                "select count(*) from mark where email = ? and id = 'bought-queen-rearing' and state = 'on'",
                                person)
                        == 1);
        await().atMost(Duration.ofSeconds(90))
                .until(() -> school.letters(person).contains("Queen Rearing"));
        var letters = school.letters(person);
        org.assertj.core.api.Assertions.assertThat(letters)
                .contains("Auto-Submitted: auto-generated", "multipart/alternative", "From: Hollow Oak Bee School")
                .doesNotContain("320.00", "320,00", "EUR", "€");
    }

    @Test
    void whatWasDoneBehindYorusBackIsTakenOverOrTakenAway() {
        var adopted = "hand-" + UUID.randomUUID().toString().substring(0, 8) + "@post.example";
        var removed = "hand-" + UUID.randomUUID().toString().substring(0, 8) + "@post.example";
        for (var person : new String[] {adopted, removed}) {
            school.change(Part.CLASSROOM, "insert into learner values ('%1$s', '%1$s')".formatted(person));
            school.change(
                    Part.CLASSROOM,
                    "insert into enrolment values ('honey-harvest', '%s', 'open', null, 0, now())".formatted(person));
        }
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/systems/practice-classroom?view=out-of-step");
        OnScreen.button(yoru, "Compare now").click();
        OnScreen.button(yoru, "Take over Honey Harvest of " + adopted).click();
        var asked = yoru.getByRole(AriaRole.ALERTDIALOG);
        assertThat(asked).containsText(adopted + " keeps Honey Harvest, as given by hand");
        OnScreen.link(yoru, "Honey Harvest").click();
        assertThat(OnScreen.heading(yoru, "Order by hand")).isVisible();
        assertThat(yoru.locator("main").getByText(adopted).first()).isVisible();
        yoru.goBack();
        OnScreen.button(yoru, "Take over Honey Harvest of " + adopted).click();
        asked.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Take over"))
                .click();
        assertThat(asked).isHidden();
        assertThat(yoru.getByText(adopted)).isHidden();
        OnScreen.button(yoru, "Take it away: Honey Harvest of " + removed).click();
        assertThat(yoru.getByText(removed)).isHidden();
        await().atMost(Duration.ofSeconds(60))
                .until(() -> school.rows(Part.CLASSROOM, "select state from enrolment where learner = ?", removed)
                        .equals(java.util.List.of("closed")));
        yoru.navigate(school.server() + "/people?q=" + adopted);
        yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(adopted))
                .click();
        assertThat(OnScreen.heading(yoru, "Why Honey Harvest is open")).isVisible();
        assertThat(yoru.getByRole(AriaRole.COMPLEMENTARY)).containsText("found in Practice classroom and taken over");
    }
}
