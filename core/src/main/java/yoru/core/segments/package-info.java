/** Which people belong together: by what they have, had, bought, could choose or will lose. */
@NullMarked
package yoru.core.segments;

import org.jspecify.annotations.NullMarked;
