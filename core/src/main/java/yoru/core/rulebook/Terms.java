package yoru.core.rulebook;

import java.math.BigDecimal;
import java.time.LocalDateTime;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Under what terms a link opens.
 *
 * @param capOrNone when it ends at the latest, in the school's zone
 * @param refundShare how much of what was paid must be given back before a refund ends access, in (0, 1]
 */
public record Terms(
        Starts starts,
        Length length,
        @Nullable LocalDateTime capOrNone,
        Repeat repeat,
        OnRefund refund,
        BigDecimal refundShare) {

    /** What a second purchase does while the first still runs. */
    public enum Repeat {
        /** Begins when the one before has ended. */
        EXTEND,
        /** Begins by itself. */
        OVERLAP
    }

    /** What a refund does. */
    public enum OnRefund {
        END,
        KEEP
    }

    public static final Terms DEFAULT =
            new Terms(new Starts.AtOnce(), new Length.Held(), null, Repeat.OVERLAP, OnRefund.END, BigDecimal.ONE);

    public Terms {
        if (refundShare.signum() <= 0 || refundShare.compareTo(BigDecimal.ONE) > 0) {
            throw new IllegalArgumentException("refundShare must be above 0 and at most 1");
        }
        refundShare = refundShare.stripTrailingZeros();
    }

    public Optional<LocalDateTime> until() {
        return Optional.ofNullable(capOrNone);
    }

    /** The same but for how long and what a refund does. */
    public Terms with(Length newLength, OnRefund newRefund, BigDecimal newShare) {
        return new Terms(starts, newLength, capOrNone, repeat, newRefund, newShare);
    }

    public Terms with(Starts newStarts) {
        return new Terms(newStarts, length, capOrNone, repeat, refund, refundShare);
    }

    public Terms with(Repeat newRepeat) {
        return new Terms(starts, length, capOrNone, newRepeat, refund, refundShare);
    }
}
