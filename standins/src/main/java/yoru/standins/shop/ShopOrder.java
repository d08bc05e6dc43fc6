package yoru.standins.shop;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** An order with its lines. */
record ShopOrder(
        String id,
        String email,
        String name,
        boolean guest,
        Instant placedAt,
        @Nullable Instant paidAt,
        @Nullable Instant fulfilledAt,
        @Nullable Instant refundedAt,
        @Nullable Instant cancelledAt,
        BigDecimal givenBack,
        List<Line> lines) {

    private static final DateTimeFormatter DAY =
            DateTimeFormatter.ofPattern("d MMM uuuu, HH:mm", Locale.ENGLISH).withZone(ZoneId.of("Europe/Dublin"));

    /**
     * @param option the way in which it is sold; none = there is but one
     * @param giftTo whom it is for; none = the buyer
     */
    record Line(
            String line,
            String product,
            @Nullable String option,
            String title,
            int quantity,
            BigDecimal amount,
            boolean thing,
            @Nullable String giftTo,
            boolean refunded) {

        /** The same as another line of its order. */
        Line numbered(int number) {
            return new Line(String.valueOf(number), product, option, title, quantity, amount, thing, giftTo, refunded);
        }

        Line givenBack() {
            return new Line(line, product, option, title, quantity, amount, thing, giftTo, true);
        }

        /** What stands for it in a basket. */
        String key() {
            return option == null ? product : product + Till.OPTION + option;
        }

        String shownAmount() {
            return "€" + amount.toPlainString();
        }
    }

    BigDecimal total() {
        return lines.stream().map(Line::amount).reduce(BigDecimal.ZERO, BigDecimal::add);
    }

    String shownTotal() {
        return "€" + total().toPlainString();
    }

    String placed() {
        return DAY.format(placedAt);
    }

    String state() {
        if (refundedAt != null) {
            return "refunded";
        }
        if (cancelledAt != null) {
            return "cancelled";
        }
        if (total().signum() == 0) {
            return "free of charge";
        }
        return (paidAt == null ? "not paid" : "paid") + (fulfilledAt == null ? "" : ", fulfilled");
    }

    String shownGivenBack() {
        return "€" + givenBack.toPlainString();
    }

    boolean someGivenBack() {
        return givenBack.signum() > 0;
    }

    /** Whether what was bought is open by now, as far as the shop can tell. */
    boolean isSettled() {
        return (paidAt != null || total().signum() == 0) && refundedAt == null && cancelledAt == null;
    }

    boolean canBeRefunded() {
        return refundedAt == null && cancelledAt == null && (paidAt != null || total().signum() == 0);
    }

    boolean canBePaid() {
        return paidAt == null && cancelledAt == null && refundedAt == null && total().signum() > 0;
    }

    boolean canBeFulfilled() {
        return fulfilledAt == null && cancelledAt == null && refundedAt == null;
    }
}
