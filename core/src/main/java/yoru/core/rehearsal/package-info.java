/**
 * Trying it as a stranger: a story as it is written, the facts that it makes, what comes of each of its steps, and whether
 * that is what should be. Nothing is kept, and nobody is told anything.
 */
@NullMarked
package yoru.core.rehearsal;

import org.jspecify.annotations.NullMarked;
