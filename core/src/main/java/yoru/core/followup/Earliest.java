package yoru.core.followup;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** The earliest of some instants that lies after another. */
final class Earliest {

    private final Instant after;

    private @Nullable Instant found;

    Earliest(Instant after) {
        this.after = after;
    }

    void with(Instant instant) {
        if (instant.isAfter(after) && (found == null || instant.isBefore(found))) {
            found = instant;
        }
    }

    @Nullable
    Instant orNone() {
        return found;
    }
}
