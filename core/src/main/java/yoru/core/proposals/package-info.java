/** Guesses that spare an operator work, and decide nothing. */
@NullMarked
package yoru.core.proposals;

import org.jspecify.annotations.NullMarked;
