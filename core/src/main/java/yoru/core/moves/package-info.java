/**
 * What becomes of a person at a moment: what has moved since the systems were last told, what each should hold now, what is
 * worth a letter. Decided here, from what was told and what is open now, and carried out elsewhere.
 */
@NullMarked
package yoru.core.moves;

import org.jspecify.annotations.NullMarked;
