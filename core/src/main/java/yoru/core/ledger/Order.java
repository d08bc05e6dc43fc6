package yoru.core.ledger;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Happening.OrderPlaced;

/**
 * An order as its facts tell it. Of repeated facts about one moment the first in folding order counts.
 *
 * @param placed the fact that placed it; its subject is the person of the order
 * @param invoices invoices sent, in folding order; the last one holds
 * @param money refunds and paid instalments, in folding order
 * @param claims seats that were claimed, each by whom it was first
 */
public record Order(
        Fact placed,
        OrderPlaced details,
        String person,
        @Nullable Fact paidFact,
        @Nullable Fact fulfilledFact,
        @Nullable Fact cancelledFact,
        List<Fact> invoices,
        List<Fact> money,
        Map<Seat, Claim> claims) {

    /** One seat of a line; the first is number 1. */
    public record Seat(String line, int number) {}

    /** @param person whose claim it is, after merging */
    public record Claim(Fact fact, String person) {}

    public String id() {
        return details.order();
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

    /** Whether it was cancelled before the moment, not at it. */
    public boolean wasCancelledBefore(Instant moment) {
        return cancelledFact != null && cancelledFact.time().isBefore(moment);
    }

    public Optional<OrderLine> line(String id) {
        return details.lines().stream().filter(line -> line.line().equals(id)).findFirst();
    }

    /** The amounts of all lines together, those of unknown products too. */
    public BigDecimal total() {
        return details.total();
    }
}
