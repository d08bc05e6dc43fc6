package yoru.core.ledger;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * One line of an order.
 *
 * @param amount of the whole line, in the order's currency, not negative
 * @param giftAddress the e-mail address of the person the line is a gift for
 * @param giftOn from which day on the receiver is to know of it, as the school counts days; none = at once
 * @param listPrice what the whole line would have cost without anything taken off, where that is known
 */
public record OrderLine(
        String line,
        String product,
        @Nullable String chosenOption,
        int quantity,
        BigDecimal amount,
        @Nullable String giftAddress,
        @Nullable LocalDate giftOn,
        @Nullable BigDecimal listPrice) {

    /** No school sells more of one thing at once: what says more is a mistake, or meant to do harm. */
    public static final int MOST_OF_ONE = 10_000;

    public OrderLine(
            String line,
            String product,
            @Nullable String chosenOption,
            int quantity,
            BigDecimal amount,
            @Nullable String giftAddress) {
        this(line, product, chosenOption, quantity, amount, giftAddress, null, null);
    }

    public OrderLine {
        if (amount.signum() < 0) {
            throw new IllegalArgumentException("the amount of line " + line + " is negative");
        }
        if (quantity < 1) {
            throw new IllegalArgumentException("the quantity of line " + line + " is below one");
        }
    }

    public Optional<String> option() {
        return Optional.ofNullable(chosenOption);
    }

    public Optional<String> giftTo() {
        return Optional.ofNullable(giftAddress);
    }
}
