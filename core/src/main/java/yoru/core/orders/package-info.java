/**
 * Orders as the books have them: what was paid and given back, what is still owed and when it is due, and how far each
 * line has come. Access is decided in {@code access} and only looked at from here.
 */
@NullMarked
package yoru.core.orders;

import org.jspecify.annotations.NullMarked;
