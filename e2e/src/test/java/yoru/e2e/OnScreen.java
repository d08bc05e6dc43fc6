package yoru.e2e;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.regex.Pattern;

/** What a person finds on a screen, by its role and the name that it has for everybody. */
final class OnScreen {

    private static final int MOST_TABS = 100;

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

    /** An act in a menu that was opened. */
    static Locator inMenu(Page page, String name) {
        return page.getByRole(AriaRole.MENUITEM, new Page.GetByRoleOptions().setName(name));
    }

    static Locator link(Page page, String name) {
        return page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(name));
    }

    /** Goes from field to field by Tab until it is there. */
    static void tabTo(Page page, Locator wanted) {
        for (int presses = 0; presses < MOST_TABS; presses++) {
            if (Boolean.TRUE.equals(wanted.evaluate("it => it === document.activeElement"))) {
                return;
            }
            page.keyboard().press("Tab");
        }
        throw new AssertionError("Tab does not lead to " + wanted);
    }

    /** A cell of the grid, by how its name begins. */
    static Locator cell(Page page, String name) {
        return page.getByRole(AriaRole.GRIDCELL, new Page.GetByRoleOptions().setName(Pattern.compile("^" + name)));
    }
}
