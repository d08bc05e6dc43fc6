/**
 * Facts as they arrive: webhook intake, keeping, and the people they are about.
 */
@NullMarked
package yoru.server.ledger;

import org.jspecify.annotations.NullMarked;
