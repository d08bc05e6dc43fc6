/**
 * What systems report: checked, matched to facts where an operator has matched the fields, kept until it can be taken up.
 */
@NullMarked
@ApplicationModule(allowedDependencies = {"journal", "ledger", "platform", "reception", "systems"})
package yoru.server.intake;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
