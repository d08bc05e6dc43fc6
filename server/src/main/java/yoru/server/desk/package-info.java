/**
 * What somebody at the desk does about people and orders: the consequence first, then the act, once.
 */
@NullMarked
@ApplicationModule(
        allowedDependencies = {
            "access",
            "accounts",
            "charges",
            "journal",
            "ledger",
            "orders",
            "platform",
            "rulebooks",
            "systems"
        })
package yoru.server.desk;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
