/**
 * What follows from a purchase besides access: decided here, done elsewhere.
 */
@NullMarked
package yoru.core.followup;

import org.jspecify.annotations.NullMarked;
