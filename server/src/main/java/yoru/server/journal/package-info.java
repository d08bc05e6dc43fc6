/**
 * Everything that happened, in one list, with what followed from what.
 */
@NullMarked
package yoru.server.journal;

import org.jspecify.annotations.NullMarked;
