/**
 * Orders: the list by what is left to do, with its sums, and one order whole. The list is computed from the facts and the
 * rulebook, in the transaction that keeps a fact, and never decides anything.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"deliveries", "ledger", "platform", "rulebooks", "systems"})
package yoru.server.orders;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
