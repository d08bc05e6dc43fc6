/** Who the school is, as its owner says it, with a check of what can be checked. */
@NullMarked
@ApplicationModule(allowedDependencies = {"accounts", "followups", "journal", "platform", "rulebooks"})
package yoru.server.school;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
