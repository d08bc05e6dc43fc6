package yoru.e2e;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.FilePayload;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import yoru.e2e.School.Part;

/** Takes the pictures in docs/screenshots anew, from the demo's data; run by {@code ./yoru screenshots}. */
class Screenshots {

    @RegisterExtension
    final Chromium chromium = new Chromium();

    @Test
    void everyMainView() throws Exception {
        var school = School.running();
        school.replayHistory();
        var yoru = chromium.operator(school);
        take(yoru, "today");
        mapping(yoru, school);
        yoru.navigate(school.server() + "/mapping?view=findings");
        take(yoru, "findings");
        yoru.navigate(school.server() + "/mapping?view=catalogue&thing=product%2FQUEEN-LIVE");
        yoru.getByText("bought it").waitFor();
        take(yoru, "catalogue");
        yoru.navigate(school.server() + "/followups?which=circle-of-a-course");
        yoru.getByText("people served").waitFor();
        take(yoru, "followup");
        yoru.navigate(school.server() + "/rehearse?which=quantity-two&step=3");
        yoru.getByText("It should be so").first().waitFor();
        take(yoru, "rehearsal");
        yoru.setViewportSize(390, 844);
        yoru.navigate(school.server() + "/door/queen-rearing?to=" + school.address(Part.CLASSROOM)
                + "/courses/queen-rearing/grafting");
        take(yoru, "door");
        yoru.setViewportSize(1280, 800);
        segments(yoru, school);
        person(yoru, school);
        orders(yoru, school);
        yoru.navigate(school.server() + "/journal");
        take(yoru, "journal");
        systems(yoru, school);
        atTheDoor(yoru, school);
    }

    /** Compared, one of them with differences; a second shop whose fields are matched but for the currency. */
    private void systems(Page yoru, School school) throws IOException, InterruptedException {
        var operator = SignedIn.to(school);
        for (var system : List.of("practice-classroom", "practice-community", "practice-contacts")) {
            operator.post("/api/systems/" + system + "/check", "");
            org.awaitility.Awaitility.await()
                    .until(() -> operator.get("/api/systems/" + system).contains("endedAt"));
        }
        yoru.navigate(school.server() + "/systems");
        yoru.getByText("out of step").first().waitFor();
        take(yoru, "systems");
        yoru.navigate(school.server() + "/systems/practice-classroom?view=out-of-step");
        yoru.getByText("There, and Yoru knows no reason").waitFor();
        take(yoru, "out-of-step");

        var secret = "whsec_" + "QUJD".repeat(11);
        operator.post(
                "/api/systems",
                "{\"kind\": \"SHOP\", \"title\": \"Honey stall\", \"address\": \"%s/keeper\", \"secret\": \"%s\", \"settings\": {\"proof\": \"bearer\"}}"
                        .formatted(school.address(Part.SHOP), secret));
        operator.post("/api/systems/honey-stall/state", "{\"state\": \"TRYING\"}");
        for (int n = 0; n < 18; n++) {
            var what = n % 7 == 3 ? "page_viewed" : "checkout_complete";
            school.send(HttpRequest.newBuilder(URI.create(school.server() + "/hooks/honey-stall"))
                    .header("authorization", "Bearer " + secret)
                    .POST(HttpRequest.BodyPublishers.ofString(
                            """
                            {"event": "%s", "ref": "%d", "buyer": {"mail": "petra.lindqvist@post.example", "username": "Petra Lindqvist"},
                             "items": [{"code": "QUEEN-SELF", "qty": 1, "cents": %s}], "at": "2026-10-12T11:58:02+02:00"}""".formatted(what, 2041 + n, n == 12 ? "\"free\"" : "18000")))
                    .build());
        }
        operator.put("/api/systems/honey-stall/matching", """
                {"base": 0, "note": "First try", "document": {"yoru": "matching/1",
                 "rules": [{"facts": ["order.placed", "order.paid"], "when": [{"path": "$.event", "equals": "checkout_complete"}]}],
                 "fields": {"person": {"path": "$.buyer.mail", "steps": [{"do": "trim"}, {"do": "lower"}]}, "name": {"path": "$.buyer.username"},
                            "order": {"path": "$.ref"}, "time": {"path": "$.at"}, "lines": {"path": "$.items[*]"}, "currency": {"constant": "EUR"},
                            "line.product": {"path": "$.code"}, "line.quantity": {"path": "$.qty"},
                            "line.amount": {"path": "$.cents", "steps": [{"do": "minor-units"}]}}}}""");
        yoru.navigate(school.server() + "/systems/honey-stall?view=matching");
        yoru.getByText("with a fault").waitFor();
        OnScreen.button(yoru, "An earlier report").click();
        take(yoru, "matching");
    }

    private void mapping(Page yoru, School school) {
        yoru.navigate(school.server() + "/mapping");
        OnScreen.cell(yoru, "Pollen Lab, early place does not open Pollen Lab").click();
        yoru.keyboard().press("Space");
        OnScreen.cell(yoru, "Starter bundle opens Tools & Suit").click();
        yoru.keyboard().press("Space");
        OnScreen.cell(yoru, "Honey Harvest does not open Winter Care").click();
        yoru.keyboard().press("Space");
        yoru.getByText("Who").last().waitFor();
        take(yoru, "mapping");
        OnScreen.button(yoru, "Discard").click();
    }

