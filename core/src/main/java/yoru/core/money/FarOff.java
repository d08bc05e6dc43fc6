package yoru.core.money;

import java.math.BigDecimal;

/** Whether a price may have been typed in another unit, or with a figure too many. */
public final class FarOff {

    private FarOff() {}

    /** Whether one is at least so many times the other, either way round; what is free is not compared. */
    public static boolean isFarOff(BigDecimal price, BigDecimal usual, BigDecimal times) {
        return price.signum() > 0
                && usual.signum() > 0
                && (price.compareTo(usual.multiply(times)) >= 0 || usual.compareTo(price.multiply(times)) >= 0);
    }
}
