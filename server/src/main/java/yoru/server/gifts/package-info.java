/**
 * Gifts and seats on their way to somebody: the letter with a code, and the public page where it is taken up.
 */
@NullMarked
package yoru.server.gifts;

import org.jspecify.annotations.NullMarked;
