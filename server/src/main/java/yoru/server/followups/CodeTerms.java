package yoru.server.followups;

import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a discount code is worth.
 *
 * @param percent a decimal; none = an amount
 * @param products for which it is good; none = for all
 * @param expires the last day on which it is good; none = it is good for ever
 * @param uses how often; none = any number of times
 */
record CodeTerms(
        @Nullable String percent,
        @Nullable String amount,
        String currency,
        @Nullable List<String> products,
        @Nullable LocalDate expires,
        @Nullable Integer uses) {}
