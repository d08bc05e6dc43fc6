package yoru.formats.matching;

import com.fasterxml.jackson.databind.JsonNode;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Currency;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import yoru.formats.FactReader;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;

/** Makes facts of one report. */
public final class Matcher {

    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final int MOST_LINES = 200;

    private final Matching matching;
    private final String source;

    /** @param source what the facts name as theirs */
    public Matcher(Matching matching, String source) {
        this.matching = matching;
        this.source = source;
    }

    /**
     * Reads a report.
     *
     * @param text JSON
     * @param id of the report, for the facts' ids where no field is matched with {@code id}
     * @param received when it came, for the facts' time where no field is matched with {@code time}
     */
    public Matched read(String text, String id, Instant received) {
        var document = Paths.document(text);
        return document.isEmpty()
                ? new Matched(List.of(), Map.of(), List.of(new Fault("", "is no JSON")), true)
                : new Reading(document.get(), id, received).matched();
    }

    /** One report being read. */
    private final class Reading {

        private final JsonNode document;
        private final String ownId;
        private final Instant received;
        private final Map<String, String> values = new LinkedHashMap<>();
        private final List<Fault> faults = new ArrayList<>();

        Reading(JsonNode document, String ownId, Instant received) {
            this.document = document;
            this.ownId = ownId;
            this.received = received;
        }

        Matched matched() {
            var rule = matching.rules().stream().filter(this::fits).findFirst();
            if (rule.isEmpty()) {
                return new Matched(List.of(), Map.of(), List.of(), false);
            }
            var events = new ArrayList<tools.jackson.databind.JsonNode>();
            for (String type : rule.get().facts()) {
                events.add(event(type));
            }
            if (faults.isEmpty()) {
                events.forEach(this::check);
            }
            return new Matched(faults.isEmpty() ? events : List.of(), values, faults, true);
        }

        private boolean fits(Matching.Rule rule) {
            return rule.when().stream()
                    .allMatch(condition -> Paths.select(document, condition.path()).stream()
                            .anyMatch(
                                    node -> node.isValueNode() && node.asText().equals(condition.equals())));
        }

        private ObjectNode event(String type) {
            var currency = currency(type);
            var data = JSON.createObjectNode();
            put(data, "name", value("name", type, null));
            put(data, "verifiedEmail", value("verifiedEmail", type, null));
            value("guest", type, null).ifPresent(text -> yesOrNo(data, "guest", text));
            put(data, "order", value("order", type, null));
            put(data, "subscription", value("subscription", type, null));
            put(data, "product", value("product", type, null));
            put(data, "paidThrough", time(value("paidThrough", type, null), "paidThrough"));
            put(data, "at", value("at", type, null));
            put(data, "level", value("level", type, null));
            put(data, "tag", value("tag", type, null));
            put(data, "list", value("list", type, null));
            put(data, "course", value("course", type, null));
            put(data, "line", value("refund.line", type, currency));
            put(data, "amount", value("refund.amount", type, currency));
            if (type.equals("order.placed")) {
                data.put("channel", "shop");
                if (currency != null) {
                    data.put("currency", currency.getCurrencyCode());
                }
                lines(data, currency);
            }
            var event = JSON.createObjectNode();
            event.put("specversion", "1.0");
            event.put("id", value("id", type, null).orElse(ownId) + ":" + type);
            event.put("source", source);
            event.put("type", "yoru." + type);
            put(event, "subject", value("person", type, null));
            event.put("time", time(value("time", type, null), "time").orElse(received.toString()));
            event.put("datacontenttype", "application/json");
            event.set("data", data);
            return event;
        }

        /** Where no currency is matched, amounts can still be in decimals. */
        private @Nullable Currency currency(String type) {
            var code = value("currency", type, null);
            if (code.isEmpty()) {
                return null;
            }
            try {
                return Currency.getInstance(code.get().strip().toUpperCase(Locale.ROOT));
            } catch (IllegalArgumentException e) {
                faults.add(new Fault("currency", "is “" + code.get() + "”, no currency of ISO 4217"));
                return null;
            }
        }

