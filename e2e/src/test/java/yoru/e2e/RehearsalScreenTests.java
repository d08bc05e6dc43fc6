package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.StandardCharsets;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.json.JsonMapper;
import yoru.e2e.School.Part;

/** Trying as a stranger, keeping the try, and what it then guards. */
class RehearsalScreenTests {

    private static final int SHIPPED = 10;

    @RegisterExtension
    final Chromium chromium = new Chromium();

    private final School school = School.running();

    private static Locator margin(Page yoru) {
        return yoru.getByRole(AriaRole.COMPLEMENTARY);
    }

    @Test
    void everyStoryThatShipsIsAsExpectedAndSaysWhatEachSystemIsTold() {
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/rehearse");
        assertThat(yoru.getByText(Pattern.compile("^all \\d+ as expected$"))).hasCount(SHIPPED);
        OnScreen.link(yoru, "A guest, paid later").click();
        var steps = yoru.getByRole(AriaRole.LIST, new Page.GetByRoleOptions().setName("Steps"));
        steps.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("the order is let in"))
                .click();
        assertThat(margin(yoru)).containsText("Queen Rearing until 4 Mar 2031");
        margin(yoru).getByText("What each system holds").click();
        assertThat(margin(yoru)).containsText("Practice community");
        var table = yoru.getByLabel("What happens in each system");
        assertThat(table).containsText("open Queen Rearing until 4 Mar 2031");
        OnScreen.button(yoru, "as sent").first().click();
        assertThat(yoru.getByRole(AriaRole.DIALOG))
                .containsText(Pattern.compile("(PUT|POST|PATCH) http://127\\.0\\.0\\.1"));
        yoru.keyboard().press("Escape");
        OnScreen.button(yoru, Pattern.compile("Welcome to the bees, Rue Dunne")).click();
        assertThat(yoru.getByRole(AriaRole.DIALOG)).containsText("It is shown, not sent");
        yoru.keyboard().press("Escape");
    }

    /** With the keyboard, from the day on which it ends to the last on which it is open, and to the first. */
    @Test
    void theDaysOfAStoryAreGoneThrough() {
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/rehearse?which=a-year-later");
        var days = yoru.getByLabel("Day of the story");
        days.focus();
        yoru.keyboard().press("End");
        assertThat(margin(yoru)).containsText("When day 365 ends");
        assertThat(margin(yoru)).not().containsText("until 4 Mar 2031");
        yoru.keyboard().press("ArrowLeft");
        assertThat(margin(yoru)).containsText("When day 364 ends");
        assertThat(margin(yoru)).containsText("Queen Rearing until 4 Mar 2031");
        yoru.keyboard().press("Home");
        assertThat(margin(yoru)).containsText("When day 0 ends");
    }

    /** Each story told to the practice systems: what they then hold is what was predicted, and afterwards they hold nothing of it. */
    @Test
    void whatIsPredictedIsWhatThePracticeSystemsReallyHold() throws Exception {
        var operator = SignedIn.to(school);
        var on = JsonMapper.shared()
                .readTree(operator.get("/api/systems"))
                .path("systems")
                .valueStream()
                .filter(it -> it.path("state").asString().equals("ON"))
                .map(it -> "\"" + it.path("id").asString() + "\"")
                .toList();
        var compared = 0;
        for (var kept : JsonMapper.shared().readTree(operator.get("/api/rehearsals"))) {
            var id = kept.path("id").asString();
            var story = JsonMapper.shared()
                    .readTree(operator.get("/api/rehearsals/kept/" + id))
                    .path("story");
            var trip = JsonMapper.shared()
                    .readTree(operator.post(
                            "/api/rehearsals/for-real", "{\"story\": %s, \"systems\": %s}".formatted(story, on)));
            assertThat(trip.path("told")
                            .valueStream()
                            .filter(it -> !it.path("well").asBoolean()))
                    .as(id)
                    .isEmpty();
            for (var holding : trip.path("compared")) {
                assertThat(holding.path("lacking")).as("%s %s", id, holding).isEmpty();
                assertThat(holding.path("besides")).as("%s %s", id, holding).isEmpty();
                compared += holding.path("predicted").asInt();
            }
            assertThat(trip.path("left").valueStream().map(it -> it.asString()))
                    .as(id)
                    .allMatch(it -> it.startsWith("the account of"));
        }
        assertThat(compared).isGreaterThan(20);
        assertThat(school.count(
                        Part.CONTACTS, "select count(*) from mark where email like '%@story.invalid' and state = 'on'"))
                .isZero();
        assertThat(school.count(Part.SERVER, "select count(*) from person where person_key like '%@story.invalid'"))
                .as("of the story's people Yoru knows nothing")
                .isZero();
    }

    /** A product tried with one click, kept as expected, then its mapping changes: the publish is held up and says which. */
    @Test
    void aTryThatIsKeptStandsInTheWayOfAPublishThatBreaksIt() {
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/rehearse?tries=PRODUCT&of=CANDLES");
        assertThat(yoru.getByText("nothing is expected yet")).isVisible();
        OnScreen.button(yoru, "Keep as expected").click();
        assertThat(yoru.getByText("all 1 as expected")).isVisible();
        yoru.getByLabel("What is tried").fill("Candles, as they are sold");
        OnScreen.button(yoru, "Keep it").click();
        assertThat(OnScreen.heading(yoru, "Candles, as they are sold")).isVisible();
        assertThat(yoru.url()).contains("which=candles-as-they-are-sold");
        try {
            yoru.navigate(school.server() + "/mapping?view=by-source");
            OnScreen.button(yoru, "Close Candles & Wax → Candles & Wax").click();
            assertThat(margin(yoru)).containsText(SHIPPED + " rehearsals as expected, 1 not:");
            assertThat(margin(yoru)).containsText("course/candles-wax should be open, is closed");
            var publish = OnScreen.button(yoru, "Publish 1 change");
            assertThat(publish).isDisabled();
            yoru.getByLabel("Why is it published all the same?").fill("It is not sold any more");
            assertThat(publish).isEnabled();
            OnScreen.link(yoru, "Candles, as they are sold").click();
            assertThat(yoru.getByText("1 of 1 not as expected")).isVisible();
            assertThat(yoru.getByText("under your draft of 1 change")).isVisible();
        } finally {
            yoru.navigate(school.server() + "/mapping?view=by-source");
            OnScreen.button(yoru, "Discard").click();
            assertThat(yoru.getByText("Nothing is changed yet")).isVisible();
            yoru.navigate(school.server() + "/rehearse?which=candles-as-they-are-sold");
            OnScreen.button(yoru, "Let it go").click();
            yoru.getByRole(AriaRole.ALERTDIALOG)
                    .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Let it go"))
                    .click();
            assertThat(OnScreen.heading(yoru, "Rehearse")).isVisible();
        }
    }

    /** Written step by step with the keyboard, wrong at first, from a file at last. */
    @Test
    void aStoryIsWrittenInWordsAndWhatIsWrongIsSaidWithItsPlace() {
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/rehearse?tries=PRODUCT&of=CLUB");
        yoru.getByLabel("How many").first().fill("3");
        assertThat(yoru.getByText("buys 3 × Places for a beekeeping club")).isVisible();
        yoru.getByLabel("Somebody else").fill("Odd Lund");
        yoru.getByLabel("Somebody else").press("Enter");
        OnScreen.button(yoru, Pattern.compile("Add a step")).click();
        yoru.getByLabel("What", new Page.GetByLabelOptions().setExact(true)).selectOption("claims");
        yoru.getByLabel("Who", new Page.GetByLabelOptions().setExact(true)).selectOption("odd-lund");
        assertThat(margin(yoru)).containsText("Odd Lund");
        // both are in it, and the community holds both
        assertThat(margin(yoru).getByText(Pattern.compile("^Valley bee club without an end$")))
                .hasCount(4);
        yoru.getByLabel("Seat").fill("9");
        assertThat(yoru.getByText("order o0001 has no seat 9 to claim")).isVisible();
        assertThat(yoru.getByText("It cannot be run like this")).isVisible();
        yoru.getByLabel("Seat").fill("");
        assertThat(yoru.getByText("order o0001 has no seat 9 to claim")).isHidden();

        yoru.navigate(school.server() + "/rehearse");
        yoru.getByLabel("Bring a story from a file")
                .setInputFiles(new FilePayload(
                        "story.yaml", "application/yaml", "yoru: story/1\nid: x\n".getBytes(StandardCharsets.UTF_8)));
        assertThat(yoru.getByRole(AriaRole.ALERT)).containsText("starts: is missing");
        assertThat(yoru.getByText(Pattern.compile("as expected$"))).hasCount(SHIPPED);
    }
}
