/**
 * What is left to do after a database was restored from a backup: what it cannot know is settled at the next start.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"erasure", "journal", "ledger", "platform"})
package yoru.server.restoring;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
