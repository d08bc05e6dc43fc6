/**
 * What follows from openings and endings besides the openings themselves: a letter to the person, events to listeners.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"deliveries", "journal", "ledger", "platform", "rulebooks", "systems"})
package yoru.server.announcements;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
