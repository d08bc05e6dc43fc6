/** What goes out of the school and comes in as files and feeds. */
@NullMarked
package yoru.server.exchange;

import org.jspecify.annotations.NullMarked;