        private void lines(ObjectNode data, @Nullable Currency currency) {
            var from = matching.fields().get("lines");
            var elements =
                    from == null || from.path() == null ? List.<JsonNode>of() : Paths.select(document, from.path());
            if (elements.isEmpty() || elements.size() > MOST_LINES) {
                faults.add(new Fault(
                        "lines",
                        from == null
                                ? "nothing is matched with it"
                                : elements.isEmpty() ? "selects nothing" : "are more than " + MOST_LINES));
                return;
            }
            values.put("lines", String.valueOf(elements.size()));
            var lines = data.putArray("lines");
            for (int at = 0; at < elements.size(); at++) {
                var element = elements.get(at);
                var line = lines.addObject();
                line.put("line", String.valueOf(at + 1));
                put(line, "product", value("line.product", element, currency));
                put(line, "option", value("line.option", element, currency));
                put(line, "amount", value("line.amount", element, currency));
                put(line, "giftTo", value("line.giftTo", element, currency));
                value("line.quantity", element, currency).ifPresent(text -> quantity(line, text));
            }
        }

        private void yesOrNo(ObjectNode data, String field, String text) {
            switch (text.strip().toLowerCase(Locale.ROOT)) {
                case "true", "yes", "1" -> data.put(field, true);
                case "false", "no", "0" -> data.put(field, false);
                default ->
                    faults.add(
                            new Fault(field, "is “" + text + "”, neither yes nor no; a step can say which is which"));
            }
        }

        private void quantity(ObjectNode line, String text) {
            try {
                line.put("quantity", Integer.parseInt(text.strip()));
            } catch (NumberFormatException e) {
                faults.add(new Fault("line.quantity", "is “" + text + "”, no whole number"));
            }
        }

        private Optional<String> value(String id, String type, @Nullable Currency currency) {
            var field = Field.of(id).orElseThrow();
            return field.facts().contains(type) ? value(field, document, currency) : Optional.empty();
        }

        private Optional<String> value(String id, JsonNode within, @Nullable Currency currency) {
            return value(Field.of(id).orElseThrow(), within, currency);
        }

        private Optional<String> value(Field field, JsonNode within, @Nullable Currency currency) {
            var from = matching.fields().get(field.id());
            if (from == null) {
                if (field.required()) {
                    fault(field, "nothing is matched with it");
                }
                return Optional.empty();
            }
            var found = from.path() == null ? Optional.ofNullable(from.constant()) : selected(from.path(), within);
            if (found.isEmpty()) {
                if (field.required()) {
                    fault(field, "is not in this report");
                }
                return Optional.empty();
            }
            try {
                var value = found.get();
                for (Step step : from.steps()) {
                    value = step.apply(value, currency);
                }
                if (value.isBlank()) {
                    if (field.required()) {
                        fault(field, "is empty in this report");
                    }
                    return Optional.empty();
                }
                values.merge(field.id(), value, (one, other) -> field.isOfALine() ? one + "\n" + other : other);
                return Optional.of(value);
            } catch (Step.Unfit e) {
                fault(field, String.valueOf(e.getMessage()));
                return Optional.empty();
            }
        }

        private void fault(Field field, String problem) {
            if (faults.stream().noneMatch(known -> known.field().equals(field.id()))) {
                faults.add(new Fault(field.id(), problem));
            }
        }

        /** The first value that the path selects; objects, lists and null are none. */
        private static Optional<String> selected(String path, JsonNode within) {
            return Paths.select(within, path).stream()
                    .filter(node -> node.isValueNode() && !node.isNull())
                    .map(JsonNode::asText)
                    .findFirst();
        }

        /** RFC 3339, with whatever offset. */
        private Optional<String> time(Optional<String> value, String field) {
            if (value.isEmpty()) {
                return value;
            }
            try {
                return Optional.of(
                        OffsetDateTime.parse(value.get().strip()).toInstant().toString());
            } catch (DateTimeException e) {
                faults.add(new Fault(
                        field, "is “" + value.get() + "”, no time with an offset; a step can say how it is written"));
                return Optional.empty();
            }
        }

        /** A fact is read like any other from outside: whatever is wrong with it is said of the field it came from. */
        private void check(tools.jackson.databind.JsonNode event) {
            try {
                FactReader.readNew(event);
            } catch (UnreadableException e) {
                e.faults().forEach(fault -> faults.add(new Fault(ours(fault.field()), fault.problem())));
            }
        }

        private static String ours(String place) {
            var field = place.replaceFirst("^data\\.lines\\[\\d+]\\.", "line.").replaceFirst("^data\\.", "");
            return field.equals("subject") ? "person" : field;
        }

        private static void put(ObjectNode node, String key, Optional<String> value) {
            value.ifPresent(text -> node.put(key, text));
        }
    }
}
