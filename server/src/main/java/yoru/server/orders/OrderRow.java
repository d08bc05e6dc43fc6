package yoru.server.orders;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import java.util.stream.Collectors;
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
    static ObjectNode of(OrderAccount account, long personId, Predicate<String> isThing) {
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
        var quantities = row.putArray("quantities");
        quantities(order.details().lines()).forEach((product, quantity) -> {
            sold.add(product);
            quantities.add(quantity);
        });
        var surplus = row.putArray("surplus");
        surplus(account, isThing).stream().map(OrderLine::product).distinct().forEach(surplus::add);
        var left = row.putArray("to_do");
        toDo(account, isThing).forEach(toDo -> left.add(toDo.name()));
        return row;
    }

    private static @Nullable String text(@Nullable Object value) {
        return value == null ? null : value.toString();
    }

    private static Map<String, Integer> quantities(List<OrderLine> lines) {
        return lines.stream()
                .collect(Collectors.toMap(OrderLine::product, OrderLine::quantity, Integer::sum, LinkedHashMap::new));
    }

    /** The lines of which more is paid for than opens. */
    static List<OrderLine> surplus(OrderAccount account, Predicate<String> isThing) {
        return account.order().details().lines().stream()
                .filter(line -> account.surplus(line, isThing) > 0)
                .toList();
    }

    static List<ToDo> toDo(OrderAccount account, Predicate<String> isThing) {
        var toDo = new ArrayList<ToDo>();
        if (account.sums().owed().signum() > 0) {
            toDo.add(ToDo.PAYMENT);
        }
        if (account.isToFulfil(isThing)) {
            toDo.add(ToDo.FULFIL);
        }
        if (account.unclaimed() > 0) {
            toDo.add(ToDo.CLAIM);
        }
        return toDo;
    }
}
