package yoru.core.letters;

import java.util.Collection;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Predicate;
import yoru.core.access.Engine;
import yoru.core.ledger.Order;
import yoru.core.orders.OrderAccount;

/** Decides which order's seats a letter says that its reader can give to others. */
public final class SeatsToGive {

    private final Engine engine;
    private final Function<String, Optional<Order>> orders;
    private final Predicate<String> areKnown;

    /** @param areKnown of an order: whether its buyer has the address already under which its seats are given */
    public SeatsToGive(Engine engine, Function<String, Optional<Order>> orders, Predicate<String> areKnown) {
        this.engine = engine;
        this.orders = orders;
        this.areKnown = areKnown;
    }

    /** So many seats of an order. */
    public record Offer(String order, int free) {}

    /** The first order of the news that has any; of others' orders nobody learns anything. */
    public Optional<Offer> in(Collection<News> news, String reader) {
        return news.stream()
                .flatMap(it -> Optional.ofNullable(it.orderOrNone()).stream())
                .distinct()
                .filter(order -> !areKnown.test(order))
                .flatMap(order -> orders.apply(order).stream())
                .filter(order -> order.person().equals(reader))
                .map(order -> new Offer(order.id(), new OrderAccount(order, engine).givable()))
                .filter(offer -> offer.free > 0)
                .findFirst();
    }
}
