/**
 * Letters to people, as values: what is worth one, and its words. Nothing here knows how they are sent.
 */
@NullMarked
package yoru.core.letters;

import org.jspecify.annotations.NullMarked;
