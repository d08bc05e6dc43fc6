/**
 * Orders: the list by what is left to do, with its sums, and one order whole. The list is computed from the facts and the
 * rulebook, in the transaction that keeps a fact, and never decides anything.
 */
@NullMarked
package yoru.server.orders;

import org.jspecify.annotations.NullMarked;
