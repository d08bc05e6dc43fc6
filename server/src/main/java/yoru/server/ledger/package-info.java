/**
 * Facts, each kept once and read by what they matter for, and the people they are about.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"journal", "platform"})
package yoru.server.ledger;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
