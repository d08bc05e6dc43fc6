/**
 * One learner's truth: what is open, why, and what each system answered.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"accounts", "announcements", "deliveries", "ledger", "platform", "rulebooks"})
package yoru.server.people;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
