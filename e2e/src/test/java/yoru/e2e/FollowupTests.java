package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import java.util.regex.Pattern;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.e2e.School.Part;

/** What else happens when something happened: once, in order, whoever dies in between; written, tried, published and seen. */
class FollowupTests {

    private static final Duration LONG = Duration.ofSeconds(120);

    @RegisterExtension
    final Chromium chromium = new Chromium();

    private final School school = School.running();

    private List<JsonNode> letters(String to) {
        try {
            var all = JsonMapper.shared().readTree(school.letters(to));
            return StreamSupport.stream(all.spliterator(), false).toList();
        } catch (java.io.IOException e) {
            throw new java.io.UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        }
    }

    private long lettersThatBegin(String to, String subject) {
        return letters(to).stream()
                .filter(letter -> letter.path("subject").asString().startsWith(subject))
                .count();
    }

    private long runs(String person, String followup) {
        return school.count(
                Part.SERVER, "select count(*) from followup_run where subject = ? and followup = ?", person, followup);
    }

    private boolean isTagged(String person, String tag) {
        return school.count(
                        Part.CONTACTS,
                        "select count(*) from mark where email = ? and kind = 'tag' and id = ? and state = 'on'",
                        person,
                        tag)
                == 1;
    }

    /** The veil first, which is no course; then a course, and the server is killed before the tag is on; then another one. */
    @Test
    void aFirstTimeBuyerIsWelcomedOnceThoughTheServerIsKilledBetweenTwoSteps() {
        var learner = Learner.stranger(school, chromium.stranger(), "Enda Rafferty");
        learner.buys("Smoker & veil", "");
        school.behave(Part.CONTACTS, "down=true");
        String order;
        try {
            order = learner.buysAgain("First Hive", "");
            await().atMost(LONG).until(() -> runs(learner.email(), "first-course") == 1);
            assertThat(lettersThatBegin(learner.email(), "Welcome to the bees"))
                    .as("the letter waits for the tag")
                    .isZero();
            school.kill(Part.SERVER);
        } finally {
            school.behave(Part.CONTACTS, "");
        }
        school.start(Part.SERVER);
        await().atMost(LONG).until(() -> lettersThatBegin(learner.email(), "Welcome to the bees, Enda Rafferty") == 1);
        assertThat(isTagged(learner.email(), "first-timer")).isTrue();

        learner.buysAgain("Honey Harvest", "");
        paidAgain(order, learner.email());
        await().atMost(LONG)
                .until(() -> school.count(
                                Part.CLASSROOM,
                                "select count(*) from enrolment where learner = ? and state = 'open'",
                                learner.email())
                        == 2);
        await().atMost(LONG).until(school::quiet);
        assertThat(runs(learner.email(), "first-course")).isEqualTo(1);
        assertThat(lettersThatBegin(learner.email(), "Welcome to the bees")).isEqualTo(1);

        learner.isRefunded(order);
        await().atMost(LONG).until(() -> !isTagged(learner.email(), "first-timer"));
        await().atMost(LONG).until(() -> isTagged(learner.email(), "was-refunded"));

        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/people/"
                + school.rows(Part.SERVER, "select id from person where person_key = ?", learner.email())
                        .getFirst());
        var section = yoru.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Follow-ups"));
        assertThat(section).containsText("First course");
        section.getByRole(AriaRole.LISTITEM)
                .filter(new Locator.FilterOptions().setHasText("First course"))
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Steps"))
                .click();
        assertThat(section).containsText("they bought none of any of Courses before (0): yes");
        assertThat(section).containsText("write “Welcome to the bees, Enda Rafferty”");
    }

    private void paidAgain(String order, String person) {
        say("yoru.order.paid", person, "{\"order\": \"%s\"}".formatted(order));
    }

    private void say(String type, String person, String data) {
        var id = UUID.randomUUID().toString();
        try {
            assertThat(school.report(Part.SERVER, id, """
                            {"specversion": "1.0", "id": "%s", "source": "/practice-shop", "type": "%s", "subject": "%s",
                             "time": "%s", "datacontenttype": "application/json", "data": %s}""".formatted(id, type, person, Instant.now(), data))
                            .statusCode())
                    .isEqualTo(200);
        } catch (java.io.IOException e) {
            throw new java.io.UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** The contacts refuse the field; somebody says not to wait for it, the letter goes, and its code works once. */
    @Test
    void aStepThatIsRefusedIsSeenAndSkippedAndTheCodeInTheLetterWorksOnce() {
        var learner = Learner.stranger(school, chromium.stranger(), "Orla Quill");
        learner.buys("First Hive", "");
        say("yoru.course.completed", learner.email(), "{\"course\": \"first-hive\"}");
        await().atMost(LONG).until(() -> runs(learner.email(), "finished-first-hive") == 1);
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/followups?view=lately&state=HELD_UP");
        var run = yoru.getByRole(AriaRole.LISTITEM)
                .filter(new Locator.FilterOptions().setHasText("Orla Quill"))
                .first();
        assertThat(run).containsText("their names are in small letters");
        run.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Steps"))
                .click();
        run.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Do not wait for it"))
                .click();
        await().atMost(LONG).until(() -> lettersThatBegin(learner.email(), "You have finished First Hive") == 1);
        var text = letters(learner.email()).stream()
                .filter(letter -> letter.path("subject").asString().startsWith("You have finished"))
                .findFirst()
                .orElseThrow()
                .path("text")
                .asString();
        var found = Pattern.compile("\\*\\*([A-Z2-9]{10})\\*\\*").matcher(text);
        assertThat(found.find()).as(text).isTrue();
        var code = found.group(1);
        learner.buysAgain("Honey Harvest", code);
        assertThat(learner.page().getByText("93.50").first()).isVisible();
        learner.page().navigate(school.address(Part.SHOP));
        OnScreen.button(learner.page(), "Into the basket: Winter Care").click();
        learner.page().getByLabel("Discount code").fill(code);
        OnScreen.button(learner.page(), "Count again").click();
        assertThat(learner.page().getByText("There is no discount with this code."))
                .isVisible();
    }

    /** A member has the area at once; another is marked, and no longer when they buy again as a member. */
    @Test
    void aMemberHasTheAreaAtOnceAndAnotherIsMarkedUntilTheyHaveJoined() {
        var member = Learner.stranger(school, chromium.stranger(), "Ide Moran");
        say("yoru.level.started", member.email(), "{\"level\": \"keeper\"}");
        member.buys("First Hive", "");
        await().atMost(LONG).until(() -> done(member.email(), "give area/keepers-yard") == 1);
        await().atMost(LONG).until(() -> isIn(member.email(), "keepers-yard"));
        assertThat(isTagged(member.email(), "could-join")).isFalse();

        var other = Learner.stranger(school, chromium.stranger(), "Cian Foyle");
        other.buys("First Hive", "");
        await().atMost(LONG).until(() -> isTagged(other.email(), "could-join"));
        assertThat(isIn(other.email(), "keepers-yard")).isFalse();
        say("yoru.level.started", other.email(), "{\"level\": \"keeper\"}");
        await().atMost(LONG).until(() -> isIn(other.email(), "keepers-yard"));
        other.buysAgain("Honey Harvest", "");
        await().atMost(LONG).until(() -> !isTagged(other.email(), "could-join"));
        assertThat(done(other.email(), "give area/keepers-yard")).isEqualTo(1);
    }

    private long done(String person, String does) {
        return school.count(Part.SERVER, """
                select count(*) from followup_step s join followup_run r on r.id = s.run_id
                where r.subject = ? and s.does = ? and s.state = 'DONE'""", person, does);
    }

    private boolean isIn(String person, String area) {
        return school.count(Part.COMMUNITY, """
                        select count(*) from membership s join member m on m.id = s.member
                        where m.user_name = ? and s.place = ?""", person, area) == 1;
    }

    /** From a ready-made one to a table for many, tried on somebody, published, and seen doing it. */
    @Test
    void aFollowUpIsWrittenTriedPublishedAndSeenDoingItsWork() {
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/followups");
        yoru.getByText("A new one, from one of these").click();
        yoru.getByRole(AriaRole.LISTITEM)
                .filter(new Locator.FilterOptions().setHasText("The team hears of a sale above an amount."))
                .getByRole(AriaRole.BUTTON)
                .click();
        assertThat(OnScreen.heading(yoru, "A large sale")).isVisible();
        OnScreen.button(yoru, Pattern.compile("^For whom")).click();
        yoru.getByLabel("Amount").fill("1000.00");
        yoru.keyboard().press("Escape");
        assertThat(OnScreen.button(yoru, Pattern.compile("^For whom"))).containsText("1000.00 EUR or more");
        OnScreen.button(yoru, Pattern.compile("^For whom")).click();
        yoru.getByLabel("Amount").fill("100.00");
        OnScreen.button(yoru, "Done").click();

        OnScreen.button(yoru, Pattern.compile("^One run for")).click();
        yoru.getByLabel("each of its lines that match").check();
        OnScreen.button(yoru, "Done").click();
        addRow(yoru, "Honey Harvest");
        yoru.getByLabel("Another column").fill("who");
        OnScreen.button(yoru, Pattern.compile("^Add$")).click();
        yoru.getByLabel("who of Honey Harvest").fill("Brona");
        OnScreen.button(yoru, Pattern.compile("^What the team is told")).click();
        yoru.getByLabel("Text").fill("{{row.who}}: {{person.name}} paid for {{thing.title}}");
        OnScreen.button(yoru, "Done").click();
        var margin = yoru.getByRole(AriaRole.COMPLEMENTARY);
        assertThat(margin.getByLabel("What it would have done")).containsText("people served");
        assertThat(OnScreen.button(yoru, Pattern.compile("^Publish"))).isEnabled();
        OnScreen.button(yoru, Pattern.compile("^Publish")).click();
        assertThat(yoru.getByText("on since")).isVisible();

        var learner = Learner.stranger(school, chromium.stranger(), "Sorcha Venn");
        learner.buys("Honey Harvest", "");
        await().atMost(LONG)
                .until(() -> letters(School.EMAIL).stream()
                        .anyMatch(letter ->
                                letter.path("text").asString().contains("Brona: Sorcha Venn paid for Honey Harvest")));
        OnScreen.link(yoru, "Its runs").click();
        assertThat(yoru.getByLabel("Lately")).containsText("Sorcha Venn");
        yoru.navigate(school.server() + "/today");
        assertThat(yoru.getByText("Brona: Sorcha Venn paid for Honey Harvest")).isVisible();

        yoru.navigate(school.server() + "/followups");
        var large = yoru.getByRole(AriaRole.LISTITEM)
                .filter(new Locator.FilterOptions().setHasText("paid for anything"))
                .filter(new Locator.FilterOptions().setHasText("A large sale"));
        large.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Switch off now"))
                .click();
        assertThat(large.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Switch on in the draft")))
                .isVisible();
        assertThat(yoru.getByText("Nothing is changed yet")).isVisible();
    }

    /** The school words a letter, and looks at it; a learner stops letters that answer nothing they did. */
    @Test
    void lettersAreInTheSchoolsWordsAndTheirReadersStopWhatTheyDidNotAskFor() {
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/followups?view=letters");
        var opened = yoru.getByLabel("What has opened", new Page.GetByLabelOptions().setExact(true));
        OnScreen.button(yoru, "Write it yourself").first().click();
        opened.getByLabel("Subject").fill("Come in, {{person.name}}");
        OnScreen.button(yoru, "How it looks").click();
        assertThat(yoru.frameLocator("iframe").getByRole(AriaRole.LISTITEM).first())
                .containsText("First Hive");
        OnScreen.button(yoru, "Close").click();
        OnScreen.button(yoru, "Use these words").click();
        assertThat(opened).containsText("in your words");
        var learner = Learner.stranger(school, chromium.stranger(), "Tamsin Roe");
        learner.buys("First Hive", "");
        await().atMost(LONG).until(() -> lettersThatBegin(learner.email(), "Come in, Tamsin Roe") == 1);
        OnScreen.button(yoru, "As it ships again").click();
        assertThat(opened).containsText("as it ships");

        yoru.navigate(school.server() + "/people/"
                + school.rows(Part.SERVER, "select id from person where person_key = ?", learner.email())
                        .getFirst());
        OnScreen.button(yoru, "Stop these letters").click();
        assertThat(yoru.getByText("They get no letters that answer nothing they did"))
                .isVisible();
        var page = learner.page();
        page.navigate(school.server() + "/letters/"
                + school.rows(
                                Part.SERVER,
                                "select code from letter_stop s join person p on p.id = s.person_id where p.person_key = ?",
                                learner.email())
                        .getFirst());
        OnScreen.button(page, "Have them again").click();
        assertThat(page.getByText("No more letters like this?")).isVisible();
        OnScreen.button(page, "No more of them").click();
        assertThat(page.getByText("You get no more of these letters")).isVisible();
        yoru.reload();
        assertThat(yoru.getByText("they chose so themselves")).isVisible();
    }

    private static void addRow(Page yoru, String product) {
        var finder = yoru.getByLabel("Add a row for");
        finder.fill(product);
        yoru.getByRole(AriaRole.OPTION, new Page.GetByRoleOptions().setName(product))
                .first()
                .click();
    }
}
