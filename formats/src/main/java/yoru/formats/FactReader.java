package yoru.formats;

import java.util.ArrayList;
import java.util.Currency;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Happening.OrderCancelled;
import yoru.core.ledger.Happening.OrderFulfilled;
import yoru.core.ledger.Happening.OrderPaid;
import yoru.core.ledger.Happening.OrderPlaced;
import yoru.core.ledger.Happening.OrderRefunded;
import yoru.core.ledger.OrderLine;

/**
 * Reads facts from CloudEvents 1.0 in JSON structured mode (CloudEvents specification 1.0.2 and its JSON event format).
 *
 * <p>Keys that are not known in {@code data} are let through and kept with the stored event: a shop may say more than
 * Yoru uses.
 */
public final class FactReader {

    private static final JsonMapper JSON = JsonMapper.builder().build();

    /** @throws UnreadableException when the bytes are no JSON */
    public static JsonNode parse(byte[] body) {
        try {
            JsonNode node = JSON.readTree(body);
            if (node.isMissingNode()) {
                throw new UnreadableException(List.of(new Fault("", "the body is empty")));
            }
            return node;
        } catch (JacksonException e) {
            throw new UnreadableException(List.of(new Fault("", "the body is not JSON: " + e.getOriginalMessage())));
        }
    }

    /** @throws UnreadableException naming every field at fault */
    public static Fact read(byte[] body) {
        return read(parse(body));
    }

    /** @throws UnreadableException naming every field at fault */
    public static Fact read(JsonNode event) {
        var faults = new ArrayList<Fault>();
        var envelope = new Fields(event, "", faults);
        if (!faults.isEmpty()) {
            throw new UnreadableException(List.of(new Fault("", "the body is not a CloudEvent: it must be an object")));
        }
        var version = envelope.text("specversion");
        if (!version.isEmpty() && !version.equals("1.0")) {
            envelope.fault("specversion", "must be \"1.0\"");
        }
        var id = new FactId(envelope.text("source"), envelope.text("id"));
        var type = envelope.text("type");
        var subject = envelope.text("subject");
        var time = envelope.instant("time");
        var happening = happening(type, envelope);
        if (!faults.isEmpty() || happening == null) {
            throw new UnreadableException(faults);
        }
        return new Fact(id, subject, time, happening);
    }

    private static @Nullable Happening happening(String type, Fields envelope) {
        if (type.isEmpty()) {
            return null;
        }
        return switch (type) {
            case "yoru.order.placed" -> placed(envelope.object("data"));
            case "yoru.order.paid" -> new OrderPaid(envelope.object("data").text("order"));
            case "yoru.order.fulfilled" ->
                new OrderFulfilled(envelope.object("data").text("order"));
            case "yoru.order.cancelled" ->
                new OrderCancelled(envelope.object("data").text("order"));
            case "yoru.order.refunded" -> refunded(envelope.object("data"));
            default -> {
                envelope.fault(
                        "type",
                        "%s is not known; known: yoru.order.placed, .paid, .fulfilled, .cancelled, .refunded"
                                .formatted(type));
                yield null;
            }
        };
    }

    private static OrderRefunded refunded(Fields data) {
        return new OrderRefunded(data.text("order"), data.optionalText("line"), data.optionalAmount("amount"));
    }

    private static OrderPlaced placed(Fields data) {
        var order = data.text("order");
        var channel = data.oneOf("channel", Channel.class, null);
        var currency = currency(data, "currency");
        var lines = data.objects("lines", FactReader::line);
        if (lines.isEmpty()) {
            data.fault("lines", "must have at least one line");
        }
        Set<String> ids = new HashSet<>();
        for (int at = 0; at < lines.size(); at++) {
            if (!ids.add(lines.get(at).line())) {
                data.fault("lines[" + at + "].line", "stands twice in the order");
            }
        }
        return new OrderPlaced(order, channel, currency, lines);
    }

    private static OrderLine line(Fields line) {
        return new OrderLine(
                line.text("line"),
                line.text("product"),
                line.optionalText("option"),
                line.wholeNumber("quantity", 1),
                line.amount("amount"),
                line.optionalText("giftTo"));
    }

    static Currency currency(Fields fields, String key) {
        var code = fields.text(key);
        try {
            if (!code.isEmpty()) {
                return Currency.getInstance(code);
            }
        } catch (IllegalArgumentException e) {
            fields.fault(key, "must be an ISO 4217 code such as EUR");
        }
        return Currency.getInstance("XXX");
    }

    private FactReader() {}
}
