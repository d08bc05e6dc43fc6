package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.TreeSet;
import java.util.UUID;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import yoru.e2e.School.Part;

/** Three hundred products and sixty courses, none of them mapped: mapped in one go, with the keyboard and by rules. */
class LargeSchoolTests {

    private static final List<String> WAYS = List.of("", " with a book", " for two", " with coaching", " in winter");

    /** {@code COMB-07-2}: five products for each of sixty courses, and ten that are named like no course. */
    private static final String PRODUCTS = "insert into product (id, title, category, price, thing, about) values "
            + IntStream.rangeClosed(1, 58)
                    .boxed()
                    .flatMap(course -> IntStream.range(0, 5)
                            .mapToObj(way -> "('COMB-%02d-%d', 'Comb study %02d%s', 'Comb', 40.00, false, '')"
                                    .formatted(course, way, course, WAYS.get(way))))
                    .collect(Collectors.joining(", "))
            + IntStream.rangeClosed(1, 10)
                    .mapToObj(n -> ", ('VOUCHER-%02d', 'Voucher %02d', 'Vouchers', 50.00, false, '')".formatted(n, n))
                    .collect(Collectors.joining());

    private static final String COURSES =
            "insert into course (id, title, category, content, published, door, about) values "
                    + IntStream.rangeClosed(1, 60)
                            .mapToObj(n -> "('comb-%02d', 'Comb study %02d', 'Comb', true, true, 'by-enrolment', '')"
                                    .formatted(n, n))
                            .collect(Collectors.joining(", "));

    private static final int PROPOSALS = 58 * 5 + 1; // and one of the demo's own
    private static final int BUYERS = 40;

    private static School school;

    @RegisterExtension
    final Chromium chromium = new Chromium();

    @BeforeAll
    static void startsWithSalesThatOpenedNothing() throws Exception {
        school = School.with(PRODUCTS, COURSES);
        for (int n = 1; n <= BUYERS; n++) {
            report("placed", n, """
                    , "channel": "shop", "currency": "EUR", "lines": [{"line": "1", "product": "COMB-%02d-%d", "amount": "40.00"}]""".formatted(n, n % 5));
            report("paid", n, "");
        }
        await().atMost(Duration.ofMinutes(2)).until(school::quiet);
    }

    @AfterAll
    static void ends() {
        school.close();
    }

