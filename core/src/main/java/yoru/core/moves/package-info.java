/**
 * What has changed for a person since the systems were last told: decided here, from what was told and what is open now, and
 * carried out elsewhere.
 */
@NullMarked
package yoru.core.moves;

import org.jspecify.annotations.NullMarked;
