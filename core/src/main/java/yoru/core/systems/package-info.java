/**
 * What is connected and who is told about what, what a system should hold, what a mapping asks for that no system can do, and
 * where one is out of step with what Yoru wants.
 */
@NullMarked
package yoru.core.systems;

import org.jspecify.annotations.NullMarked;
