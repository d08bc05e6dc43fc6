package yoru.server.deliveries;

import java.time.Duration;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** What a system said to what it was told. */
sealed interface SystemAnswer {

    /** In plain words. */
    String words();

    /** It has done it, or had it already. */
    record Done(String words) implements SystemAnswer {}

    /** It has not, or not understandably. */
    record NotDone(String words, @Nullable Duration asked) implements SystemAnswer {

        /** How long it asked to wait. */
        Optional<Duration> retryAfter() {
            return Optional.ofNullable(asked);
        }
    }
}
