/**
 * Who may use Yoru: operators, signing in, the lock-out, the security of every request.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"journal", "platform"})
package yoru.server.accounts;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
