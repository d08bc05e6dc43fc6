/**
 * What people meet at closed doors, after buying and after signing in: told to the systems that can show it, and on public
 * pages of Yoru's own for those that cannot.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"announcements", "journal", "ledger", "platform", "rulebooks", "systems"})
package yoru.server.doors;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
