package yoru.standins.shop;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What a code takes off.
 *
 * @param percent none = an amount
 * @param products for which it is good; empty = for all
 */
record Discount(@Nullable Integer percent, @Nullable BigDecimal amount, Set<String> products) {

    static Optional<Discount> ofPercent(int percent) {
        return Optional.of(new Discount(percent, null, Set.of()));
    }

    /** As the basket says it. */
    String shown() {
        return percent != null ? percent + " % off" : amount + " EUR off";
    }

    /** What goes off a line, of which so much of an amount is left. */
    BigDecimal off(String product, BigDecimal full, BigDecimal left) {
        if (!products.isEmpty() && !products.contains(product)) {
            return BigDecimal.ZERO;
        }
        return percent == null
                ? left.min(full)
                : full.subtract(full.multiply(BigDecimal.valueOf(100L - percent))
                        .divide(BigDecimal.valueOf(100), 2, RoundingMode.HALF_UP));
    }
}
