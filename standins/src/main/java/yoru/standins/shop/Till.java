package yoru.standins.shop;

import io.cloudevents.CloudEvent;
import java.math.BigDecimal;
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

    /** Between a product and its option, where one thing stands for both. */
    static final String OPTION = "~";

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

    /** What the lines of a basket cost after a discount; a product with options is sold as its first where none is named. */
    List<ShopOrder.Line> lines(Map<String, Integer> basket, Optional<Discount> discount, @Nullable String giftTo) {
        var lines = new ArrayList<ShopOrder.Line>();
        var left = discount.map(Discount::amount).orElse(BigDecimal.ZERO);
        for (var entry : basket.entrySet()) {
            var key = entry.getKey();
            int quantity = entry.getValue();
            var parts = key.split(OPTION, 2);
            var known = store.product(parts[0]);
            if (known.isPresent()) {
                var product = known.get();
                var named = parts.length > 1 ? parts[1] : "";
                var option = product.options().stream()
                        .filter(one -> one.id().equals(named))
                        .findFirst()
                        .or(() -> product.options().stream().findFirst());
                var price = option.map(Product.Option::price).orElseGet(product::firstAmount);
                var full = price.multiply(BigDecimal.valueOf(quantity));
                var soFar = left;
                var off = discount.map(it -> it.off(product.id(), full, soFar)).orElse(BigDecimal.ZERO);
                left = left.subtract(off).max(BigDecimal.ZERO);
                lines.add(new ShopOrder.Line(
                        String.valueOf(lines.size() + 1),
                        product.id(),
                        option.map(Product.Option::id).orElse(null),
                        product.title() + option.map(one -> ", " + one.title()).orElse(""),
                        quantity,
                        full.subtract(off),
                        product.thing(),
                        giftTo,
                        false));
            }
        }
        return lines;
    }

    @Transactional
    public ShopOrder buy(Buyer buyer, List<ShopOrder.Line> lines, boolean payNow) {
        var order = place(buyer, lines, clock.instant());
        if (order.total().signum() == 0) {
            plans.begin(order, order.placedAt(), null);
        } else if (payNow) {
            pay(order);
        }
        return order;
    }

    private ShopOrder place(Buyer buyer, List<ShopOrder.Line> lines, Instant at) {
        var order = new ShopOrder(
                store.nextOrderId(),
                buyer.email,
                buyer.name,
                buyer.guest,
                at,
                null,
                null,
                null,
                null,
                BigDecimal.ZERO,
                lines);
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
        return buyInThePast(buyer, lines(Map.of(product, 1), Optional.empty(), null), at, paidThrough);
    }

    ShopOrder buyInThePast(Buyer buyer, List<ShopOrder.Line> lines, Instant at, @Nullable Instant paidThrough) {
        var order = place(buyer, lines, at);
        if (order.total().signum() == 0) {
            plans.begin(order, at, paidThrough);
        } else {
            pay(order, at, paidThrough);
        }
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

    @Transactional
    public void giveBack(ShopOrder order, BigDecimal amount) {
        giveBack(order, amount, clock.instant());
    }

    /** Part of what was paid. */
    void giveBack(ShopOrder order, BigDecimal amount, Instant at) {
        store.giveBack(order.id(), amount);
        report(Events.refunded(order, amount, at));
    }

    /** A course that a member chooses, or gives back. */
    @Transactional
    public void choose(String email, String course, boolean chosen) {
        if (store.choose(email, course, chosen)) {
            report(Events.course(chosen ? "chosen" : "released", email, course, clock.instant()));
        }
    }

    private void report(CloudEvent event) {
        Events.report(event, outbox);
    }
}
