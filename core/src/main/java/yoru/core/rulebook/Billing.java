package yoru.core.rulebook;

import java.time.Period;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;

/** How a product is paid for. */
public sealed interface Billing {

    /** Whether what it opens is open only as long as it is paid for again. */
    default boolean isSubscription() {
        return this instanceof Recurring;
    }

    /** At once, the whole of it. */
    record Once() implements Billing {}

    /** Not at all. */
    record Free() implements Billing {}

    /**
     * In parts, for something that is then owned.
     *
     * @param count how many parts, the order's own payment being the first
     * @param every from one due time to the next
     * @param grace how long after a due time it stays open unpaid
     */
    record Instalments(int count, Period every, Period grace) implements Billing {}

    /**
     * Again and again, as long as it is wanted.
     *
     * @param grace how long it stays open after the paid time
     * @param trialGrace the same after a trial
     * @param lastCycle after how many paid periods no more are charged; none = never
     * @param keepAfterLast whether it is then owned for good
     */
    record Recurring(
            Period every,
            Period grace,
            Period trialGrace,
            @Nullable Integer lastCycle,
            boolean keepAfterLast) implements Billing {

        public OptionalInt cycles() {
            return lastCycle == null ? OptionalInt.empty() : OptionalInt.of(lastCycle);
        }
    }
}
