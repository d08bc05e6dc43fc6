package yoru.core.access;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.money.MinorUnits;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Product;

/** What was paid for one line and what of it was given back, as the facts went by. */
public final class LineMoney {

    /**
     * A refund, and how far it brought things.
     *
     * @param refunded of the whole by then
     * @param paid for the whole by then
     */
    public record Step(Fact refund, BigDecimal refunded, BigDecimal paid) {

        boolean reaches(BigDecimal share) {
            return paid.signum() > 0 && refunded.compareTo(share.multiply(paid)) >= 0;
        }
    }

    private final OrderLine line;
    private final int parts;
    private final MinorUnits units;
    private final List<Step> orderSteps;
    private final Map<Integer, Fact> instalments = new HashMap<>(0);
    private final List<Step> steps = new ArrayList<>(0);
    private BigDecimal paid;
    private BigDecimal refunded = BigDecimal.ZERO;
    private @Nullable Fact closedBy;

    /** @param orderSteps the same for the whole order, filled while its refunds are read */
    LineMoney(Order order, OrderLine line, @Nullable Product product, List<Step> orderSteps) {
        this.line = line;
        this.orderSteps = orderSteps;
        this.units = new MinorUnits(order.details().currency());
        this.parts = product != null && product.billing() instanceof Billing.Instalments it ? it.count() : 1;
        this.paid = paidAfter(1);
    }

    /** By when at least this share of what had been paid was given back; in (0, 1]. */
    public Optional<Fact> reached(BigDecimal share) {
        // a line that cost nothing goes with its order, unless a refund named it
        for (Step step : line.amount().signum() > 0 ? steps : orderSteps) {
            if (step.refund.equals(closedBy) || step.reaches(share)) {
                return Optional.of(step.refund);
            }
        }
        return Optional.empty();
    }

    /** The refunds of this line, in folding order. */
    public List<Step> steps() {
        return Collections.unmodifiableList(steps);
    }

    /** The payment of an instalment, from number 2 on. */
    public Optional<Fact> paymentOf(int number) {
        return Optional.ofNullable(instalments.get(number));
    }

    boolean hasInstalment(int number) {
        return number >= 2 && number <= parts;
    }

    /** @return by how much more had been paid after it */
    BigDecimal pay(Fact fact, int number) {
        if (!hasInstalment(number) || instalments.putIfAbsent(number, fact) != null) {
            return BigDecimal.ZERO;
        }
        var before = paid;
        paid = paidAfter(1 + instalments.size());
        return paid.subtract(before);
    }

    BigDecimal paid() {
        return paid;
    }

    BigDecimal left() {
        return paid.subtract(refunded);
    }

    void giveBack(Fact fact, BigDecimal amount) {
        refunded = refunded.add(amount);
        steps.add(new Step(fact, refunded, paid));
    }

    /** Where nothing was paid, being named by a refund ends a line. */
    void closeUnpaid(Fact fact) {
        if (paid.signum() == 0 && closedBy == null) {
            closedBy = fact;
        }
    }

    @Override
    public boolean equals(@Nullable Object other) {
        return other instanceof LineMoney it
                && line.equals(it.line)
                && steps.equals(it.steps)
                && orderSteps.equals(it.orderSteps)
                && instalments.equals(it.instalments);
    }

    @Override
    public int hashCode() {
        return line.hashCode();
    }

    /** What the first so many payments come to, the order's own being the first. */
    public BigDecimal paidAfter(int count) {
        if (parts == 1) {
            return line.amount();
        }
        return line.amount()
                .multiply(BigDecimal.valueOf(count))
                .divide(BigDecimal.valueOf(parts), units.digits(), RoundingMode.DOWN);
    }
}
