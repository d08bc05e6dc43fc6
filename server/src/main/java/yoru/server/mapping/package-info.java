/**
 * The grid, drafts of the rulebook and their consequence, publishing, history.
 */
@NullMarked
@ApplicationModule(
        allowedDependencies = {
            "accounts",
            "doors",
            "followups",
            "ledger",
            "platform",
            "rehearsals",
            "rulebooks",
            "systems"
        })
package yoru.server.mapping;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
