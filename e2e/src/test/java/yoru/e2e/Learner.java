package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import java.util.UUID;
import yoru.e2e.School.Part;

/** A stranger who buys in the practice shop and learns in the practice classroom, in a window of their own. */
record Learner(School school, Page page, String name, String email) {

    static Learner stranger(School school, Page page, String name) {
        return new Learner(
                school, page, name, "e2e-" + UUID.randomUUID().toString().substring(0, 8) + "@post.example");
    }

    /** @return the order's number */
    String buys(String product, String code) {
        return buys(product, 1, code, "New here: make an account");
    }

    /** With the account that they have. @return the order's number */
    String buysAgain(String product, String code) {
        return buys(product, 1, code, "I have an account");
    }

    /** Without an account. @return the order's number */
    String buysAsGuest(String product) {
        return buys(product, 1, "", "As a guest");
    }

    /** @return the order's number */
    String buysSeveral(String product, int quantity) {
        return buys(product, quantity, "", "New here: make an account");
    }

    private String buys(String product, int quantity, String code, String who) {
        for (int one = 0; one < quantity; one++) {
            page.navigate(school.address(Part.SHOP));
            button("Into the basket: " + product).click();
        }
        page.getByLabel("Discount code").fill(code);
        button("Check out").click();
        page.getByLabel(who).check();
        page.getByLabel("Your name").fill(name);
        page.getByLabel("E-mail address").fill(email);
        page.getByLabel("Password").fill(who.equals("As a guest") ? "" : "a quiet apiary");
        button("Order").click();
        var heading = page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(1));
        assertThat(heading).containsText("Order ");
        return heading.textContent().replace("Order ", "").strip();
    }

    void isRefunded(String order) {
        page.navigate(school.address(Part.SHOP) + "/orders/" + order);
        button("Refund the whole order").click();
        assertThat(page.getByText("refunded").first()).isVisible();
    }

    void opensLesson(String course, String section) {
        page.navigate(school.address(Part.CLASSROOM) + "/courses/" + course + "/" + section);
    }

    /** As often as it takes: after a purchase it takes a moment until the classroom knows her, and it says so. */
    void signsInToClassroom() {
        await().atMost(Duration.ofSeconds(30)).until(() -> {
            page.navigate(school.address(Part.CLASSROOM) + "/sign-in?to=/my");
            page.getByLabel("E-mail address").fill(email);
            button("Sign in").click();
            return page.url().endsWith("/my");
        });
    }

    private com.microsoft.playwright.Locator button(String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }
}
