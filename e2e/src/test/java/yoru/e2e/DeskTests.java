package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import com.microsoft.playwright.options.SelectOption;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import yoru.e2e.School.Part;

/** What the support assistant does all day, each act with its consequence first, looked for afterwards in the systems. */
class DeskTests {

    private static final Duration PATIENCE = Duration.ofSeconds(90);

    @RegisterExtension
    final Chromium chromium = new Chromium();

    /** Of its own: others leave the mapping of things to post changed. */
    private static School school;

    @BeforeAll
    static void starts() {
        school = School.impatient();
    }

    @AfterAll
    static void ends() {
        school.close();
    }

    private static String somebody() {
        return "desk-" + UUID.randomUUID().toString().substring(0, 8) + "@post.example";
    }

    @Test
    void anOrderIsMadeWithTheKeyboardAloneAndNotByEnterInAField() {
        var person = somebody();
        var yoru = chromium.operator(school);
        yoru.keyboard().press("Control+k");
        assertThat(yoru.getByPlaceholder("Person, order, product")).isFocused();
        yoru.keyboard().type("order by hand");
        assertThat(yoru.getByRole(AriaRole.MENUITEM)).hasCount(1);
        yoru.keyboard().press("Enter");
        yoru.waitForURL("**/orders/by-hand");
        chooseByKeys(yoru, "For whom", person);
        OnScreen.tabTo(yoru, yoru.getByLabel("What they are called"));
        yoru.keyboard().type("Kay Board");
        chooseByKeys(yoru, "Add a product", "winter care");
        OnScreen.tabTo(yoru, yoru.getByLabel("Reference"));
        yoru.keyboard().type("receipt 7");
        assertThat(margin(yoru)).containsText("Winter Care");
        assertThat(OnScreen.button(yoru, "Confirm and open")).isEnabled();
        var sent = new AtomicInteger();
        yoru.onRequest(request -> {
            if (request.url().endsWith("/api/desk/acts")) {
                sent.incrementAndGet();
            }
        });
        yoru.keyboard().press("Enter");
        yoru.evaluate("1"); // what the key set off has been told by then
        assertThat(sent).hasValue(0);
        yoru.keyboard().press("Control+Enter");
        yoru.waitForURL("**/orders/H*");
        inTheClassroom(person, "winter-care", "open", 1);
        assertThat(orders(person)).isEqualTo(1);
    }

