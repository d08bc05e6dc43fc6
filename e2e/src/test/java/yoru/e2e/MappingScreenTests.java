package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.StandardCharsets;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;

/** The mapping as an operations lead works on it: from a file, by lists, looked over, taken back. */
class MappingScreenTests {

    private static final String KEEPER = """
            levels:
            - { id: keeper, title: Keeper, rank: 1 }
            """;
    private static final String KEEPER_OPENS = """
            links:
            - id: keeper-opens-starter
              from: { level: keeper }
              to: [ { category: Starter } ]
            """;

    @RegisterExtension
    final Chromium chromium = new Chromium();

    private final School school = School.running();

    @Test
    void aRulebookFromAFileIsADraftIsPublishedAndIsTakenBackExactly() {
        var yoru = chromium.operator(school);
        var before = rulebook(yoru);
        assertThat(before).doesNotContain("keeper");
        yoru.navigate(school.server() + "/mapping?view=history");
        var changed = before.replaceFirst("(?m)^links:\\n", KEEPER + KEEPER_OPENS);
        yoru.getByLabel("From a file")
                .setInputFiles(
                        new FilePayload("rulebook.yaml", "application/yaml", changed.getBytes(StandardCharsets.UTF_8)));
        assertThat(OnScreen.cell(yoru, "keeper opens All of Starter as long as it is held\\. Draft"))
                .isVisible();
        var margin = yoru.getByRole(AriaRole.COMPLEMENTARY);
        assertThat(margin).containsText("New: level Keeper");
        yoru.reload();
        OnScreen.button(yoru, "Publish 2 changes").click();
        assertThat(margin).containsText("Nothing is changed yet");
        assertThat(OnScreen.cell(yoru, "Keeper opens All of Starter as long as it is held$"))
                .isVisible();

        setsATermOfEveryKind(yoru, margin);

        yoru.navigate(school.server() + "/mapping?view=history");
        OnScreen.button(yoru, "Take back").first().click();
        assertThat(margin).containsText("If you publish this draft");
        OnScreen.button(yoru, "Publish 1 change").click();
        assertThat(margin).containsText("Nothing is changed yet");
        yoru.navigate(school.server() + "/mapping?view=history");
        OnScreen.button(yoru, "Take back").nth(2).click();
        assertThat(margin).containsText("Keeper → All of Starter");
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
                        "3 days later, always, until 1 May 2031 at the latest; a refund closes it; only what begins");
        yoru.keyboard().press("Escape");
        OnScreen.button(yoru, "Publish 1 change").click();
        assertThat(margin).containsText("Nothing is changed yet");
        assertThat(OnScreen.cell(yoru, "Winter Care opens Winter Care 3 days later, always, until 1 May 2031"))
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
        assertThat(OnScreen.cell(yoru, "Open day taster opens Winter Care for 1 year"))
                .hasText("1y");
        assertThat(OnScreen.cell(yoru, "Open day taster does not open A Bee Year\\. Draft"))
                .isVisible();
        OnScreen.button(yoru, "Discard").click();
        assertThat(yoru.getByText("Nothing is changed yet")).isVisible();
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

    private String rulebook(Page yoru) {
        return yoru.request().get(school.server() + "/api/mapping/rulebook").text();
    }
}
