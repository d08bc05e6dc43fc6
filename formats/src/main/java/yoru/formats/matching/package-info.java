/**
 * Makes facts of what any system reports in JSON, as an operator has matched its fields.
 */
@NullMarked
package yoru.formats.matching;

import org.jspecify.annotations.NullMarked;
