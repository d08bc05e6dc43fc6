package yoru.core.access;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening.InstalmentPaid;
import yoru.core.ledger.Happening.OrderRefunded;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.money.Spread;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Quantity;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.time.SchoolCalendar;

/** An order looked at with a rulebook: what was paid and given back, and who holds what of it from when on. */
public final class Purchase {

    /** When an order had come far enough, and by which fact. */
    private record Moment(Instant at, Fact by) {}

    private final Order order;
    private final RulebookIndex index;
    private final SchoolCalendar calendar;
    private final Map<String, LineMoney> money = new LinkedHashMap<>();
    private final List<LineMoney.Step> steps = new ArrayList<>(0);
    private final boolean zero;
    private BigDecimal paid = BigDecimal.ZERO;
    private BigDecimal refunded = BigDecimal.ZERO;
    private @Nullable Map<String, List<Order.Seat>> seatsByPerson;

    public Purchase(Order order, RulebookIndex index, SchoolCalendar calendar) {
        this.order = order;
        this.index = index;
        this.calendar = calendar;
        this.zero = order.total().signum() == 0;
        for (OrderLine line : order.details().lines()) {
            var product = index.product(line.product()).orElse(null);
            var itsMoney = new LineMoney(order, line, product, steps);
            money.put(line.line(), itsMoney);
            paid = paid.add(itsMoney.paid());
        }
        for (Fact fact : order.money()) {
            if (fact.happening() instanceof InstalmentPaid it) {
                var line = money.get(it.line());
                paid = line == null ? paid : paid.add(line.pay(fact, it.number()));
            } else if (fact.happening() instanceof OrderRefunded it) {
                refund(fact, it);
            }
        }
    }

    /** Money of a line of this order. */
    public Optional<LineMoney> money(String line) {
        return Optional.ofNullable(money.get(line));
    }

    /** How many seats the line has; 0 where it is no line of seats and no gift. */
    public static int seats(OrderLine line, Product product) {
        if (product.quantity() == Quantity.SEATS) {
            return line.quantity();
        }
        return line.giftTo().isPresent() ? 1 : 0;
    }

    /** The number of the first seat that is not the buyer's own. */
    public static int firstToClaim(OrderLine line) {
        return line.giftTo().isPresent() ? 1 : 2;
    }

    /** Whether the seat exists and is not the buyer's own. */
    public static boolean canBeClaimed(OrderLine line, Product product, int seat) {
        return seat <= seats(line, product) && seat >= firstToClaim(line);
    }

    /** What the buyer has of it. */
    List<Holding.Bought> ofBuyer() {
        var held = new ArrayList<Holding.Bought>();
        for (OrderLine line : order.details().lines()) {
            if (line.giftTo().isEmpty()) {
                index.product(line.product())
                        .flatMap(product -> holding(line, product, 1, null, order.person()))
                        .ifPresent(held::add);
            }
        }
        return held;
    }

    /** What somebody has of it by claiming seats. */
    List<Holding.Bought> ofClaimant(String person) {
        if (seatsByPerson == null) {
            seatsByPerson = new LinkedHashMap<>();
            for (var claim : order.claims().entrySet()) {
                seatsByPerson
                        .computeIfAbsent(claim.getValue().person(), key -> new ArrayList<>())
                        .add(claim.getKey());
            }
        }
        Map<String, OrderLine> lines = new LinkedHashMap<>();
        order.details().lines().forEach(line -> lines.put(line.line(), line));
        var held = new ArrayList<Holding.Bought>();
        for (Order.Seat seat : seatsByPerson.getOrDefault(person, List.of())) {
            var line = lines.get(seat.line());
            var product = line == null ? null : index.product(line.product()).orElse(null);
            var claim = order.claims().get(seat);
            if (line != null && product != null && claim != null && canBeClaimed(line, product, seat.number())) {
                holding(line, product, seat.number(), claim.fact(), person).ifPresent(held::add);
            }
        }
        return held;
    }