    private static void chooseByKeys(Page yoru, String finder, String words) {
        OnScreen.tabTo(yoru, yoru.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName(finder)));
        yoru.keyboard().type(words);
        assertThat(yoru.getByRole(AriaRole.OPTION).first()).isVisible();
        yoru.keyboard().press("Enter");
    }

    @Test
    void aFreePlaceSaysNoPriceAndADoubleClickMakesOneOrder() throws Exception {
        var person = somebody();
        var yoru = chromium.operator(school);
        byHand(yoru, person, "Nadia Friend", "queen rearing, self", "smoker");
        yoru.getByText("Free of charge").click();
        assertThat(margin(yoru)).containsText("Say why it is free of charge");
        yoru.getByLabel("Reason").fill("Volunteer at the spring open day");
        assertThat(margin(yoru)).containsText("A free place for you: Queen Rearing");
        assertThat(margin(yoru)).containsText("A thing to post. It stays to be fulfilled.");
        assertThat(margin(yoru)).not().containsText(Pattern.compile("\\b180\\b")); // a port may have it within
        assertThat(school.count(Part.SERVER, "select count(*) from person where person_key = ?", person))
                .as("nothing is kept before confirming")
                .isZero();
        OnScreen.button(yoru, "Confirm and open").dblclick();
        assertThat(yoru.getByText("opened Queen Rearing,")).isVisible();
        assertThat(yoru.getByText("free of charge")).isVisible();
        assertThat(orders(person)).isEqualTo(1);
        inTheClassroom(person, "queen-rearing", "open", 1);
        await().atMost(PATIENCE).until(() -> school.letters(person).contains("A free place for you"));
        assertThat(school.letters(person)).contains("nothing was charged").doesNotContain("180.", "244.", "EUR", "€");

        yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Nadia Friend"))
                .first()
                .click();
        assertThat(yoru.getByLabel("Orders")).containsText("€0.00");
        assertThat(yoru.getByLabel("Orders")).containsText("free of charge");
    }

    @Test
    void whatIsPaidLaterOpensWhenTheInvoiceIsPaid() {
        var person = somebody();
        var yoru = chromium.operator(school);
        byHand(yoru, person, "Otto Payer", "queen rearing, self");
        yoru.getByText("Open when paid").click();
        assertThat(margin(yoru)).containsText("It opens when it is paid.");
        assertThat(margin(yoru)).containsText("Nothing opens or closes");
        OnScreen.button(yoru, "Keep as a quote").click();
        assertThat(yoru.getByText("waits for an answer")).isVisible();
        assertThat(yoru.locator("[data-part=total]")).containsText("€180.00");
        yoru.navigate(school.server() + "/quotes");
        yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Quote 1"))
                .first()
                .click();
        assertThat(margin(yoru)).containsText("Nothing opens or closes");
        OnScreen.button(yoru, "They agree: make the order").click();
        yoru.waitForURL("**/orders/H*");
        assertThat(margin(yoru)).containsText("€180.00 to be paid");
        OnScreen.button(yoru, "Note the invoice").click();
        yoru.getByLabel("Number of the invoice").fill("2026-77");
        OnScreen.button(yoru, "It was sent").click();
        assertThat(yoru.getByText("invoice 2026-77", new Page.GetByTextOptions().setExact(true)))
                .isVisible();
        OnScreen.button(yoru, "Enter the payment").click();
        yoru.getByLabel("Reference").fill("statement 12");
        assertThat(margin(yoru)).containsText("Queen Rearing until");
        inTheClassroom(person, "queen-rearing", "open", 0);
        OnScreen.button(yoru, "Paid: €180.00").click();
        assertThat(yoru.getByText("bank transfer, statement 12")).isVisible();
        inTheClassroom(person, "queen-rearing", "open", 1);
        yoru.navigate(school.server() + "/orders?q=2026-77");
        assertThat(yoru.getByLabel("Sums in EUR")).containsText("Owed€0.00");
        assertThat(yoru.locator("table[aria-label=Orders] tbody tr")).hasCount(1);
    }

    /** The school holds guests: nothing opens until somebody lets them in, and then everything does. */
    @Test
    void aGuestIsHeldAndLetIn() {
        var shop = chromium.stranger();
        shop.navigate(school.address(Part.SHOP) + "/keeper");
        OnScreen.button(shop, "Allow it").click();
        var guest = Learner.stranger(school, shop, "Gil Guest");
        var order = guest.buysAsGuest("First Hive");
        await().atMost(PATIENCE)
                .until(() -> school.count(
                                Part.SERVER,
                                "select count(*) from held_report where about = ? and state = 'HELD'",
                                "order " + order)
                        == 2);
        inTheClassroom(guest.email(), "first-hive", "open", 0);
        var yoru = chromium.operator(school);
        assertThat(yoru.getByText("by guests are held").or(yoru.getByText("by a guest is held")))
                .isVisible();
        yoru.navigate(school.server() + "/held");
        OnScreen.tabTo(yoru, yoru.getByLabel("Choose Gil Guest"));
        yoru.keyboard().press("Space");
        assertThat(margin(yoru)).containsText("First Hive until");
        assertThat(OnScreen.button(yoru, "Let in 1")).isEnabled();
        OnScreen.tabTo(yoru, OnScreen.button(yoru, "Let in 1"));
        yoru.keyboard().press("Enter");
        assertThat(yoru.getByLabel("Choose Gil Guest")).hasCount(0);
        inTheClassroom(guest.email(), "first-hive", "open", 1);
        assertThat(orders(guest.email())).isEqualTo(1);
    }

    /** A table with a faulty row is brought in and opens; the same table again is known; those who came with it get a tag. */
    @Test
    void thePastIsBroughtInOnceAndASegmentOfItIsTagged() {
        var mark = "past-" + UUID.randomUUID().toString().substring(0, 8);
        var person = mark + "@post.example";
        var table = new FilePayload(
                "past.csv", "text/csv", """
                Order ID,E-mail,Customer name,Order date,SKU,Amount
                %1$s-1,%2$s,Pia Past,2025-02-03,WINTER,80.00
                %1$s-2,nobody,Nora None,2025-02-04,WINTER,80.00
                """.formatted(mark, person).getBytes(StandardCharsets.UTF_8));
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/exchange");
        var orders =
                yoru.getByRole(AriaRole.LISTITEM).filter(new Locator.FilterOptions().setHasText("Orders of the past"));
        orders.locator("input[type=file]").setInputFiles(table);
        assertThat(yoru.getByText("“nobody” is no e-mail address")).isVisible();
        OnScreen.button(yoru, "Bring 1 row in").click();
        assertThat(yoru.getByText("1 brought in, 0 known already, 1 not taken."))
                .isVisible();
        assertThat(OnScreen.link(yoru, "1 row to mend")).isVisible();
        inTheClassroom(person, "winter-care", "open", 1);
        assertThat(orders(person)).isEqualTo(1);
        OnScreen.button(yoru, "All imports").click();
        orders.locator("input[type=file]").setInputFiles(table);
        assertThat(yoru.getByText("0 rows are brought in, 1 known already, 1 not taken"))
                .isVisible();

        yoru.navigate(school.server() + "/people/segments");
        OnScreen.button(yoru, "Add a condition").click();
        yoru.getByLabel("What is so").selectOption("CALLED");
        yoru.getByLabel("Part of their name or address").fill(mark);
        assertThat(OnScreen.heading(yoru, "1 person")).isVisible();
        yoru.getByLabel("Name of the segment").fill(mark);
        OnScreen.button(yoru, "Keep it").click();
        assertThat(OnScreen.link(yoru, "All of them as CSV")).isVisible();
        yoru.getByLabel("Which tag").selectOption("open-day-guest");
        OnScreen.button(yoru, Pattern.compile("Put .* on 1")).click();
        assertThat(yoru.getByText("1 of 1, done")).isVisible();
        inTheClassroom(person, "tools-suit", "open", 1);
    }

    /** She bought it, and it was given to her; the refund takes only the first away. */
    @Test
    void aRefundOfOneOfTwoReasonsLeavesTheCourseOpen() {
        var person = somebody();
        var yoru = chromium.operator(school);
        byHand(yoru, person, "Tova Twice", "queen rearing, self");
        OnScreen.button(yoru, "Confirm and open").click();
        assertThat(yoru.getByText("opened Queen Rearing,")).isVisible();
        yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Tova Twice"))
                .first()
                .click();
        OnScreen.button(yoru, "Give access").click();
        choose(yoru, "What to give", "queen rearing course");
        yoru.getByLabel("until somebody ends it").check();
        why(yoru).fill("helps in the apiary");
        assertThat(margin(yoru)).containsText("Is open for longer");
        OnScreen.button(yoru, "Give it").click();
        assertThat(yoru.getByLabel("Given by hand")).containsText("helps in the apiary");

        yoru.getByLabel("Orders").getByRole(AriaRole.LINK).click();
        OnScreen.button(yoru, "Refund").click();
        assertThat(margin(yoru)).containsText("Tags taken off");
        assertThat(margin(yoru)).not().containsText("Queen Rearing course");
        OnScreen.button(yoru, "It is given back").click();
        assertThat(yoru.getByText("Given back", new Page.GetByTextOptions().setExact(true)))
                .isVisible();
        noLongerTagged(person);
        inTheClassroom(person, "queen-rearing", "open", 1);

        yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Tova Twice"))
                .first()
                .click();
        yoru.getByLabel("Given by hand")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("End it"))
                .click();
        assertThat(margin(yoru)).containsText("Closes");
        OnScreen.button(yoru, "End it now").click();
        inTheClassroom(person, "queen-rearing", "open", 0);
        assertThat(yoru.getByLabel("Given by hand")).isHidden();
        choose(yoru, "Why is it closed", "queen rearing course");
        assertThat(margin(yoru)).containsText("Queen Rearing is closed");
        assertThat(margin(yoru)).containsText("It ended on");
    }

    @Test
    void aGiftIsTakenUpWithAnotherAddressAndOpensNothingForTheGiver() throws Exception {
        var giver = somebody();
        var written = somebody();
        var used = somebody();
        var yoru = chromium.operator(school);
        byHand(yoru, giver, "Gerda Giver", "queen rearing, self");
        yoru.getByLabel("it is a gift for somebody else").check();
        yoru.getByLabel("Address of whom it is for").fill(written);
        assertThat(margin(yoru)).containsText("It opens for whoever takes the gift up");
        OnScreen.button(yoru, "Confirm and open").click();
        assertThat(yoru.getByText("nobody yet, sent to " + written)).isVisible();
        await().atMost(PATIENCE).until(() -> school.letters(written).contains("/claim/"));
        // a code, a time or a boundary may have any digits in it, but no amount
        assertThat(school.letters(written)).contains("Gerda Giver").doesNotContain("180.00", "€", giver);

        var withdrawn = codes(written).iterator().next();
        OnScreen.button(yoru, "Withdraw").click();
        assertThat(yoru.getByText("nobody yet, withdrawn")).isVisible();
        var receiver = chromium.stranger();
        receiver.navigate(school.server() + "/claim/" + withdrawn);
        assertThat(receiver.getByText("There is no such gift")).isVisible();
        OnScreen.button(yoru, "Send a link").click();
        OnScreen.button(yoru, "Send the link").click();
        assertThat(yoru.getByText("nobody yet, sent to " + written)).isVisible();
        await().atMost(PATIENCE).until(() -> codes(written).size() == 2);
        var sentAgain = codes(written).stream()
                .filter(code -> !code.equals(withdrawn))
                .findFirst()
                .orElseThrow();
        receiver.navigate(school.server() + "/claim/" + sentAgain);
        assertThat(receiver.getByText("Gerda Giver has given this to you")).isVisible();
        receiver.getByLabel("E-mail address").fill(used);
        receiver.getByLabel("Your name").fill("Ruben Receiver");
        OnScreen.button(receiver, "Take it up").click();
        assertThat(receiver.getByText("It is yours")).isVisible();
        inTheClassroom(used, "queen-rearing", "open", 1);
        inTheClassroom(giver, "queen-rearing", "open", 0);
        inTheClassroom(written, "queen-rearing", "open", 0);
        receiver.navigate(school.server() + "/claim/" + sentAgain);
        assertThat(receiver.getByText("It was taken up already")).isVisible();
        receiver.navigate(school.server() + "/claim/nothing-of-the-kind");
        assertThat(receiver.getByText("There is no such gift")).isVisible();

        assertThat(yoru.getByText("for Ruben Receiver")).not().hasCount(0);
        OnScreen.button(yoru, "Refund").click();
        assertThat(margin(yoru)).containsText("For Ruben Receiver");
        OnScreen.button(yoru, "It is given back").click();
        inTheClassroom(used, "queen-rearing", "open", 0);
    }

    @Test
    void twoAccountsOfOnePersonAreJoinedAndPartedAgain() {
        var first = somebody();
        var second = somebody();
        var yoru = chromium.operator(school);
        byHand(yoru, first, "Paula Twofold", "queen rearing, self");
        OnScreen.button(yoru, "Confirm and open").click();
        inTheClassroom(first, "queen-rearing", "open", 1);
        byHand(yoru, second, "Paula T.", "smoker");
        OnScreen.button(yoru, "Confirm and open").click();
        assertThat(yoru.getByText("entered by hand on")).isVisible();
        assertThat(yoru.getByText("A thing to post. It stays to be fulfilled.")).isVisible();

        person(yoru, first, "Paula Twofold");
        yoru.getByText("More", new Page.GetByTextOptions().setExact(true)).click();
        OnScreen.inMenu(yoru, "Join with somebody").click();
        choose(yoru, "Who stays", second);
        assertThat(margin(yoru)).containsText("For Paula T.");
        assertThat(margin(yoru)).containsText("Opens");
        assertThat(margin(yoru)).containsText("Closes");
        OnScreen.button(yoru, "Join them").click();
        assertThat(yoru.getByText("Joined with Paula T.: all that is here counts there."))
                .isVisible();
        inTheClassroom(first, "queen-rearing", "open", 0);
        inTheClassroom(second, "queen-rearing", "open", 1);
        yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Paula T."))
                .click();
        assertThat(yoru.getByText("also " + first)).isVisible();
        assertThat(OnScreen.heading(yoru, "2 orders, €244.00 paid")).isVisible();

        person(yoru, first, "Paula Twofold");
        yoru.getByText("More", new Page.GetByTextOptions().setExact(true)).click();
        OnScreen.inMenu(yoru, "Part from Paula T.").click();
        OnScreen.button(yoru, "Part them").click();
        inTheClassroom(second, "queen-rearing", "open", 0);
        inTheClassroom(first, "queen-rearing", "open", 1);
        assertThat(OnScreen.heading(yoru, "1 order, €180.00 paid")).isVisible();
    }

    @Test
    void whoAsksToBeForgottenIsClosedEverywhereAndTheOrderStaysWithoutAName() {
        var person = somebody();
        var yoru = chromium.operator(school);
        byHand(yoru, person, "Fiona Forgotten", "queen rearing, self");
        OnScreen.button(yoru, "Confirm and open").click();
        yoru.waitForURL("**/orders/H*");
        var order = yoru.url();
        inTheClassroom(person, "queen-rearing", "open", 1);

        person(yoru, person, "Fiona Forgotten");
        yoru.getByText("More", new Page.GetByTextOptions().setExact(true)).click();
        OnScreen.inMenu(yoru, "Erase for good").click();
        assertThat(OnScreen.button(yoru, "Erase for good")).isDisabled();
        yoru.getByLabel("Write " + person).fill(person);
        assertThat(margin(yoru)).containsText("Closes");
        OnScreen.button(yoru, "Erase for good").click();
        assertThat(yoru.getByText("Erased. What stays is for the books")).isVisible();
        inTheClassroom(person, "queen-rearing", "open", 0);
        yoru.navigate(school.server() + "/people");
        yoru.getByLabel("Find by name or address").fill(person);
        assertThat(yoru.getByText("Nobody is called")).isVisible();
        yoru.navigate(order);
        assertThat(yoru.getByText("Erased person").first()).isVisible();
        assertThat(yoru.getByText("€180.00").first()).isVisible();
        assertThat(yoru.getByText("Fiona")).hasCount(0);
    }

    @Test
    void whoMayNotDoSomethingDoesNotSeeItOffered() {
        var owner = chromium.operator(school);
        byHand(owner, somebody(), "Ines Inspected", "smoker");
        OnScreen.button(owner, "Confirm and open").click();
        assertThat(owner.getByText("entered by hand on")).isVisible();
        assertThat(owner.getByText("A thing to post. It stays to be fulfilled."))
                .isVisible();
        var order = owner.url();
        var support = member(owner, "Sorcha Support", "Support");
        support.navigate(school.server() + "/orders");
        assertThat(link(support, "Order by hand")).isVisible();
        assertThat(link(support, "Mapping")).isHidden();
        assertThat(link(support, "Systems")).isHidden();
        assertThat(link(support, "Team")).isHidden();
        support.navigate(school.server() + "/people/1");
        support.getByText("More", new Page.GetByTextOptions().setExact(true)).click();
        assertThat(OnScreen.inMenu(support, "Join with somebody")).isVisible();
        assertThat(OnScreen.inMenu(support, "Erase for good")).isHidden();
        support.navigate(school.server() + "/orders");
        support.navigate(school.server() + "/mapping");
        assertThat(support.getByText("Your account may not do this").first()).isVisible();

        var reader = member(owner, "Runa Reader", "Reader");
        reader.navigate(school.server() + "/orders");
        assertThat(reader.getByLabel("Sums in EUR")).isVisible();
        assertThat(link(reader, "Order by hand")).isHidden();
        reader.navigate(order);
        assertThat(reader.getByText("What happened")).isVisible();
        assertThat(OnScreen.button(reader, "Cancel")).isHidden();

        owner.waitForResponse(
                answer ->
                        answer.request().method().equals("PUT") && answer.url().contains("/api/team/"),
                () -> owner.getByLabel("What Runa Reader may do").selectOption("Support"));
        reader.reload();
        assertThat(OnScreen.button(reader, "Cancel")).isVisible();
        OnScreen.button(owner, "Remove Sorcha Support").click();
        OnScreen.button(owner, "Sorcha Support can do nothing more").click();
        assertThat(owner.getByText("Sorcha Support", new Page.GetByTextOptions().setExact(true)))
                .isHidden();
        support.navigate(school.server() + "/orders");
        assertThat(OnScreen.heading(support, "Sign in")).isVisible();
    }

    /** Seven days of grace are the demo's; the shop's keeper enters orders of the past, so that nobody waits for a month. */
    @Test
    void aPaymentThatDoesNotComeIsWaitedForThenItClosesAndPaidLateItOpensAgain() {
        var yoru = chromium.operator(school);
        var shop = chromium.stranger();
        var waited = somebody();
        past(shop, waited, "Keepers' Circle", now().minusDays(33), now().minusDays(3));
        OnScreen.button(shop, "The payment fails").click();
        person(yoru, waited, waited);
        var subscriptions = yoru.getByLabel("Subscriptions");
        assertThat(subscriptions).containsText("payment failed on");
        assertThat(subscriptions).containsText("unless it is paid");
        inTheCommunity(waited, 1);

        var lapsed = somebody();
        past(
                shop,
                lapsed,
                "Keepers' Circle",
                now().minusDays(37),
                now().minusDays(7).plusSeconds(45));
        inTheCommunity(lapsed, 1);
        inTheCommunity(lapsed, 0);
        OnScreen.button(shop, "The next month is paid").click();
        inTheCommunity(lapsed, 1);
        OnScreen.button(shop, "Cancel at once").click();
        inTheCommunity(lapsed, 0);

        var inParts = somebody();
        past(shop, inParts, "Keeper's Year", now().minusMonths(1).minusDays(9), null);
        person(yoru, inParts, inParts);
        link(yoru, orderOf(inParts)).click();
        assertThat(yoru.getByText("payment 2,")).containsText("missing");
        inTheClassroom(inParts, "winter-care", "open", 0);
        OnScreen.button(shop, "Part 2 is paid").click();
        inTheClassroom(inParts, "winter-care", "open", 1);
        assertThat(yoru.getByText("payment 2,")).containsText("paid");
        yoru.getByText("payment 3,")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Enter it"))
                .click();
        OnScreen.button(yoru, "It was paid").click();
        assertThat(yoru.getByText("payment 3,")).containsText("paid");
    }

    @Test
    void whatABuyerLeftOnFileIsChargedByTheShopOrRefused() {
        var buyer = Learner.stranger(school, chromium.stranger(), "Fidelma Filed");
        buyer.buys("First Hive", "");
        inTheClassroom(buyer.email(), "first-hive", "open", 1);
        var yoru = chromium.operator(school);
        again(yoru, buyer.email(), "winter care");
        yoru.getByText("On file: card ending").click();
        assertThat(margin(yoru)).containsText("once the shop has charged it");
        assertThat(margin(yoru)).containsText("Winter Care");
        OnScreen.button(yoru, "Confirm and charge").click();
        assertThat(yoru.getByText("Practice shop charged €80.00, card ending")).isVisible();
        inTheClassroom(buyer.email(), "winter-care", "open", 1);

        var shop = chromium.stranger();
        shop.navigate(school.address(Part.SHOP) + "/keeper");
        shop.getByLabel("Whose").fill(buyer.email());
        OnScreen.button(shop, "Refuse to charge it").click();
        again(yoru, buyer.email(), "queen rearing, self");
        yoru.getByText("On file: card ending").click();
        OnScreen.button(yoru, "Confirm and charge").click();
        assertThat(yoru.getByRole(AriaRole.STATUS)
                        .filter(new Locator.FilterOptions().setHasText("the card was refused")))
                .isVisible();
        assertThat(yoru.getByText("Practice shop refused to charge it")).isVisible();
        assertThat(margin(yoru)).containsText("€180.00 to be paid");
        inTheClassroom(buyer.email(), "queen-rearing", "open", 0);
    }

    /** In UTC; as text it has seconds only where there are some, which is how a browser takes it. */
    private static LocalDateTime now() {
        return LocalDateTime.now(ZoneOffset.UTC).truncatedTo(ChronoUnit.SECONDS);
    }

    private static void past(
            Page shop, String person, String product, LocalDateTime placed, @Nullable LocalDateTime paidThrough) {
        shop.navigate(school.address(Part.SHOP) + "/keeper");
        shop.getByLabel("E-mail").fill(person);
        shop.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill(person);
        shop.getByLabel("Product").selectOption(new SelectOption().setLabel(product));
        shop.getByLabel("Placed").fill(placed.toString());
        if (paidThrough != null) {
            shop.getByLabel("Paid through").fill(paidThrough.toString());
        }
        OnScreen.button(shop, "Enter it").click();
    }

    private Page member(Page owner, String name, String role) {
        var email = somebody();
        owner.navigate(school.server() + "/team");
        owner.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill(name);
        owner.getByLabel("E-mail address").fill(email);
        owner.getByLabel("What they may do").selectOption(role);
        OnScreen.button(owner, "Invite them").click();
        assertThat(owner.getByLabel("What " + name + " may do")).isVisible();
        var page = chromium.stranger();
        page.navigate(school.whereToChooseAPassword(email));
        page.getByLabel("Your new password").fill("smoke under seven lids");
        OnScreen.button(page, "Set the password").click();
        OnScreen.button(page, "Sign in").click();
        Chromium.signIn(page, email, "smoke under seven lids");
        OnScreen.heading(page, "Today").waitFor();
        return page;
    }

    private static Locator link(Page page, String name) {
        return page.getByRole(
                AriaRole.LINK, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    private static final String RULES = """
            levels:
            - { id: steward, title: Steward, rank: 1, allowance: { courses: 1 } }
            - { id: provost, title: Provost, rank: 2, allowance: { courses: 2 } }
            """;

    @Test
    void placesOfALevelAreSpentAndReturnedAndSeatsAreGivenToAList() throws Exception {
        var yoru = chromium.operator(school);
        var before = rulebook(yoru);
        publish(
                yoru,
                before.replaceFirst("(?m)^levels:\\n", RULES)
                        .replace("- id: \"QUEEN-SELF\"\n", "- id: \"QUEEN-SELF\"\n  quantity: seats\n"));
        try {
            var person = somebody();
            byHand(yoru, person, "Stella Steward", "smoker");
            OnScreen.button(yoru, "Confirm and open").click();
            person(yoru, person, "Stella Steward");
            OnScreen.button(yoru, "Give access").click();
            choose(yoru, "What to give", "steward");
            why(yoru).fill("runs the swarm line");
            OnScreen.button(yoru, "Give it").click();
            assertThat(yoru.getByText("Steward: 1 of 1 left to choose")).isVisible();
            spend(yoru, "Winter Care");
            inTheClassroom(person, "winter-care", "open", 1);
            assertThat(yoru.getByText("Steward: 0 of 1 left to choose")).isVisible();

            otherLevel(yoru, "provost");
            OnScreen.button(yoru, "Change the level").last().click();
            assertThat(yoru.getByText("Provost: 1 of 2 left to choose")).isVisible();
            spend(yoru, "First Hive");
            inTheClassroom(person, "first-hive", "open", 1);
            otherLevel(yoru, "steward");
            assertThat(margin(yoru)).containsText("2 chosen and 1 to choose");
            assertThat(margin(yoru)).containsText("ClosesFirst Hive");
            margin(yoru).getByLabel("Winter Care").uncheck();
            assertThat(margin(yoru)).containsText("ClosesWinter Care");
            OnScreen.button(yoru, "Change the level").last().click();
            inTheClassroom(person, "winter-care", "open", 0);
            inTheClassroom(person, "first-hive", "open", 1);
            assertThat(yoru.getByText("Steward: 0 of 1 left to choose")).isVisible();
            OnScreen.button(yoru, "Return it").first().click();
            assertThat(margin(yoru)).containsText("Closes");
            margin(yoru)
                    .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Return it"))
                    .click();
            inTheClassroom(person, "first-hive", "open", 0);

            var team = somebody();
            var one = somebody();
            byHand(yoru, team, "Tim Team", "queen rearing, self");
            yoru.getByLabel("How many of Queen Rearing").fill("3");
            OnScreen.button(yoru, "Confirm and open").click();
            OnScreen.button(yoru, "Give seats to a list of people").click();
            yoru.getByLabel("Addresses, one on each line").fill(one + "\n" + one);
            assertThat(margin(yoru)).containsText("has a seat already");
            var two = somebody();
            yoru.getByLabel("Addresses, one on each line").fill(one + "\n" + two);
            OnScreen.button(yoru, "Give 2 seats").click();
            for (var seated : new String[] {team, one, two}) {
                inTheClassroom(seated, "queen-rearing", "open", 1);
            }

            var pair = Learner.stranger(school, chromium.stranger(), "Petra Pair");
            var order = pair.buysSeveral("Queen Rearing, self-paced", 2);
            inTheClassroom(pair.email(), "queen-rearing", "open", 1);
            var friend = somebody();
            yoru.navigate(school.server() + "/orders/" + order);
            OnScreen.button(yoru, "Give it to somebody").click();
            choose(yoru, "For whom", friend);
            margin(yoru)
                    .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Give it"))
                    .click();
            inTheClassroom(friend, "queen-rearing", "open", 1);

            var trio = Learner.stranger(school, chromium.stranger(), "Tara Trio");
            yoru.navigate(school.server() + "/orders/" + trio.buysSeveral("Queen Rearing, self-paced", 2));
            OnScreen.button(yoru, "Make a link for the buyer").click();
            var buyer = chromium.stranger();
            buyer.navigate(yoru.getByText("/seats/").textContent());
            var guest = somebody();
            buyer.getByLabel("Address for seat 2").fill(guest);
            OnScreen.button(buyer, "Send seat 2").click();
            assertThat(buyer.getByText("sent to " + guest)).isVisible();
            await().atMost(PATIENCE).until(() -> !codes(guest).isEmpty());
        } finally {
            publish(yoru, before);
        }
    }

    private static void spend(Page yoru, String course) {
        yoru.getByLabel("Course to choose").selectOption(new SelectOption().setLabel(course));
        OnScreen.button(yoru, "Choose").click();
        OnScreen.button(yoru, "Choose it").click();
    }

    private static void otherLevel(Page yoru, String level) {
        OnScreen.button(yoru, "Change the level").first().click();
        margin(yoru).getByRole(AriaRole.COMBOBOX).selectOption(level);
        why(yoru).fill("wanted it so");
    }

    private static void publish(Page yoru, String rulebook) {
        yoru.navigate(yoru.url().replaceFirst("(https?://[^/]+).*", "$1") + "/mapping?view=history");
        yoru.getByLabel("From a file")
                .setInputFiles(new FilePayload(
                        "rulebook.yaml", "application/yaml", rulebook.getBytes(StandardCharsets.UTF_8)));
        yoru.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(Pattern.compile("Publish \\d+ change")))
                .click();
        assertThat(margin(yoru)).containsText("Nothing is changed yet");
    }

    private String rulebook(Page yoru) {
        return yoru.request().get(school.server() + "/api/mapping/rulebook").text();
    }

    private static Locator why(Page yoru) {
        return yoru.getByRole(
                AriaRole.TEXTBOX, new Page.GetByRoleOptions().setName("Why").setExact(true));
    }

    private void byHand(Page yoru, String person, String name, String... products) {
        yoru.navigate(school.server() + "/orders/by-hand");
        choose(yoru, "For whom", person);
        yoru.getByLabel("What they are called").fill(name);
        for (String product : products) {
            choose(yoru, "Add a product", product);
        }
    }

    /** Another order for somebody who is known. */
    private static void again(Page yoru, String person, String product) {
        yoru.navigate(school.server() + "/orders/by-hand?person=" + person);
        choose(yoru, "Add a product", product);
    }

    private static void choose(Page yoru, String finder, String words) {
        var field = yoru.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName(finder));
        field.fill(words);
        assertThat(yoru.getByRole(AriaRole.OPTION).first()).isVisible();
        field.press("Enter");
    }

    private void person(Page yoru, String key, String name) {
        yoru.navigate(school.server() + "/people?q=" + key);
        yoru.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(name).setExact(true))
                .click();
        assertThat(OnScreen.heading(yoru, name)).isVisible();
    }

    private static Locator margin(Page yoru) {
        return yoru.getByRole(AriaRole.COMPLEMENTARY);
    }

    private int orders(String person) {
        return (int) school.count(
                Part.SERVER,
                "select count(*) from order_row o join person p on p.id = o.person_id where p.person_key = ?",
                person);
    }

    private void inTheClassroom(String person, String course, String state, int many) {
        await().atMost(PATIENCE)
                .until(() -> school.count(
                                        Part.CLASSROOM,
                                        "select count(*) from enrolment where learner = ? and course_id = '%s' and state = '%s'"
                                                .formatted(course, state),
                                        person)
                                == many
                        && school.quiet());
    }

    private void inTheCommunity(String person, int many) {
        await().atMost(PATIENCE)
                .until(() -> school.count(
                                Part.COMMUNITY,
                                "select count(*) from membership s join member m on m.id = s.member where m.user_name = ? and s.place = 'study-circle'",
                                person)
                        == many);
    }

    private String orderOf(String person) {
        return school.rows(
                        Part.SERVER,
                        "select o.id from order_row o join person p on p.id = o.person_id where p.person_key = ?",
                        person)
                .getFirst();
    }

    private void noLongerTagged(String person) {
        await().atMost(PATIENCE)
                .until(() -> school.count(
                                Part.CONTACTS,
                                "select count(*) from mark where email = ? and id = 'bought-queen-rearing' and state = 'on'",
                                person)
                        == 0);
    }

    private Set<String> codes(String person) throws IOException, InterruptedException {
        return Pattern.compile("/claim/([A-Za-z0-9_-]+)")
                .matcher(school.letters(person))
                .results()
                .map(found -> found.group(1))
                .collect(Collectors.toSet());
    }
}
