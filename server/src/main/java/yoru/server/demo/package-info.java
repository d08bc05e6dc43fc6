/**
 * Sets up the invented Hollow Oak Bee School: its operator, its connections and its mapping.
 */
@NullMarked
@ApplicationModule(
        allowedDependencies = {
            "accounts",
            "desk",
            "intake",
            "mapping",
            "platform",
            "policies",
            "rehearsals",
            "rulebooks",
            "systems"
        })
package yoru.server.demo;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
