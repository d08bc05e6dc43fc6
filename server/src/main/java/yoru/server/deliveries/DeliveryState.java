package yoru.server.deliveries;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** How far a delivery has come. */
public enum DeliveryState {
    WAITING,
    ANSWERED,
    /** Tried for the whole time allowed; an operator can have it tried again. */
    GIVEN_UP;

    /** Whether whoever has looked at the system since then has seen what came of it. */
    boolean isSettled(@Nullable Instant lastAnswerAt, Instant then) {
        return this != WAITING && (lastAnswerAt == null || lastAnswerAt.isBefore(then));
    }
}
