/**
 * Where a system is out of step: compares what it has with what Yoru wants there, and puts it right either way.
 */
@NullMarked
package yoru.server.drift;

import org.jspecify.annotations.NullMarked;
