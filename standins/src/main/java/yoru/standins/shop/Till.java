package yoru.standins.shop;

import io.cloudevents.CloudEvent;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.standins.practice.Outbox;
import yoru.standins.shop.Store.Moment;

/** Takes orders and changes them; each change and its event are one transaction. */
@Service
@Profile("shop")
class Till {

    private final Store store;
    private final Plans plans;
    private final Methods methods;
    private final Outbox outbox;
    private final Clock clock;

    Till(Store store, Plans plans, Methods methods, Outbox outbox, Clock clock) {
        this.plans = plans;
        this.methods = methods;
        this.store = store;
        this.outbox = outbox;
        this.clock = clock;
    }

    record Buyer(String email, String name, boolean guest) {}

    /** What the lines of a basket cost after a discount. */
    List<ShopOrder.Line> lines(Map<String, Integer> basket, Optional<Integer> percentOff) {
        var lines = new ArrayList<ShopOrder.Line>();
        basket.forEach((id, quantity) -> store.product(id).ifPresent(product -> {
            var full = product.price().multiply(BigDecimal.valueOf(quantity));
            var off = full.multiply(BigDecimal.valueOf(percentOff.orElse(0)))
                    .divide(BigDecimal.valueOf(100), 2, RoundingMode.HALF_UP);
            lines.add(new ShopOrder.Line(
                    String.valueOf(lines.size() + 1),
                    product.id(),
                    product.title(),
                    quantity,
                    full.subtract(off).setScale(2, RoundingMode.HALF_UP),
                    product.thing(),
                    false));
        }));
        return lines;
    }

    @Transactional
    public ShopOrder buy(Buyer buyer, List<ShopOrder.Line> lines, boolean payNow) {
        var order = place(buyer, lines, clock.instant());
        if (payNow && order.total().signum() > 0) {
            pay(order);
        }
        return order;
    }

    private ShopOrder place(Buyer buyer, List<ShopOrder.Line> lines, Instant at) {
        var order = new ShopOrder(
                store.nextOrderId(), buyer.email, buyer.name, buyer.guest, at, null, null, null, null, lines);
        store.place(order);
        report(Events.placed(order));
        return order;
    }

    /**
     * An order of the past, to practise what comes later.
     *
     * @param paidThrough of a subscription, none = its first period
     */
    @Transactional
    public ShopOrder buyInThePast(Buyer buyer, String product, Instant at, @Nullable Instant paidThrough) {
        var order = place(buyer, lines(Map.of(product, 1), Optional.empty()), at);
        pay(order, at, paidThrough);
        return order;
    }

    @Transactional
    public void pay(ShopOrder order) {
        pay(order, clock.instant(), null);
    }

    private void pay(ShopOrder order, Instant at, @Nullable Instant paidThrough) {
        if (store.mark(order.id(), Moment.PAID, at)) {
            report(Events.paid(order, at));
            if (!order.guest()) {
                methods.keep(order.email());
            }
            plans.begin(order, at, paidThrough);
        }
    }

    @Transactional
    public void fulfil(ShopOrder order) {
        var now = clock.instant();
        if (store.mark(order.id(), Moment.FULFILLED, now)) {
            report(Events.fulfilled(order, now));
        }
    }

    @Transactional
    public void refund(ShopOrder order) {
        var now = clock.instant();
        if (store.mark(order.id(), Moment.REFUNDED, now)) {
            report(Events.refunded(order, now));
        }
    }

    @Transactional
    public void refundLine(ShopOrder order, String line) {
        if (store.markLineRefunded(order.id(), line)) {
            report(Events.refunded(order, line, clock.instant()));
        }
    }

    private void report(CloudEvent event) {
        Events.report(event, outbox);
    }
}
