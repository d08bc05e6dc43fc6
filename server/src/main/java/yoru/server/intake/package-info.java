/**
 * What systems report: checked, matched to facts where an operator has matched the fields, kept until it can be taken up.
 */
@NullMarked
package yoru.server.intake;

import org.jspecify.annotations.NullMarked;
