package yoru.standins.shop;

import io.cloudevents.CloudEvent;
import io.cloudevents.core.builder.CloudEventBuilder;
import io.cloudevents.jackson.JsonFormat;
import java.math.BigDecimal;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.UUID;
import tools.jackson.databind.json.JsonMapper;
import yoru.standins.practice.Outbox;

/** Says what happened in the shop, as CloudEvents 1.0. */
final class Events {

    private static final URI SOURCE = URI.create("https://shop.hollowoak.example");
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private Events() {}

    static CloudEvent placed(ShopOrder order) {
        var lines = order.lines().stream().map(Events::line).toList();
        Map<String, Object> data = new LinkedHashMap<>();
        data.put("order", order.id());
        data.put("channel", "shop");
        data.put("currency", "EUR");
        data.put("name", order.name());
        data.put("guest", order.guest());
        data.put("lines", lines);
        return event("placed", order, order.placedAt(), data);
    }

    private static Map<String, Object> line(ShopOrder.Line line) {
        Map<String, Object> data = new LinkedHashMap<>();
        data.put("line", line.line());
        data.put("product", line.product());
        if (line.option() != null) {
            data.put("option", line.option());
        }
        data.put("quantity", line.quantity());
        data.put("amount", line.amount().toPlainString());
        if (line.giftTo() != null) {
            data.put("giftTo", line.giftTo());
        }
        return data;
    }

    static CloudEvent paid(ShopOrder order, Instant at) {
        return event("paid", order, at, Map.of("order", order.id()));
    }

    static CloudEvent fulfilled(ShopOrder order, Instant at) {
        return event("fulfilled", order, at, Map.of("order", order.id()));
    }

    static CloudEvent cancelled(ShopOrder order, Instant at) {
        return event("cancelled", order, at, Map.of("order", order.id()));
    }

    static CloudEvent refunded(ShopOrder order, Instant at) {
        return event("refunded", order, at, Map.of("order", order.id()));
    }

    static CloudEvent refunded(ShopOrder order, String line, Instant at) {
        return event("refunded", order, at, Map.of("order", order.id(), "line", line));
    }

    static CloudEvent refunded(ShopOrder order, BigDecimal amount, Instant at) {
        return event("refunded", order, at, Map.of("order", order.id(), "amount", amount.toPlainString()));
    }

    /** A gift or a place that was taken up. */
    static CloudEvent claimed(ShopOrder order, String line, int seat, String by, Instant at) {
        return event("yoru.gift.claimed", by, at, Map.of("order", order.id(), "line", line, "seat", seat));
    }

    /** What a member does with a course: {@code chosen}, {@code released} or {@code completed}. */
    static CloudEvent course(String what, String email, String course, Instant at) {
        return event("yoru.course." + what, email, at, Map.of("course", course));
    }

    /** An account was made, by somebody whose address was verified as another one than they bought under. */
    static CloudEvent accountMade(String email, String verified, Instant at) {
        return event("yoru.account.made", email, at, Map.of("system", "practice-shop", "verifiedEmail", verified));
    }

    static CloudEvent subscription(String what, Plans.Subscription subscription, Instant at, Map<String, ?> more) {
        Map<String, Object> data = new LinkedHashMap<>();
        data.put("subscription", subscription.id());
        data.putAll(more);
        return event("yoru.subscription." + what, subscription.email(), at, data);
    }

    static CloudEvent instalment(String what, ShopOrder order, String line, int number, Instant at) {
        return event(
                "yoru.instalment." + what,
                order.email(),
                at,
                Map.of("order", order.id(), "line", line, "number", number));
    }

    /** Puts an event among those to be sent. */
    static void report(CloudEvent event, Outbox outbox) {
        outbox.add(event.getId(), json(event));
    }

    /** In JSON structured mode. */
    private static String json(CloudEvent event) {
        return new String(new JsonFormat().serialize(event), StandardCharsets.UTF_8);
    }

    private static CloudEvent event(String what, ShopOrder order, Instant at, Map<String, ?> data) {
        return event("yoru.order." + what, order.email(), at, data);
    }

    private static CloudEvent event(String type, String email, Instant at, Map<String, ?> data) {
        return CloudEventBuilder.v1()
                .withId(UUID.randomUUID().toString())
                .withSource(SOURCE)
                .withType(type)
                .withSubject(email)
                .withTime(at.atOffset(ZoneOffset.UTC))
                .withData("application/json", JSON.writeValueAsBytes(data))
                .build();
    }
}
