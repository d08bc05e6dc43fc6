/** Filters over people that are kept: counted, written out, and tagged all at once. */
@NullMarked
package yoru.server.segments;

import org.jspecify.annotations.NullMarked;
