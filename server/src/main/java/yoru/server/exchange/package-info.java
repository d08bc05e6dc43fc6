/** What goes out of the school and comes in as files and feeds. */
@NullMarked
@ApplicationModule(allowedDependencies = {"accounts", "journal", "ledger", "platform", "rulebooks"})
package yoru.server.exchange;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
