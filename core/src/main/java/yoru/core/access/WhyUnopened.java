package yoru.core.access;

import java.util.function.Predicate;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Product;

/** Answers why a line of an order opens nothing to whoever placed it. */
public final class WhyUnopened {

    /** What is in the way. */
    public sealed interface Cause {

        /** The rulebook does not know the product. */
        record Unknown() implements Cause {}

        /**
         * Nothing is linked to it, and nothing need be.
         *
         * @param waits whether it is neither posted nor cancelled
         */
        record ThingToPost(boolean waits) implements Cause {}

        /** Nothing is linked to it yet. */
        record NotMapped() implements Cause {}

        /**
         * It is paid again and again: what it opens its subscription opens.
         *
         * @param begins whether the payment of this order would begin it
         */
        record BySubscription(boolean begins) implements Cause {}

        /** It was ordered as a gift. */
        record ForSomebodyElse() implements Cause {}

        /** It was taken back before it opened. */
        record NeverBegan() implements Cause {}

        /** The order has not come as far as the product wants. */
        record NotOpened(Product product) implements Cause {}
    }

    private final Engine engine;
    private final Predicate<String> isThing;

    /** @param isThing whether a product, by its id, is a thing to post */
    public WhyUnopened(Engine engine, Predicate<String> isThing) {
        this.engine = engine;
        this.isThing = isThing;
    }

    public Cause of(Order order, OrderLine line) {
        return engine.index()
                .product(line.product())
                .map(product -> of(order, line, product))
                .orElseGet(Cause.Unknown::new);
    }

    private Cause of(Order order, OrderLine line, Product product) {
        if (engine.index().serving(product, line.option()).isEmpty()) {
            return isThing.test(product.id())
                    ? new Cause.ThingToPost(
                            order.fulfilled().isEmpty() && order.cancelled().isEmpty())
                    : new Cause.NotMapped();
        }
        if (line.giftTo().isPresent()) {
            return new Cause.ForSomebodyElse();
        }
        if (product.billing() instanceof Billing.Recurring) {
            return new Cause.BySubscription(order.paid().isEmpty()
                    && order.fulfilled().isEmpty()
                    && order.total().signum() > 0);
        }
        return order.cancelled().isPresent() || engine.purchase(order).hasOpened(product)
                ? new Cause.NeverBegan()
                : new Cause.NotOpened(product);
    }
}
