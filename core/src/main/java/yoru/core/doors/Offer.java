package yoru.core.doors;

import java.math.BigDecimal;
import java.util.Currency;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Words;
import yoru.core.rulebook.Billing;

/**
 * Something that a shop sells just now.
 *
 * @param optionOrNone the option of it; none = without one
 * @param basket the address that puts it into the basket
 */
public record Offer(
        String product,
        @Nullable String optionOrNone,
        String title,
        BigDecimal price,
        Currency currency,
        String basket) {

    public Optional<String> option() {
        return Optional.ofNullable(optionOrNone);
    }

    /** "€180.00", "free", "€20.00 every 1 month". */
    String priceInWords(Billing billing) {
        if (price.signum() == 0) {
            return "free";
        }
        var amount = Words.money(price, currency);
        return billing instanceof Billing.Recurring it ? amount + " every " + Words.period(it.every()) : amount;
    }
}