    @Test
    void mapsThemAllInOneGoTouchesWhomItSaidAndTakesItBackExactly() throws Exception {
        var before = enrolled();
        var rulebook = rulebook();
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/mapping");
        var grid = yoru.getByRole(AriaRole.GRID);
        var margin = yoru.getByRole(AriaRole.COMPLEMENTARY);
        assertThat(yoru.getByRole(AriaRole.GRIDCELL).count())
                .as("not all of the twenty thousand cells are in the page")
                .isLessThan(3_000);

        OnScreen.button(yoru, "Put " + PROPOSALS + " proposals into the draft").click();
        yoru.getByLabel("only unfinished").check();
        assertThat(grid).hasAttribute("aria-rowcount", "11");
        OnScreen.cell(yoru, "Voucher 01 does not open First Hive").click();
        yoru.keyboard().press(" ");
        assertThat(grid).hasAttribute("aria-rowcount", "10");
        yoru.keyboard().press("Control+z");
        assertThat(grid).hasAttribute("aria-rowcount", "11"); // the keys still go to the grid, though the row was gone
        yoru.getByLabel("only unfinished").uncheck();
        assertThat(grid).not().hasAttribute("aria-rowcount", "11");
        mapsTheVouchersWithTheKeyboard(yoru, grid);
        makesThreeLevels(yoru);
        opensAllCombCoursesToTheLevels(yoru);

        // 291 proposals, ten vouchers, three cells of levels; the levels and their ladder
        var publish = OnScreen.button(yoru, "Publish " + (PROPOSALS + 10 + 3 + 4) + " changes");
        assertThat(publish).isEnabled();
        assertThat(margin).containsText(BUYERS + " gain access");
        assertThat(margin).containsText("0 lose access");
        var download = yoru.waitForDownload(
                () -> OnScreen.button(yoru, "Save the whole list").click());
        var listed = Files.readAllLines(download.path()).stream()
                .skip(1)
                .map(line -> line.split(","))
                .peek(row -> assertThat(row[2] + row[3]).isEqualTo("gainsnow"))
                .map(row -> row[0] + " " + row[1])
                .collect(Collectors.toCollection(TreeSet::new));
        assertThat(listed).hasSize(BUYERS).contains("large-07@post.example course/comb-07");

        publish.click();
        assertThat(margin).containsText("Nothing is changed yet");
        await().atMost(Duration.ofMinutes(3))
                .until(() -> school.quiet() && enrolled().size() == before.size() + BUYERS);
        var touched = enrolled();
        touched.removeAll(before);
        assertThat(touched).as("exactly whom the list named").isEqualTo(listed);

        assertThat(YoruCommand.run("rulebook", "export", "--server", school.server()))
                .containsExactlyElementsOf(rulebook().lines().toList());
        yoru.navigate(school.server() + "/mapping?view=history");
        OnScreen.button(yoru, "Take back").first().click();
        assertThat(margin).containsText(BUYERS + " lose access");
        publish.click();
        assertThat(margin).containsText("Nothing is changed yet");
        await().atMost(Duration.ofMinutes(3))
                .until(() -> school.quiet() && enrolled().equals(before));
        assertThat(rulebook()).isEqualTo(rulebook);
    }

    private static void mapsTheVouchersWithTheKeyboard(Page yoru, Locator grid) {
        // what was selected stays so, and in sight, among all the rows that came back
        assertThat(OnScreen.cell(yoru, "Voucher 01 does not open First Hive")).isVisible();
        yoru.keyboard().press("/"); // from the box that was ticked
        yoru.keyboard().type("voucher");
        yoru.keyboard().press("Enter");
        assertThat(grid).hasAttribute("aria-rowcount", "10");
        yoru.keyboard().press("Home");
        yoru.keyboard().press(" ");
        yoru.keyboard().press("c");
        for (int row = 1; row < 10; row++) {
            yoru.keyboard().press("Shift+ArrowDown");
        }
        assertThat(yoru.getByText("10 cells selected")).isVisible();
        yoru.keyboard().press("v");
        assertThat(OnScreen.cell(yoru, "Voucher 10 opens First Hive for 1 year"))
                .hasText("1y");
    }