    /** Somebody with much to see: several windows, one of them taken back. */
    private void person(Page yoru, School school) {
        var id = school.rows(Part.SERVER, """
                        select p.id from person p join opening o on o.person_id = p.id
                        join fact f on f.subject = p.person_key and f.type = 'yoru.order.refunded'
                        group by p.id order by count(distinct o.target) desc, count(distinct f.seq) desc, p.id limit 1""").getFirst();
        yoru.navigate(school.server() + "/people/" + id);
        take(yoru, "person");
        yoru.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.DARK));
        yoru.navigate(school.server() + "/people/" + id + "?at=2026-05-01");
        take(yoru, "person-past-dark");
        yoru.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.LIGHT));
    }

    /** A free place that is about to be given, the list, and an order with a seat that somebody has taken. */
    private void orders(Page yoru, School school) {
        yoru.navigate(school.server() + "/orders");
        take(yoru, "orders");
        var somebody = school.rows(Part.SERVER, """
                        select p.person_key from person p where p.name <> '' and not exists (
                          select 1 from opening o where o.person_id = p.id and o.target like '%queen%')
                        order by p.name limit 1""").getFirst();
        yoru.navigate(school.server() + "/orders/by-hand?person=" + somebody);
        choose(yoru, "queen rearing, with live");
        choose(yoru, "grafting chart, printed");
        yoru.getByText("Free of charge").click();
        yoru.getByLabel("Reason").fill("Volunteer at the spring open day");
        yoru.getByText("They will read").waitFor();
        take(yoru, "order-by-hand");
        yoru.getByText("Paid already").click();
        yoru.getByLabel("it is a gift for somebody else").check();
        yoru.getByLabel("Address of whom it is for").fill("ottilie.marsh@post.example");
        yoru.getByText("It opens for whoever takes the gift up").first().waitFor();
        OnScreen.button(yoru, "Confirm and open").click();
        yoru.getByText("sent to ottilie.marsh@post.example").first().waitFor();
        OnScreen.button(yoru, "Refund").last().click();
        yoru.getByText("Can no longer be taken up").waitFor();
        take(yoru, "order");
    }

    private static void choose(Page yoru, String words) {
        var field = yoru.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("Add a product"));
        field.fill(words);
        yoru.locator("[role=option]").first().waitFor();
        field.press("Enter");
    }

    /** What is done with those who are not known, and a table of the past before it is brought in. */
    private void atTheDoor(Page yoru, School school) {
        yoru.navigate(school.server() + "/policies");
        yoru.getByText("In the mapping").waitFor();
        take(yoru, "policies");
        yoru.navigate(school.server() + "/exchange");
        yoru.getByRole(AriaRole.LISTITEM)
                .filter(new Locator.FilterOptions().setHasText("Enrolments"))
                .locator("input[type=file]")
                .setInputFiles(
                        new FilePayload("classes-before-yoru.csv", "text/csv", """
                        e-mail,name,class,start,end
                        mara.lindqvist@post.example,Mara Lindqvist,First Hive,2025-02-03,2026-02-03
                        oisin,Oisin Byrne,Winter Care,2025-03-01,
                        teun.dvorak@post.example,Teun Dvorak,Wax and Candles,2025-03-09,
                        ewa.nakata@letter.example,Ewa Nakata,honey harvest,2025-04-01,
                        """.getBytes(StandardCharsets.UTF_8)));
        yoru.getByText("What will come of it").waitFor();
        take(yoru, "import");
    }

    private void segments(Page yoru, School school) {
        yoru.navigate(school.server() + "/people/segments");
        OnScreen.button(yoru, "Add a condition").click();
        yoru.getByLabel("What is so").selectOption("BOUGHT");
        var product = yoru.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("Which product"));
        product.fill("first hive");
        yoru.locator("[role=option]").first().waitFor();
        product.press("Enter");
        OnScreen.button(yoru, "Add a condition").click();
        yoru.getByLabel("What is so").nth(1).selectOption("!HAS");
        var target = yoru.getByRole(
                AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("What").setExact(true));
        target.fill("honey");
        yoru.locator("[role=option]").first().waitFor();
        target.press("Enter");
        yoru.getByLabel("Name of the segment").fill("First Hive, not Honey Harvest");
        OnScreen.button(yoru, "Keep it").click();
        yoru.getByText("All of them as CSV").waitFor();
        take(yoru, "segments");
    }

    private static void take(Page page, String name) {
        page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(1))
                .waitFor();
        page.locator("[data-part=waiting]")
                .waitFor(new com.microsoft.playwright.Locator.WaitForOptions()
                        .setState(com.microsoft.playwright.options.WaitForSelectorState.HIDDEN));
        page.locator("[aria-busy=true]")
                .waitFor(new com.microsoft.playwright.Locator.WaitForOptions()
                        .setState(com.microsoft.playwright.options.WaitForSelectorState.HIDDEN));
        page.evaluate("() => document.fonts.ready");
        page.screenshot(new Page.ScreenshotOptions()
                .setPath(Path.of("..", "docs", "screenshots", name + ".png"))
                .setAnimations(com.microsoft.playwright.options.ScreenshotAnimations.DISABLED));
    }
}
