/**
 * What the connected systems are told, again and again until they have answered.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"journal", "ledger", "platform", "policies", "systems"})
package yoru.server.deliveries;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
