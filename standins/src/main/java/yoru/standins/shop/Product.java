package yoru.standins.shop;

import java.math.BigDecimal;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * @param thing whether it is posted
 * @param every it is paid again and again, after an ISO 8601 period; none = it is not
 * @param parts in how many parts it is paid, one a month; none = at once
 * @param trial how long it is free of charge first, an ISO 8601 period
 * @param cycles after how many payments no more are asked for; none = never
 * @param seats whether several of it are places for several people
 * @param options ways in which it is sold; none = only one
 */
record Product(
        String id,
        String title,
        String category,
        BigDecimal price,
        boolean thing,
        String about,
        @Nullable String every,
        @Nullable Integer parts,
        @Nullable String trial,
        @Nullable Integer cycles,
        boolean seats,
        List<Option> options) {

    /** A way in which a product is sold. */
    record Option(String id, String product, String title, BigDecimal price) {

        /** What stands for it in a basket. */
        String key() {
            return product + Till.OPTION + id;
        }

        String shownPrice() {
            return "€" + price.toPlainString();
        }
    }

    boolean hasOptions() {
        return !options.isEmpty();
    }

    /** What its first payment comes to. */
    BigDecimal firstAmount() {
        return trial == null ? price : BigDecimal.ZERO.setScale(2);
    }

    String shownPrice() {
        var amount = "€" + price.toPlainString();
        if (every != null) {
            return amount
                    + (every.equals("P1Y") ? " a year" : " a month")
                    + (trial == null ? "" : ", first free")
                    + (cycles == null ? "" : ", " + cycles + " times");
        }
        return price.signum() == 0 ? "free" : parts == null ? amount : amount + " in " + parts + " parts";
    }
}
