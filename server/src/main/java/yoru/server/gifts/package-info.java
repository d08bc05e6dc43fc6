/**
 * Gifts and seats on their way to somebody: the letter with a code, and the public page where it is taken up.
 */
@NullMarked
@ApplicationModule(
        allowedDependencies = {
            "accounts",
            "announcements",
            "deliveries",
            "desk",
            "journal",
            "ledger",
            "platform",
            "policies",
            "rulebooks",
            "systems"
        })
package yoru.server.gifts;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
