/**
 * Amounts of money and how they are spread over parts.
 */
@NullMarked
package yoru.core.money;

import org.jspecify.annotations.NullMarked;
