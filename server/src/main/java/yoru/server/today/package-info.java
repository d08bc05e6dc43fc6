/**
 * What needs a person now.
 */
@NullMarked
package yoru.server.today;

import org.jspecify.annotations.NullMarked;
