package yoru.core.rulebook;

import java.math.BigDecimal;

/**
 * Under what terms a link opens.
 *
 * @param refundShare how much of what was paid must be given back before a refund ends access, in (0, 1]
 */
public record Terms(Length length, OnRefund refund, BigDecimal refundShare) {

    /** What a refund does. */
    public enum OnRefund {
        END,
        KEEP
    }

    public static final Terms DEFAULT = new Terms(new Length.Held(), OnRefund.END, BigDecimal.ONE);

    public Terms {
        if (refundShare.signum() <= 0 || refundShare.compareTo(BigDecimal.ONE) > 0) {
            throw new IllegalArgumentException("refundShare must be above 0 and at most 1");
        }
    }
}
