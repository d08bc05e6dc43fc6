/**
 * Public pages for people without an account in Yoru: the closed door, what was just bought, all that one has; and help for
 * whoever has bought something and cannot get in.
 */
@NullMarked
@ApplicationModule(
        allowedDependencies = {
            "announcements",
            "deliveries",
            "desk",
            "doors",
            "gifts",
            "journal",
            "ledger",
            "platform",
            "policies",
            "reception",
            "rulebooks",
            "systems"
        })
package yoru.server.visitors;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
