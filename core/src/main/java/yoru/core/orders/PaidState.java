package yoru.core.orders;

import java.math.BigDecimal;

/** How an order stands in the books. */
public enum PaidState {
    /** There was nothing to pay. */
    FREE,
    UNPAID,
    /** Something was paid, and something is owed. */
    PARTLY_PAID,
    PAID,
    /** Something of what was paid was given back. */
    PARTLY_REFUNDED,
    /** All that was paid was given back. */
    REFUNDED,
    /** Nothing was paid, and nothing need be paid any more. */
    DROPPED;

    /** From the sums of an order. */
    public static PaidState of(BigDecimal amount, BigDecimal paid, BigDecimal givenBack, BigDecimal owed) {
        if (amount.signum() == 0) {
            return FREE;
        }
        if (givenBack.signum() > 0) {
            return givenBack.compareTo(paid) < 0 ? PARTLY_REFUNDED : REFUNDED;
        }
        if (paid.signum() > 0) {
            return owed.signum() > 0 ? PARTLY_PAID : PAID;
        }
        return owed.signum() > 0 ? UNPAID : DROPPED;
    }
}
