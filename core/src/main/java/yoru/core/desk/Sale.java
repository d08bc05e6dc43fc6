package yoru.core.desk;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Optional;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Happening;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.time.SchoolCalendar;

/** An order by hand. */
final class Sale {

    private static final int MOST_ITEMS = 100;
    private static final int MOST_OF_ONE = 1_000;

    private final RulebookIndex index;
    private final SchoolCalendar calendar;
    private final Instant now;
    private final Deciding deciding;

    Sale(RulebookIndex index, SchoolCalendar calendar, Instant now, Deciding deciding) {
        this.index = index;
        this.calendar = calendar;
        this.now = now;
        this.deciding = deciding;
    }

    void decide(Act.Sell act) {
        deciding.address("person", act.person());
        deciding.refuseIf(act.items().isEmpty(), "items", "Add a product.");
        deciding.refuseIf(
                act.items().size() > MOST_ITEMS,
                "items",
                "At most %d products go into one order.".formatted(MOST_ITEMS));
        var currency = index.rulebook().school().currency();
        var lines = new ArrayList<OrderLine>();
        var subscriptions = new ArrayList<Happening>();
        for (int at = 0; at < act.items().size(); at++) {
            var item = act.items().get(at);
            var place = "items[" + at + "].";
            var product = index.product(item.product()).orElse(null);
            deciding.refuseIf(product == null, place + "product", "There is no such product.");
            deciding.refuseIf(
                    product != null && item.option() != null && !product.hasOption(item.option()),
                    place + "option",
                    "The product has no such option.");
            deciding.refuseIf(
                    item.quantity() < 1 || item.quantity() > MOST_OF_ONE,
                    place + "quantity",
                    "From 1 to %d.".formatted(MOST_OF_ONE));
            deciding.amount(place + "price", item.price(), currency);
            deciding.amount(place + "off", item.off(), currency);
            var full = item.price().multiply(BigDecimal.valueOf(Math.max(1, item.quantity())));
            deciding.refuseIf(item.off().compareTo(full) > 0, place + "off", "More is taken off than it costs.");
            if (item.giftTo() != null) {
                deciding.address(place + "giftTo", item.giftTo());
                deciding.refuseIf(item.giftTo().equals(act.person()), place + "giftTo", "A gift is for somebody else.");
            }
            if (deciding.isClear() && product != null) {
                var amount = act.payment() instanceof Act.Payment.Free ? BigDecimal.ZERO : full.subtract(item.off());
                var line = String.valueOf(at + 1);
                lines.add(new OrderLine(
                        line,
                        item.product(),
                        item.option(),
                        item.quantity(),
                        amount,
                        item.giftTo(),
                        item.giftOn(),
                        full.compareTo(amount) == 0 ? null : full));
                subscription(act, product, item, line).ifPresent(subscriptions::add);
            }
        }
        var payBy = act.payment() instanceof Act.Payment.Later it ? it.payBy() : null;
        deciding.refuseIf(deciding.isBeforeToday(payBy), "payment.payBy", "This day is over.");
        var reason = act.payment() instanceof Act.Payment.Free it ? it.reason().strip() : "";
        deciding.refuseIf(
                act.payment() instanceof Act.Payment.Free && reason.isEmpty(),
                "payment.reason",
                "Say why it is free of charge.");
        deciding.fact(
                act.person(), new Happening.OrderPlaced(act.order(), Channel.HAND, currency, lines, payBy, reason));
        switch (act.payment()) {
            case Act.Payment.Free _ -> {}
            case Act.Payment.OnFile _ ->
                deciding.refuseIf(
                        lines.stream().allMatch(line -> line.amount().signum() == 0),
                        "payment",
                        "It costs nothing: there is nothing to charge.");
            case Act.Payment.Already it ->
                deciding.fact(
                        act.person(),
                        new Happening.OrderPaid(
                                act.order(), it.method().strip(), it.reference().strip()));
            case Act.Payment.Later it -> {
                if (it.opensNow()) {
                    deciding.fact(act.person(), new Happening.OrderFulfilled(act.order()));
                }
            }
        }
        subscriptions.forEach(it -> deciding.fact(act.person(), it));
    }

    /** What is paid again and again begins with the order that is paid, or costs nothing, or opens at once. */
    private Optional<Happening> subscription(Act.Sell act, Product product, Act.Item item, String line) {
        boolean begins = switch (act.payment()) {
            case Act.Payment.Free _, Act.Payment.Already _ -> true;
            case Act.Payment.Later it -> it.opensNow();
            case Act.Payment.OnFile _ -> false;
        };
        return product.billing() instanceof Billing.Recurring plan && begins && item.giftTo() == null
                ? Optional.of(new Happening.SubscriptionStarted(
                        act.order() + "-" + line,
                        item.product(),
                        item.option(),
                        calendar.plus(now, plan.every()),
                        false))
                : Optional.empty();
    }
}
