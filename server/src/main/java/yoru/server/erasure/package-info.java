/**
 * Somebody who asked to be forgotten: everything of theirs is closed in all systems, and then they are taken out of all that
 * is kept.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"access", "deliveries", "journal", "ledger", "platform"})
package yoru.server.erasure;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
