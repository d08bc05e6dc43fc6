/**
 * One learner's truth: what is open, why, and what each system answered.
 */
@NullMarked
package yoru.server.people;

import org.jspecify.annotations.NullMarked;
