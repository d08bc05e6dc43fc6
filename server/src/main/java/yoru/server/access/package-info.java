/**
 * Who may be where now: looks people over when facts, rules or the hour change; and the stage on which
 * stories try something out.
 */
@NullMarked
@ApplicationModule(
        allowedDependencies = {
            "announcements",
            "deliveries",
            "followups",
            "journal",
            "ledger",
            "platform",
            "rulebooks",
            "systems"
        })
package yoru.server.access;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
