/**
 * What needs a person now.
 */
@NullMarked
@ApplicationModule(
        allowedDependencies = {
            "access",
            "charges",
            "deliveries",
            "doors",
            "drift",
            "findings",
            "intake",
            "journal",
            "ledger",
            "orders",
            "platform",
            "reception",
            "rehearsals",
            "systems"
        })
package yoru.server.today;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
