/**
 * Methods of payment that people left with a shop, charged for orders by hand: once, and paid only when the shop says so.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"accounts", "journal", "ledger", "orders", "platform", "systems"})
package yoru.server.charges;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
