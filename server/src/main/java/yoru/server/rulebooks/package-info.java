/**
 * The rulebook in force and those before it. How a new one comes about is the mapping's affair.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"journal", "platform", "systems"})
package yoru.server.rulebooks;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
