/**
 * One folder for each kind of system: translation between Yoru's words and those of an open protocol, and no decisions.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"platform", "systems"})
package yoru.server.connectors;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
