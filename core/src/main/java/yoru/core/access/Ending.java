package yoru.core.access;

import java.time.Instant;
import java.time.Period;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Fact;
import yoru.core.rulebook.Level;

/** When something ends, and why. */
public record Ending(Instant at, Cause cause) {

    /** Why something ends. */
    public sealed interface Cause {

        /** Its length is over. */
        record Elapsed(Period length) implements Cause {}

        /** The link opens nothing after this date. */
        record Capped() implements Cause {}

        /** It was given until then. */
        record GivenUntil() implements Cause {}

        /** The link's time is over and it takes back what it gave. */
        record TakenBack() implements Cause {}

        record Refunded(Fact by) implements Cause {}

        /** The order or the subscription was cancelled. */
        record Cancelled(Fact by) implements Cause {}

        /** The paid time and its grace are over; a payment would have it go on. */
        record Unpaid() implements Cause {}

        /** All periods that were to be paid are over. */
        record LastCycle() implements Cause {}

        /** Somebody or some other system ended it: a level, a tag, something given by hand. */
        record EndedBy(Fact by) implements Cause {}

        /** The course was released, or its place in the allowance is gone. */
        record PlaceLost() implements Cause {}

        /**
         * The level ends then in whose allowance it was chosen.
         *
         * @param renews whether a payment would have the level go on
         */
        record WithLevel(Level level, boolean renews) implements Cause {}
    }

    /** Whether a payment not yet made would move it on. */
    public boolean renews() {
        return cause instanceof Cause.Unpaid || (cause instanceof Cause.WithLevel it && it.renews());
    }

    /** The fact that ended it, if it was one. */
    public Optional<Fact> by() {
        return switch (cause) {
            case Cause.Refunded it -> Optional.of(it.by());
            case Cause.Cancelled it -> Optional.of(it.by());
            case Cause.EndedBy it -> Optional.of(it.by());
            case Cause.Elapsed _,
                    Cause.Capped _,
                    Cause.GivenUntil _,
                    Cause.TakenBack _,
                    Cause.Unpaid _,
                    Cause.LastCycle _,
                    Cause.PlaceLost _,
                    Cause.WithLevel _ -> Optional.empty();
        };
    }

    /** The earlier of the two, the first where they are at the same time. */
    static @Nullable Ending earlier(@Nullable Ending one, @Nullable Ending other) {
        if (one == null || other == null) {
            return one == null ? other : one;
        }
        return other.at.isBefore(one.at) ? other : one;
    }
}
