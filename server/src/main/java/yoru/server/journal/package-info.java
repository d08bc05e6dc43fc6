/**
 * Everything that happened, in one list, with what followed from what.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"platform"})
package yoru.server.journal;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
