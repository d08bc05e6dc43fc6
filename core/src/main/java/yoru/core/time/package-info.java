/**
 * Instants in UTC, calendar arithmetic in the school's zone.
 */
@NullMarked
package yoru.core.time;

import org.jspecify.annotations.NullMarked;
