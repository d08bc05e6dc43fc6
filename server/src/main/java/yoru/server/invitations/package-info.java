/**
 * How somebody of the team comes by a password that nobody else knows: invitations, and letters to who has forgotten theirs.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"accounts", "announcements", "journal", "platform", "systems"})
package yoru.server.invitations;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
