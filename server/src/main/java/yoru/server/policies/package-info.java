/** What the school has decided to do with people whom it does not know for certain, and with gifts nobody takes up. */
@NullMarked
@ApplicationModule(allowedDependencies = {"journal"})
package yoru.server.policies;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
