package yoru.core.ledger;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Happening.OrderCancelled;
import yoru.core.ledger.Happening.OrderFulfilled;
import yoru.core.ledger.Happening.OrderPaid;
import yoru.core.ledger.Happening.OrderPlaced;
import yoru.core.ledger.Happening.OrderRefunded;
import yoru.core.money.Spread;

/** All orders of a ledger, folded from their facts. */
public final class Orders {

    private final List<Order> orders;
    private final List<Warning> warnings;

    private Orders(List<Order> orders, List<Warning> warnings) {
        this.orders = orders;
        this.warnings = warnings;
    }

    public static Orders of(Ledger ledger) {
        Map<String, List<Fact>> byOrder = new LinkedHashMap<>();
        for (Fact fact : ledger.facts()) {
            byOrder.computeIfAbsent(fact.happening().order(), order -> new ArrayList<>())
                    .add(fact);
        }
        var orders = new ArrayList<Order>();
        var warnings = new ArrayList<>(ledger.warnings());
        byOrder.forEach((id, facts) -> fold(id, facts, warnings).ifPresent(orders::add));
        orders.sort(Comparator.comparing(Order::id));
        return new Orders(List.copyOf(orders), List.copyOf(warnings));
    }

    public List<Order> all() {
        return orders;
    }

    public List<Warning> warnings() {
        return warnings;
    }

    private static Optional<Order> fold(String id, List<Fact> facts, List<Warning> warnings) {
        Fact placed = null;
        OrderPlaced details = null;
        Fact paid = null;
        Fact fulfilled = null;
        Fact cancelled = null;
        Map<Fact, OrderRefunded> refunds = new LinkedHashMap<>();
        for (Fact fact : facts) {
            switch (fact.happening()) {
                case OrderPlaced it -> {
                    if (placed == null) {
                        placed = fact;
                        details = it;
                    }
                }
                case OrderPaid _ -> paid = firstOf(paid, fact);
                case OrderFulfilled _ -> fulfilled = firstOf(fulfilled, fact);
                case OrderCancelled _ -> cancelled = firstOf(cancelled, fact);
                case OrderRefunded it -> refunds.put(fact, it);
            }
        }
        if (placed == null || details == null) {
            facts.forEach(fact -> warnings.add(new Warning.NoSuchOrder(fact.id(), id)));
            return Optional.empty();
        }
        var steps = new Refunds(details, warnings);
        refunds.forEach(steps::add);
        return Optional.of(new Order(placed, details, paid, fulfilled, cancelled, steps.steps));
    }

    private static Fact firstOf(@Nullable Fact known, Fact next) {
        return known == null ? next : known;
    }

    /** Adds up the refunds of one order, line by line. */
    private static final class Refunds {

        private final OrderPlaced order;
        private final Map<String, OrderLine> lines = new LinkedHashMap<>();
        private final List<Warning> warnings;
        private final List<Refund> steps = new ArrayList<>();
        private final Map<String, BigDecimal> refunded = new HashMap<>();
        private final Set<String> closed = new HashSet<>();

        Refunds(OrderPlaced order, List<Warning> warnings) {
            this.order = order;
            this.warnings = warnings;
            order.lines().forEach(line -> lines.put(line.line(), line));
        }

        void add(Fact fact, OrderRefunded refund) {
            var only = refund.line();
            if (only.isPresent()) {
                OrderLine line = lines.get(only.get());
                if (line == null) {
                    warnings.add(new Warning.NoSuchLine(fact.id(), order.order(), only.get()));
                    return;
                }
                giveBack(line, refund.amount().orElse(left(line)).min(left(line)));
                if (line.amount().signum() == 0) {
                    closed.add(line.line());
                }
            } else if (refund.amount().isEmpty()) {
                lines.values().forEach(line -> giveBack(line, left(line)));
                closed.addAll(lines.keySet());
            } else {
                spread(refund.amount().get());
            }
            var total = refunded.values().stream().reduce(BigDecimal.ZERO, BigDecimal::add);
            steps.add(new Refund(fact, refunded, closed, total));
        }

        private void spread(BigDecimal amount) {
            var all = List.copyOf(lines.values());
            var left = all.stream().map(this::left).toList();
            var shares = Spread.over(left, amount, order.currency());
            for (int i = 0; i < all.size(); i++) {
                giveBack(all.get(i), shares.get(i));
            }
            if (all.stream().allMatch(line -> line.amount().signum() == 0)) {
                closed.addAll(lines.keySet());
            }
        }

        private BigDecimal left(OrderLine line) {
            return line.amount().subtract(refunded.getOrDefault(line.line(), BigDecimal.ZERO));
        }

        private void giveBack(OrderLine line, BigDecimal amount) {
            refunded.merge(line.line(), amount, BigDecimal::add);
        }
    }
}