    /** Whether the order has come as far as the product wants. */
    boolean hasOpened(Product product) {
        return openedAt(product).isPresent();
    }

    /** When the order came as far as the product wants. */
    public Optional<Instant> openedAt(Product product) {
        return reached(index.rulebook().opensOn(product)).map(Moment::at);
    }

    private Optional<Holding.Bought> holding(
            OrderLine line, Product product, int seat, @Nullable Fact claim, String person) {
        var opened = reached(index.rulebook().opensOn(product));
        if (opened.isEmpty() || product.billing() instanceof Billing.Recurring) {
            return Optional.empty();
        }
        var from = opened.get();
        var startedBy = claim != null && claim.time().isAfter(from.at) ? claim : from.by;
        var start = claim == null ? from.at : Window.later(claim.time(), from.at);
        var itsMoney = Objects.requireNonNull(money.get(line.line()));
        boolean gone = order.wasCancelledBefore(start)
                || itsMoney.reached(BigDecimal.ONE)
                        .filter(refund -> refund.time().isBefore(start))
                        .isPresent();
        if (gone) {
            return Optional.empty();
        }
        var late = product.billing() instanceof Billing.Instalments it
                        && line.amount().signum() > 0
                ? Late.of(it, itsMoney, from.at, calendar)
                : Late.NEVER;
        return Optional.of(new Holding.Bought(
                order, line, product, seat, claim, person, start, startedBy, itsMoney, late.suspended(), late.grace()));
    }

    private Optional<Moment> reached(OpensOn opensOn) {
        return switch (opensOn) {
            case PLACED -> Optional.of(new Moment(order.placed().time(), order.placed()));
            case FULFILLED -> order.fulfilled().map(this::moment);
            case PAID -> reachedPaid();
        };
    }

    private Optional<Moment> reachedPaid() {
        if (zero) {
            return reached(OpensOn.PLACED);
        }
        var whenPaid = order.paid().map(this::moment);
        if (order.details().channel() == Channel.SHOP) {
            return whenPaid;
        }
        var whenFulfilled = order.fulfilled().map(this::moment);
        if (whenPaid.isPresent() && whenFulfilled.isPresent()) {
            return whenFulfilled.get().at.isBefore(whenPaid.get().at) ? whenFulfilled : whenPaid;
        }
        return whenPaid.or(() -> whenFulfilled);
    }

    /** Never before it was placed. */
    private Moment moment(Fact by) {
        return new Moment(Window.later(by.time(), order.placed().time()), by);
    }

    private void refund(Fact fact, OrderRefunded refund) {
        if (refund.line().isPresent()) {
            var line = money.get(refund.line().get());
            if (line == null) {
                return;
            }
            giveBack(fact, line, refund.amount().orElse(line.left()).min(line.left()));
            line.closeUnpaid(fact);
        } else if (refund.amount().isPresent()) {
            spread(fact, refund.amount().get());
            if (paid.signum() == 0) {
                money.values().forEach(line -> line.closeUnpaid(fact));
            }
        } else {
            for (LineMoney line : money.values()) {
                giveBack(fact, line, line.left());
                line.closeUnpaid(fact);
            }
        }
        steps.add(new LineMoney.Step(fact, refunded, paid));
    }

    private void spread(Fact fact, BigDecimal amount) {
        if (refunded.compareTo(paid) >= 0) {
            return;
        }
        var all = List.copyOf(money.values());
        var shares = Spread.over(
                all.stream().map(LineMoney::left).toList(),
                amount,
                order.details().currency());
        for (int i = 0; i < all.size(); i++) {
            if (shares.get(i).signum() > 0) {
                giveBack(fact, all.get(i), shares.get(i));
            }
        }
    }

    private void giveBack(Fact fact, LineMoney line, BigDecimal amount) {
        line.giveBack(fact, amount);
        refunded = refunded.add(amount);
    }
}
