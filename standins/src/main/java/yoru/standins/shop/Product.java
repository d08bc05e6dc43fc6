package yoru.standins.shop;

import java.math.BigDecimal;
import org.jspecify.annotations.Nullable;

/**
 * @param thing whether it is posted
 * @param every it is paid again and again, after an ISO 8601 period; none = it is not
 * @param parts in how many parts it is paid, one a month; none = at once
 */
record Product(
        String id,
        String title,
        String category,
        BigDecimal price,
        boolean thing,
        String about,
        @Nullable String every,
        @Nullable Integer parts) {

    String shownPrice() {
        var amount = "€" + price.toPlainString();
        if (every != null) {
            return amount + " a month";
        }
        return price.signum() == 0 ? "free" : parts == null ? amount : amount + " in " + parts + " parts";
    }
}
