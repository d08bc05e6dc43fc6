package yoru.server.orders;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.ledger.Fact;
import yoru.core.ledger.OrderLine;
import yoru.core.orders.OrderAccount;

/** An order as the list has it; made anew from the facts whenever they change. */
final class OrderRow {

    private OrderRow() {}

    /** As {@link OrderTable#put} takes it. */
    static ObjectNode of(OrderAccount account, long personId, boolean toFulfil) {
        var order = account.order();
        var row = JsonNodeFactory.instance
                .objectNode()
                .put("id", order.id())
                .put("person_id", personId)
                .put("channel", order.details().channel().name())
                .put("currency", order.details().currency().getCurrencyCode())
                .put("placed_at", order.placed().time().toString())
                .put("opened_at", text(account.openedAt().orElse(null)))
                .put("cancelled_at", text(order.cancelled().map(Fact::time).orElse(null)))
                .put("overdue_at", text(account.overdueAt().orElse(null)))
                .put("pay_by", text(account.payBy().orElse(null)))
                .put("invoice", account.invoice().map(it -> it.number()).orElse(null))
                .put("total", order.total());
        var sold = row.putArray("products");
        order.details().lines().stream().map(OrderLine::product).distinct().forEach(sold::add);
        var left = row.putArray("to_do");
        toDo(account, toFulfil).forEach(toDo -> left.add(toDo.name()));
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
