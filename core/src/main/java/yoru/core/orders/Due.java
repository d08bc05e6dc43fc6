package yoru.core.orders;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Fact;

/**
 * One payment of a line that is paid in parts, from number 2 on.
 *
 * @param at when it is due
 * @param latest when what it is for is suspended if it is still missing
 */
public record Due(
        String line,
        int number,
        BigDecimal amount,
        Instant at,
        Instant latest,
        @Nullable Fact paidFact) {

    public Optional<Fact> paid() {
        return Optional.ofNullable(paidFact);
    }
}
