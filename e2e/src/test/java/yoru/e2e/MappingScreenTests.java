package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import yoru.e2e.School.Part;

/** The mapping as an operations lead works on it: from a file, by lists, looked over, taken back. */
class MappingScreenTests {

    private static final String STEWARD = """
            levels:
            - { id: steward, title: Steward, rank: 1 }
            """;
    private static final String STEWARD_OPENS = """
            links:
            - id: steward-opens-starter
              from: { level: steward }
              to: [ { category: Starter } ]
            """;

    @RegisterExtension
    final Chromium chromium = new Chromium();

    private final School school = School.running();

    @Test
    void aRulebookFromAFileIsADraftIsPublishedAndIsTakenBackExactly() {
        var yoru = chromium.operator(school);
        var before = rulebook(yoru);
        assertThat(before).doesNotContain("steward");
        yoru.navigate(school.server() + "/mapping?view=history");
        var changed = withTheSteward(before);
        yoru.getByLabel("From a file")
                .setInputFiles(
                        new FilePayload("rulebook.yaml", "application/yaml", changed.getBytes(StandardCharsets.UTF_8)));
        onlyTheSteward(yoru);
        assertThat(OnScreen.cell(yoru, "Steward opens All of Starter as long as it is held\\. Draft"))
                .isVisible();
        var margin = yoru.getByRole(AriaRole.COMPLEMENTARY);
        assertThat(margin).containsText("Level Steward");
        yoru.reload();
        OnScreen.button(yoru, "Publish 2 changes").click();
        assertThat(margin).containsText("Nothing is changed yet");
        onlyTheSteward(yoru);
        assertThat(OnScreen.cell(yoru, "Steward opens All of Starter as long as it is held$"))
                .isVisible();
        yoru.getByLabel("Filter products and courses").fill("");

        setsATermOfEveryKind(yoru, margin);

        yoru.navigate(school.server() + "/mapping?view=history");
        OnScreen.button(yoru, "Take back").first().click();
        assertThat(margin).containsText("If you publish this draft");
        OnScreen.button(yoru, "Publish 1 change").click();
        assertThat(margin).containsText("Nothing is changed yet");
        yoru.navigate(school.server() + "/mapping?view=history");
        OnScreen.button(yoru, "Take back").nth(2).click();
        assertThat(margin).containsText("Steward → All of Starter");
        yoru.navigate(school.server() + "/mapping?view=history");
        yoru.getByLabel("From a file")
                .setInputFiles(
                        new FilePayload("before.yaml", "application/yaml", before.getBytes(StandardCharsets.UTF_8)));
        OnScreen.button(yoru, "Publish 2 changes").click();
        assertThat(margin).containsText("Nothing is changed yet");
        assertThat(rulebook(yoru)).isEqualTo(before);
    }

    private static void setsATermOfEveryKind(Page yoru, com.microsoft.playwright.Locator margin) {
        OnScreen.cell(yoru, "Winter Care opens Winter Care").click();
        yoru.keyboard().press("Enter");
        yoru.getByText("More: from when").click();
        yoru.getByLabel("later by").check();
        yoru.getByLabel("closed from").check();
        yoru.getByLabel("Closed from this day").fill("2031-05-01");
        yoru.getByLabel("purchases from now on only").check();
        assertThat(margin)
                .containsText(
                        "always, from 3 days later on, at most until 1 May 2031; a refund ends it; for what begins from");
        yoru.keyboard().press("Escape");
        OnScreen.button(yoru, "Publish 1 change").click();
        assertThat(margin).containsText("Nothing is changed yet");
        assertThat(OnScreen.cell(
                        yoru, "Winter Care opens Winter Care always, from 3 days later on, at most until 1 May 2031"))
                .isVisible();
    }

