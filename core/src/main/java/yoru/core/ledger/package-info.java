/**
 * Facts: what happened, when, as reported by whom. Facts are never changed or removed; orders are folded from them.
 */
@NullMarked
package yoru.core.ledger;

import org.jspecify.annotations.NullMarked;
