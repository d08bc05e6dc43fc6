/**
 * What follow-ups do: decided with everything else that becomes of a person, carried out step by step, and shown.
 */
@NullMarked
@ApplicationModule(
        allowedDependencies = {
            "accounts",
            "announcements",
            "deliveries",
            "journal",
            "ledger",
            "platform",
            "policies",
            "rulebooks",
            "systems"
        })
package yoru.server.followups;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
