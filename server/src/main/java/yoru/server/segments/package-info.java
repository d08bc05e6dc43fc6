/** Filters over people that are kept: counted, written out, and tagged all at once. */
@NullMarked
@ApplicationModule(allowedDependencies = {"accounts", "journal", "ledger", "people", "platform", "rulebooks"})
package yoru.server.segments;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
