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
        List<Line> lines) {

    private static final DateTimeFormatter DAY =
            DateTimeFormatter.ofPattern("d MMM uuuu, HH:mm", Locale.ENGLISH).withZone(ZoneId.of("Europe/Dublin"));

    record Line(
            String line,
            String product,
            String title,
            int quantity,
            BigDecimal amount,
            boolean thing,
            boolean refunded) {

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
