package yoru.core.access;

import java.time.Instant;
import java.util.Optional;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.ledger.Refund;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Terms;
import yoru.core.rulebook.Terms.OnRefund;

/**
 * A person has something bought, from a moment on.
 *
 * @param start when it began
 * @param startedBy the fact that began it
 */
record Holding(Order order, OrderLine line, Instant start, Fact startedBy) {

    /** What the line gives its buyer, if it has begun and not been taken back before. */
    static Optional<Holding> of(Order order, OrderLine line, OpensOn opensOn, Billing billing) {
        if (line.giftTo().isPresent()) {
            return Optional.empty();
        }
        return switch (billing) {
            case ONCE, FREE ->
                reached(order, opensOn)
                        .map(by -> new Holding(order, line, laterOf(order.placed(), by), by))
                        .filter(holding -> !holding.wasTakenBackBefore());
        };
    }

    String person() {
        return order.person();
    }

    /** When and why the holding ends under these terms. */
    Optional<Ending> end(Terms terms) {
        Optional<Ending> cancelled = order.cancelled().map(by -> new Ending.Cancelled(by.time(), by));
        Optional<Ending> refunded = terms.refund() == OnRefund.KEEP
                ? Optional.empty()
                : order.refunds().stream()
                        .filter(refund -> refund.reaches(terms.refundShare(), line, order.total()))
                        .map(Refund::fact)
                        .findFirst()
                        .map(by -> new Ending.Refunded(by.time(), by));
        return earlier(cancelled, refunded);
    }

    static Optional<Ending> earlier(Optional<Ending> one, Optional<Ending> other) {
        if (one.isEmpty() || other.isEmpty()) {
            return one.or(() -> other);
        }
        return other.get().at().isBefore(one.get().at()) ? other : one;
    }

    private boolean wasTakenBackBefore() {
        return end(Terms.DEFAULT).filter(end -> end.at().isBefore(start)).isPresent();
    }

    /** The fact by which the order reached the moment, if it has. */
    private static Optional<Fact> reached(Order order, OpensOn opensOn) {
        return switch (opensOn) {
            case PLACED -> Optional.of(order.placed());
            case FULFILLED -> order.fulfilled();
            case PAID -> reachedPaid(order);
        };
    }

    private static Optional<Fact> reachedPaid(Order order) {
        if (order.total().signum() == 0) {
            return Optional.of(order.placed());
        }
        return switch (order.details().channel()) {
            case SHOP -> order.paid();
            case HAND -> {
                var fulfilledUnpaid = order.fulfilled()
                        .filter(fulfilled -> order.paid().isEmpty()
                                || fulfilled.time().isBefore(order.paid().get().time()));
                yield fulfilledUnpaid.or(order::paid);
            }
        };
    }

    private static Instant laterOf(Fact placed, Fact by) {
        return by.time().isBefore(placed.time()) ? placed.time() : by.time();
    }
}
