/**
 * What connected systems can do, what a mapping asks of them, and where one is out of step with what Yoru wants.
 */
@NullMarked
package yoru.core.systems;

import org.jspecify.annotations.NullMarked;
