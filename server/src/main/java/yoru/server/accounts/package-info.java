/**
 * Who may use Yoru: operators, signing in, the lock-out, the security of every request.
 */
@NullMarked
package yoru.server.accounts;

import org.jspecify.annotations.NullMarked;
