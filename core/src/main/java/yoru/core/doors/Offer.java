package yoru.core.doors;

import java.math.BigDecimal;
import java.util.Currency;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Words;

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

    /** "€180.00", "free". */
    public String priceInWords() {
        return price.signum() == 0 ? "free" : Words.money(price, currency);
    }
}
