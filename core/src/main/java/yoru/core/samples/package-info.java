/** What a cell of the mapping would do for somebody invented. */
@NullMarked
package yoru.core.samples;

import org.jspecify.annotations.NullMarked;
