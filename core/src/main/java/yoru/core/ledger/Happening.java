package yoru.core.ledger;

import java.math.BigDecimal;
import java.util.Currency;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** What a fact says. A new kind does not compile until every place that reads facts has decided about it. */
public sealed interface Happening {

    /** The order that this is about. */
    String order();

    /**
     * Somebody ordered.
     *
     * @param lines at least one, each with an id of its own
     */
    record OrderPlaced(String order, Channel channel, Currency currency, List<OrderLine> lines) implements Happening {
        public OrderPlaced {
            lines = List.copyOf(lines);
        }
    }

    record OrderPaid(String order) implements Happening {}

    record OrderFulfilled(String order) implements Happening {}

    record OrderCancelled(String order) implements Happening {}

    /** Money was given back: for one line or for the whole order, an amount or all that is left of it. */
    record OrderRefunded(
            String order,
            @Nullable String onlyLine,
            @Nullable BigDecimal onlyAmount) implements Happening {

        public Optional<String> line() {
            return Optional.ofNullable(onlyLine);
        }

        public Optional<BigDecimal> amount() {
            return Optional.ofNullable(onlyAmount);
        }
    }
}
