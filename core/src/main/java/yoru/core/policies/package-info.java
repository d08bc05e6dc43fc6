/** What a school does with reports about people whom it does not know, or knows under another name. */
@NullMarked
package yoru.core.policies;

import org.jspecify.annotations.NullMarked;
