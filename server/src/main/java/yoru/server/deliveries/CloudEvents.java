package yoru.server.deliveries;

import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;

/** What listeners are sent that is no fact: events as CloudEvents 1.0 has them. */
public final class CloudEvents {

    private CloudEvents() {}

    /**
     * An event in the order in which it is written.
     *
     * @param id the same at every try
     * @param person the key of whom it is about
     */
    public static Map<String, Object> of(
            String id, String type, String person, Instant time, Map<String, Object> data) {
        Map<String, Object> event = new LinkedHashMap<>();
        event.put("specversion", "1.0");
        event.put("id", id);
        event.put("source", "/yoru");
        event.put("type", type);
        event.put("subject", person);
        event.put("time", time.toString());
        event.put("datacontenttype", "application/json");
        event.put("data", data);
        return event;
    }
}
