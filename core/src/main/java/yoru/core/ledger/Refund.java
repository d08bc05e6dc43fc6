package yoru.core.ledger;

import java.math.BigDecimal;
import java.util.Map;
import java.util.Set;

/**
 * A refund and how far it brought each line of its order.
 *
 * @param refunded money given back so far, by line
 * @param closed which lines count as refunded whatever the amounts (a line of amount zero that was named)
 * @param total money given back so far, of the whole order
 */
public record Refund(Fact fact, Map<String, BigDecimal> refunded, Set<String> closed, BigDecimal total) {

    public Refund {
        refunded = Map.copyOf(refunded);
        closed = Set.copyOf(closed);
    }

    /**
     * Whether by this refund at least {@code share} of what was paid for the line had been given back.
     *
     * @param share in (0, 1]
     */
    public boolean reaches(BigDecimal share, OrderLine line, BigDecimal orderTotal) {
        if (closed.contains(line.line())) {
            return true;
        }
        if (line.amount().signum() > 0) {
            return atLeast(refunded.getOrDefault(line.line(), BigDecimal.ZERO), share, line.amount());
        }
        return orderTotal.signum() > 0 && atLeast(total, share, orderTotal);
    }

    private static boolean atLeast(BigDecimal part, BigDecimal share, BigDecimal whole) {
        return part.compareTo(share.multiply(whole)) >= 0;
    }
}
