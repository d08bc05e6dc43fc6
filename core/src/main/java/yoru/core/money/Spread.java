package yoru.core.money;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;

/** Spreads an amount over parts in proportion to what is left of each. */
public final class Spread {

    private Spread() {}

    /**
     * Shares of {@code amount} for each part, rounded down to the currency's minor unit (ISO 4217); the last part with
     * something left takes the rest, at most what is left of it. More than is left in all counts as what is left.
     *
     * @param amount not negative
     * @param left what is left of each part, not negative
     * @return as many shares as there are parts
     */
    public static List<BigDecimal> over(List<BigDecimal> left, BigDecimal amount, Currency currency) {
        var total = left.stream().reduce(BigDecimal.ZERO, BigDecimal::add);
        var toSpread = amount.min(total);
        int last = lastWithSomethingLeft(left);
        int digits = new MinorUnits(currency).digits();
        var shares = new ArrayList<BigDecimal>(left.size());
        var given = BigDecimal.ZERO;
        for (int part = 0; part < left.size(); part++) {
            BigDecimal share;
            if (part == last) {
                share = toSpread.subtract(given).min(left.get(part));
            } else if (left.get(part).signum() == 0) {
                share = BigDecimal.ZERO;
            } else {
                share = toSpread.multiply(left.get(part)).divide(total, digits, RoundingMode.DOWN);
            }
            given = given.add(share);
            shares.add(share);
        }
        return List.copyOf(shares);
    }

    private static int lastWithSomethingLeft(List<BigDecimal> left) {
        int last = -1;
        for (int part = 0; part < left.size(); part++) {
            if (left.get(part).signum() > 0) {
                last = part;
            }
        }
        return last;
    }
}
