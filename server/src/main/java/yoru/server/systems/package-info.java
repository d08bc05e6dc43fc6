/**
 * The connected systems: their addresses, secrets and catalogues, and the landscape that they make.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"journal", "platform"})
package yoru.server.systems;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
