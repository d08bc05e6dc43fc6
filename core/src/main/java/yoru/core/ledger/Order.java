package yoru.core.ledger;

import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * An order as its facts tell it. Of repeated facts about one moment the first in folding order counts.
 *
 * @param placed the fact that placed it; its subject is the person of the order
 * @param refunds each refund with the share of every line that it brought the refunds to, in folding order
 */
public record Order(
        Fact placed,
        Happening.OrderPlaced details,
        @Nullable Fact paidFact,
        @Nullable Fact fulfilledFact,
        @Nullable Fact cancelledFact,
        List<Refund> refunds) {

    public Order {
        refunds = List.copyOf(refunds);
    }

    public String id() {
        return details.order();
    }

    public String person() {
        return placed.subject();
    }

    public Optional<Fact> paid() {
        return Optional.ofNullable(paidFact);
    }

    public Optional<Fact> fulfilled() {
        return Optional.ofNullable(fulfilledFact);
    }

    public Optional<Fact> cancelled() {
        return Optional.ofNullable(cancelledFact);
    }

    /** The amounts of all lines together, those of unknown products too. */
    public BigDecimal total() {
        return details.lines().stream().map(OrderLine::amount).reduce(BigDecimal.ZERO, BigDecimal::add);
    }
}