    @Test
    void listsEditTheSameDraftAsTheGrid() {
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/mapping?view=by-target");
        yoru.getByLabel("Another way into Winter Care")
                .selectOption(new com.microsoft.playwright.options.SelectOption().setLabel("Open day taster"));
        assertThat(OnScreen.button(yoru, "Publish 1 change")).isVisible();
        yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("By source"))
                .click();
        OnScreen.button(yoru, "Close Open day taster → A Bee Year").click();
        assertThat(yoru.getByText("no longer, in your draft")).isVisible();
        yoru.getByRole(
                        AriaRole.LINK,
                        new Page.GetByRoleOptions().setName("Grid").setExact(true))
                .click();
        assertThat(OnScreen.cell(yoru, "Open day taster opens Winter Care for 1 month"))
                .hasText("1m, kept");
        assertThat(OnScreen.cell(yoru, "Open day taster does not open A Bee Year\\. Draft"))
                .isVisible();
        OnScreen.button(yoru, "Discard").click();
        assertThat(yoru.getByText("Nothing is changed yet")).isVisible();
    }

    @Test
    void aDraftIsLookedOverBeforeItIsPublishedAndOneCourseIsLeftOutOfItsCategory() {
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/mapping");
        var margin = yoru.getByRole(AriaRole.COMPLEMENTARY);
        OnScreen.cell(yoru, "Open day taster does not open Pollen Lab").first().click();
        yoru.keyboard().press("Space");
        assertThat(margin).containsText("This draft brings");
        assertThat(margin).containsText("Pollen Lab is empty");
        OnScreen.button(yoru, "Discard").click();
        assertThat(margin).containsText("Nothing is changed yet");

        yoru.reload(); // back to the first columns
        yoru.getByLabel("all rows").check();
        OnScreen.cell(yoru, "Honey Harvest does not open All of Starter")
                .first()
                .click();
        yoru.keyboard().press("Space");
        OnScreen.cell(yoru, "Honey Harvest opens First Hive by another link, all of Starter: always")
                .first()
                .click();
        OnScreen.button(yoru, "all of Starter, but not this one").click();
        assertThat(OnScreen.cell(yoru, "Honey Harvest does not open First Hive").first())
                .isVisible();
        assertThat(OnScreen.cell(yoru, "Honey Harvest opens A Bee Year by another link, all of Starter")
                        .first())
                .isVisible();
        OnScreen.button(yoru, "Discard").click();
        assertThat(margin).containsText("Nothing is changed yet");
    }

    @Test
    void aFindingIsAcceptedWithAReasonAndOpenedAgain() {
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/mapping?view=findings");
        var row = yoru.getByRole(AriaRole.LISTITEM)
                .filter(new com.microsoft.playwright.Locator.FilterOptions()
                        .setHasText(Pattern.compile("Anybody can walk into")));
        row.getByText("Accept", new com.microsoft.playwright.Locator.GetByTextOptions().setExact(true))
                .click();
        yoru.getByLabel("Why it may be so").fill("It is a gift to everybody");
        OnScreen.button(yoru, "Accept it").click();
        assertThat(row).containsText("“It is a gift to everybody” Signe Holm");
        OnScreen.button(yoru, "Open again").click();
        assertThat(row).containsText("The classroom lets in whoever signs up");
    }

    @Test
    void aThingHasALinkToPasteAndWhatItsShopAllowsIsFound() throws Exception {
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/mapping?view=catalogue&thing=product%2FFIRST");
        var address = yoru.getByText("/basket/add?product=FIRST").textContent();
        assertThat(address).startsWith(school.address(Part.SHOP));
        var shop = chromium.stranger();
        shop.navigate(address);
        assertThat(shop.getByText("First Hive").first()).isVisible();

        shop.navigate(school.address(Part.SHOP) + "/keeper");
        OnScreen.button(shop, "Allow it").click();
        var classroom = chromium.stranger();
        classroom.navigate(school.address(Part.CLASSROOM) + "/keeper");
        sold(classroom, true);
        readAgain();
        yoru.navigate(school.server() + "/mapping?view=findings");
        assertThat(yoru.getByText("Practice shop lets guests buy")).isVisible();
        assertThat(yoru.getByText("Winter Care is sold in the classroom too")).isVisible();
        OnScreen.button(shop, "Stop it").click();
        sold(classroom, false);
        readAgain();
        yoru.reload();
        assertThat(yoru.getByText("Anybody can walk into").first()).isVisible();
        assertThat(yoru.getByText("lets guests buy")).isHidden();
        assertThat(yoru.getByText("Winter Care is sold in the classroom too")).isHidden();
    }

    private static void sold(Page classroom, boolean here) {
        classroom.getByLabel("Winter Care is sold here too").setChecked(here);
        classroom.locator("form[action='/keeper/courses/winter-care'] button").click();
    }

    private void readAgain() throws Exception {
        var operator = SignedIn.to(school);
        operator.post("/api/systems/practice-shop/catalogue", "");
        operator.post("/api/systems/practice-classroom/catalogue", "");
    }

    @Test
    void termsAreKeptUnderANameAndUsedElsewhere() {
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/mapping");
        OnScreen.cell(yoru, "Hive Health opens Hive Health").click();
        yoru.keyboard().press("Enter");
        yoru.getByLabel("A name for these terms").fill("Usual year");
        OnScreen.button(yoru, "Keep").click();
        yoru.keyboard().press("Escape");
        OnScreen.cell(yoru, "Honey Harvest does not open Hive Health").click();
        yoru.keyboard().press("Enter");
        yoru.getByLabel("Terms under a name").selectOption("usual-year");
        yoru.navigate(school.server() + "/mapping?view=catalogue&thing=terms%2Fusual-year");
        yoru.getByLabel("How many").first().fill("2");
        yoru.getByRole(
                        AriaRole.LINK,
                        new Page.GetByRoleOptions().setName("Grid").setExact(true))
                .click();
        for (String opener : List.of("Hive Health", "Honey Harvest")) {
            assertThat(OnScreen.cell(yoru, opener + " opens Hive Health for 2 years"))
                    .hasText("2y");
        }
        OnScreen.button(yoru, "Discard").click();
        assertThat(yoru.getByText("Nothing is changed yet")).isVisible();
    }

    @Test
    void aRulebookIsBroughtByTheCommandAndPublishedOnlyWhenTold() throws Exception {
        var server = "--server=" + school.server();
        var before = YoruCommand.run("rulebook", "export", server);
        var file = Files.createDirectories(Path.of("target", "import")).resolve("rulebook.yaml");
        Files.write(file, before);
        assertThat(YoruCommand.run("rulebook", "import", file.toString(), server))
                .containsExactly("It says what is in force already.", "10 rehearsals as expected");
        var story = file.resolveSibling("steward.yaml");
        Files.writeString(story, """
                yoru: story/1
                id: a-steward
                starts: 2030-03-04T09:00
                people: [ { id: ines } ]
                steps:
                  - { gets-level: { level: steward } }
                  - expect: { open: [ course/first-hive, course/bee-year ], closed: [ course/hive-health ] }
                """);
        var withStory = "--story=" + story;
        assertThat(YoruCommand.run("rulebook", "import", file.toString(), withStory, server))
                .contains("10 rehearsals as expected; NOT as expected:")
                .anySatisfy(line -> assertThat(line).contains("there is no level `steward`"));
        Files.writeString(file, withTheSteward(String.join("\n", before)) + "\n");
        assertThat(YoruCommand.run("rulebook", "import", file.toString(), server))
                .contains("New: level Steward", "Nothing is published; --publish does.")
                .anySatisfy(line -> assertThat(line).startsWith("Steward opens all of Starter"))
                .anySatisfy(line -> assertThat(line)
                        .endsWith("0 lose access, 0 have less time, 0 have more time, 0 at other times"));
        assertThat(YoruCommand.run("rulebook", "export", server)).isEqualTo(before);
        assertThat(YoruCommand.run("rulebook", "import", file.toString(), withStory, server))
                .contains("11 rehearsals as expected");
        assertThat(YoruCommand.run(
                                "rulebook", "import", file.toString(), withStory, "--publish", "--note=by hand", server)
                        .getLast())
                .matches("Rulebook \\d+ is in force\\.");
        assertThat(YoruCommand.run("rulebook", "export", server)).contains("- id: \"steward\"");
        Files.write(file, before);
        assertThat(YoruCommand.run("rulebook", "import", file.toString(), server))
                .as("it was kept")
                .anySatisfy(line -> assertThat(line).startsWith("  a-steward: steps[0].gets-level.level"));
        YoruCommand.run("rulebook", "import", file.toString(), "--publish", "--despite=it was a try", server);
        assertThat(YoruCommand.run("rulebook", "export", server)).isEqualTo(before);
        SignedIn.to(school).delete("/api/rehearsals/kept/a-steward");
    }

    /** Rows far below are not in the page. */
    private static void onlyTheSteward(Page yoru) {
        yoru.getByLabel("Filter products and courses").fill("steward");
    }

    private static String withTheSteward(String rulebook) {
        return rulebook.replaceFirst("(?m)^levels:\n", STEWARD).replaceFirst("(?m)^links:\n", STEWARD_OPENS);
    }

    private String rulebook(Page yoru) {
        return yoru.request().get(school.server() + "/api/mapping/rulebook").text();
    }
}
