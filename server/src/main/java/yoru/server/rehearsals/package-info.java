/**
 * Stories of invented people that a school keeps: what comes of them under a rulebook, and which no longer come out as they
 * should.
 */
@NullMarked
@ApplicationModule(
        allowedDependencies = {
            "announcements",
            "journal",
            "ledger",
            "people",
            "platform",
            "policies",
            "rulebooks",
            "systems"
        })
package yoru.server.rehearsals;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
