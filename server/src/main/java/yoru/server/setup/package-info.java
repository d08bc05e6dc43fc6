/**
 * The section Systems: adding, trying and watching over connections.
 */
@NullMarked
@ApplicationModule(
        allowedDependencies = {
            "access",
            "deliveries",
            "drift",
            "intake",
            "journal",
            "platform",
            "policies",
            "rulebooks",
            "systems"
        })
package yoru.server.setup;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
