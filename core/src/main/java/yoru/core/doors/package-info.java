/** What people meet where something is closed to them, has just been bought, or after signing in. */
@NullMarked
package yoru.core.doors;

import org.jspecify.annotations.NullMarked;
