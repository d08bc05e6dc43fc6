/**
 * The section Systems: adding, trying and watching over connections.
 */
@NullMarked
package yoru.server.setup;

import org.jspecify.annotations.NullMarked;
