/**
 * What is unfinished or wrong in a mapping, beside what was sold and what the classroom says of its courses.
 */
@NullMarked
package yoru.core.findings;

import org.jspecify.annotations.NullMarked;
