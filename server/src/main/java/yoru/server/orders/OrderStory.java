package yoru.server.orders;

import java.time.Instant;
import java.util.List;

/** What others know of an order that is no fact; it stands in what happened. */
public interface OrderStory {

    /** Something that happened about an order. */
    record OrderEvent(Instant at, String title, String text) {}

    List<OrderEvent> about(String order);
}
