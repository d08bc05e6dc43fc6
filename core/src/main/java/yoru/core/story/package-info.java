/**
 * What would come of it if something happened: told step by step, kept and sent nowhere. Whoever tries something out tells a
 * story.
 */
@NullMarked
package yoru.core.story;

import org.jspecify.annotations.NullMarked;
