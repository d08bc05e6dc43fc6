/**
 * Two rulebooks compared over the same ledger: who gains, who loses, for whom it ends at another time.
 */
@NullMarked
package yoru.core.impact;

import org.jspecify.annotations.NullMarked;
