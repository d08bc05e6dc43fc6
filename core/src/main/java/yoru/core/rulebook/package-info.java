/**
 * What opens what, under which terms: the school's products, courses and links as one value.
 */
@NullMarked
package yoru.core.rulebook;

import org.jspecify.annotations.NullMarked;
