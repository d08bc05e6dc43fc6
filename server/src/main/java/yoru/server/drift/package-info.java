/**
 * Where a system is out of step: compares what it has with what Yoru wants there, and puts it right either way.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"deliveries", "journal", "ledger", "platform", "rulebooks", "systems"})
package yoru.server.drift;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
