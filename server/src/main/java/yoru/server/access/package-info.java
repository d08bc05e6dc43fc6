/**
 * Who may be where now: recomputes people when facts, rules or the hour change.
 */
@NullMarked
package yoru.server.access;

import org.jspecify.annotations.NullMarked;
