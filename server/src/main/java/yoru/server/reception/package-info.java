/**
 * Where reports from outside are let in: they become facts, wait for somebody who lets them in, or are left out, as the
 * school's policies say.
 */
@NullMarked
@ApplicationModule(
        allowedDependencies = {
            "accounts",
            "desk",
            "journal",
            "ledger",
            "orders",
            "platform",
            "policies",
            "rulebooks",
            "systems"
        })
package yoru.server.reception;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
