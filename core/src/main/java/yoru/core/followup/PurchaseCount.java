package yoru.core.followup;

import java.math.BigDecimal;
import java.util.List;
import java.util.function.Predicate;
import yoru.core.access.Purchase;
import yoru.core.ledger.Fact;
import yoru.core.ledger.History;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.time.SchoolCalendar;

/** Counts what a person bought before: orders of which at least one line is of a set and counts. */
public final class PurchaseCount {

    /** What a purchase must have come to. */
    public enum Counts {
        /** Ordered, and not cancelled. */
        ORDERED,
        /** Ordered and paid (or free of charge), and not cancelled. */
        PAID,
        /** The same, and the line not given back in full. */
        PAID_AND_KEPT
    }

    private final RulebookIndex index;
    private final SchoolCalendar calendar;

    public PurchaseCount(RulebookIndex index) {
        this.index = index;
        this.calendar = new SchoolCalendar(index.rulebook().school().zone());
    }

    /** The person's orders that count, in the order in which they were placed. */
    public List<Order> all(History history, PurchaseSet set, Counts counts) {
        return all(history, line -> set.has(line, index), counts);
    }

    /** The same for whatever lines are of the set. */
    List<Order> all(History history, Predicate<OrderLine> isOfIt, Counts counts) {
        return history.orders().stream()
                .filter(order -> counts(order, isOfIt, counts))
                .sorted((a, b) -> Fact.FOLDING_ORDER.compare(a.placed(), b.placed()))
                .toList();
    }

    /** How many of them were placed before the given order, in folding order; it need not be of the set itself. */
    public int before(History history, Order order, PurchaseSet set, Counts counts) {
        return before(history, order, line -> set.has(line, index), counts);
    }

    /** The same for whatever lines are of the set. */
    int before(History history, Order order, Predicate<OrderLine> isOfIt, Counts counts) {
        return (int) all(history, isOfIt, counts).stream()
                .filter(earlier -> Fact.FOLDING_ORDER.compare(earlier.placed(), order.placed()) < 0)
                .count();
    }

    private boolean counts(Order order, Predicate<OrderLine> isOfIt, Counts counts) {
        boolean paid = order.paid().isPresent() || order.total().signum() == 0;
        if (order.cancelled().isPresent() || (counts != Counts.ORDERED && !paid)) {
            return false;
        }
        var purchase = new Purchase(order, index, calendar);
        return order.details().lines().stream()
                .filter(isOfIt)
                .anyMatch(line -> counts != Counts.PAID_AND_KEPT
                        || purchase.money(line.line())
                                .flatMap(money -> money.reached(BigDecimal.ONE))
                                .isEmpty());
    }
}
