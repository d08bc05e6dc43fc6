/** What a person should look at in the mapping, and what of it somebody has accepted. */
@NullMarked
@ApplicationModule(
        allowedDependencies = {
            "doors",
            "drift",
            "journal",
            "ledger",
            "mapping",
            "orders",
            "platform",
            "rulebooks",
            "systems"
        })
package yoru.server.findings;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
