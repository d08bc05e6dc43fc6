package yoru.server.orders;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.orders.OrderAccount;

/** An order as the list has it; made anew from the facts whenever they change. */
@Entity
@Table(name = "order_row")
class OrderRow {

    @Id
    String id;

    long personId;
    String channel;
    String currency;
    Instant placedAt;

    @Nullable
    Instant openedAt;

    @Nullable
    Instant cancelledAt;

    @Nullable
    Instant overdueAt;

    @Nullable
    LocalDate payBy;

    @Nullable
    String invoice;

    BigDecimal total;

    @JdbcTypeCode(SqlTypes.ARRAY)
    String[] products;

    @JdbcTypeCode(SqlTypes.ARRAY)
    String[] toDo;

    @SuppressWarnings("NullAway.Init")
    protected OrderRow() {}

    OrderRow(OrderAccount account, long personId, boolean toFulfil) {
        Order order = account.order();
        this.id = order.id();
        this.personId = personId;
        this.channel = order.details().channel().name();
        this.currency = order.details().currency().getCurrencyCode();
        this.placedAt = order.placed().time();
        this.openedAt = account.openedAt().orElse(null);
        this.cancelledAt = order.cancelled().map(fact -> fact.time()).orElse(null);
        this.overdueAt = account.overdueAt().orElse(null);
        this.payBy = account.payBy().orElse(null);
        this.invoice = account.invoice().map(it -> it.number()).orElse(null);
        this.total = order.total();
        this.products = order.details().lines().stream()
                .map(OrderLine::product)
                .distinct()
                .toArray(String[]::new);
        this.toDo = toDo(account, toFulfil).stream().map(Enum::name).toArray(String[]::new);
    }

    /** As {@link OrderTable#put} takes it. */
    ObjectNode json() {
        var row = JsonNodeFactory.instance
                .objectNode()
                .put("id", id)
                .put("person_id", personId)
                .put("channel", channel)
                .put("currency", currency)
                .put("placed_at", placedAt.toString())
                .put("opened_at", text(openedAt))
                .put("cancelled_at", text(cancelledAt))
                .put("overdue_at", text(overdueAt))
                .put("pay_by", text(payBy))
                .put("invoice", invoice)
                .put("total", total);
        var sold = row.putArray("products");
        Arrays.stream(products).forEach(sold::add);
        var left = row.putArray("to_do");
        Arrays.stream(toDo).forEach(left::add);
        return row;
    }

    private static @Nullable String text(@Nullable Object value) {
        return value == null ? null : value.toString();
    }

    static List<ToDo> toDo(OrderAccount account, boolean toFulfil) {
        var toDo = new ArrayList<ToDo>();
        if (account.sums().owed().signum() > 0) {
            toDo.add(ToDo.PAYMENT);
        }
        if (toFulfil) {
            toDo.add(ToDo.FULFIL);
        }
        if (account.unclaimed() > 0) {
            toDo.add(ToDo.CLAIM);
        }
        return toDo;
    }
}