    private static void makesThreeLevels(Page yoru) {
        yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Catalogue"))
                .click();
        yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Rules of the school"))
                .click();
        yoru.getByLabel("Add a ladder").fill("comb");
        yoru.keyboard().press("Enter");
        yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("The catalogue"))
                .click();
        var rows = """
                sort,id,title,rank
                level,worker,Level Worker,1
                level,nurse,Level Nurse,2
                level,scout,Level Scout,three
                """;
        var file = yoru.getByLabel("From rows");
        file.setInputFiles(new FilePayload("levels.csv", "text/csv", rows.getBytes(StandardCharsets.UTF_8)));
        var preview = yoru.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("What would become"));
        assertThat(preview).containsText("not taken rank: must be a whole number");
        OnScreen.button(yoru, "Leave it").click();
        file.setInputFiles(new FilePayload(
                "levels.csv", "text/csv", rows.replace("three", "3").getBytes(StandardCharsets.UTF_8)));
        OnScreen.button(yoru, "Put 3 changes into the draft").click();
        for (String level : List.of("Level Worker", "Level Nurse", "Level Scout")) {
            yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(level))
                    .click();
            yoru.getByLabel("On the ladder").selectOption("comb");
            yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("The catalogue"))
                    .click();
        }
    }

    private static void opensAllCombCoursesToTheLevels(Page yoru) {
        yoru.getByRole(
                        AriaRole.LINK,
                        new Page.GetByRoleOptions().setName("Grid").setExact(true))
                .click();
        yoru.getByLabel("all rows").check();
        yoru.getByLabel("Filter products and courses").fill("level ");
        OnScreen.cell(yoru, "Level Worker does not open All of Comb").click();
        yoru.keyboard().press("Control+Shift+Space");
        assertThat(yoru.getByText("3 cells selected")).isVisible();
        yoru.keyboard().press("Enter");
        assertThat(yoru.getByRole(AriaRole.RADIO, new Page.GetByRoleOptions().setName("as long as it is held")))
                .isChecked(); // a level opens so from the first
        assertThat(yoru.getByText("Gets the level today")).isVisible();
        yoru.keyboard().press("Escape");
        assertThat(OnScreen.cell(yoru, "Level Scout opens All of Comb as long as it is held"))
                .hasText("held");
    }

    @Test
    void twoWhoChangeTheSamePlaceAgreePlaceByPlaceAndLoseNothing() throws Exception {
        var quick = chromium.operator(school);
        onTheGrid(quick, "Voucher 01 does not open First Hive");
        var slow = chromium.colleague(school, "Petra Larkin");
        onTheGrid(slow, "Voucher 01 does not open First Hive");
        slow.keyboard().press(" ");
        slow.keyboard().press("ArrowDown");
        slow.keyboard().press(" ");
        assertThat(quick.getByRole(AriaRole.COMPLEMENTARY)).containsText("Petra Larkin: 2 changes not published");
        var looks = new ConcurrentLinkedQueue<Route>();
        slow.route("**/api/mapping", looks::add); // or the page has seen by itself what the server is to refuse
        quick.keyboard().press("Enter");
        quick.getByRole(AriaRole.RADIO, new Page.GetByRoleOptions().setName("always"))
                .check();
        OnScreen.button(quick, "Publish 1 change").click();
        assertThat(quick.getByText("Nothing is changed yet")).isVisible();

        OnScreen.button(slow, "Publish 2 changes").click();
        slow.unroute("**/api/mapping");
        looks.forEach(Route::resume);
        var notice = slow.getByRole(AriaRole.ALERT);
        assertThat(notice).containsText("1 place was changed by both of you");
        assertThat(notice).containsText("Voucher 01 opens First Hive always");
        notice.getByText("theirs: always").click();
        OnScreen.button(slow, "Go on with these").click();
        OnScreen.button(slow, "Publish 1 change").click();
        assertThat(slow.getByText("Nothing is changed yet")).isVisible();
        assertThat(OnScreen.cell(slow, "Voucher 01 opens First Hive always")).isVisible();
        assertThat(OnScreen.cell(slow, "Voucher 02 opens First Hive for 1 year"))
                .isVisible();
    }

    private void onTheGrid(Page yoru, String cell) {
        yoru.navigate(school.server() + "/mapping");
        yoru.getByLabel("Filter products and courses").fill("voucher");
        OnScreen.cell(yoru, cell).click();
    }

    private static void report(String what, int buyer, String more) throws Exception {
        var event = """
                {"specversion": "1.0", "id": "%s", "source": "https://shop.example", "type": "yoru.order.%s", "subject": "large-%02d@post.example", "time": "%s", "data": {"order": "L-%02d"%s}}""".formatted(UUID.randomUUID(), what, buyer, Instant.now(), buyer, more);
        assertThat(school.report(Part.SERVER, UUID.randomUUID().toString(), event)
                        .statusCode())
                .isEqualTo(200);
    }

    private static TreeSet<String> enrolled() {
        return new TreeSet<>(school.rows(
                Part.CLASSROOM, "select learner || ' course/' || course_id from enrolment where state = 'open'"));
    }

    private static String rulebook() throws Exception {
        return SignedIn.to(school).get("/api/mapping/rulebook");
    }
}
