package yoru.e2e;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.regex.Pattern;

/** What a person finds on a screen, by its role and the name that it has for everybody. */
final class OnScreen {

    private OnScreen() {}

    static Locator heading(Page page, String name) {
        return page.getByRole(
                AriaRole.HEADING, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    static Locator button(Page page, String name) {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name));
    }

    static Locator button(Page page, Pattern name) {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name));
    }

    static Locator link(Page page, String name) {
        return page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(name));
    }

    /** A cell of the grid, by how its name begins. */
    static Locator cell(Page page, String name) {
        return page.getByRole(AriaRole.GRIDCELL, new Page.GetByRoleOptions().setName(Pattern.compile("^" + name)));
    }
}
