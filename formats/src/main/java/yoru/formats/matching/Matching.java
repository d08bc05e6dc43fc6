package yoru.formats.matching;

import java.time.DateTimeException;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;

/**
 * Which facts a report tells of, and where in it their fields are (docs/formats/matching.md).
 *
 * @param rules the first that fits counts
 * @param fields by the id of Yoru's field
 */
public record Matching(List<Rule> rules, Map<String, From> fields) {

    private static final String VERSION = "matching/1";
    private static final int MOST = 60;

    public Matching {
        rules = List.copyOf(rules);
        fields = Map.copyOf(fields);
    }

    /** @param when all must hold; none = always */
    record Rule(List<String> facts, List<Condition> when) {
        Rule {
            facts = List.copyOf(facts);
            when = List.copyOf(when);
        }
    }

    record Condition(String path, String equals) {}

    /**
     * Where a field comes from.
     *
     * @param path a JSONPath; none = the constant
     */
    record From(@Nullable String path, @Nullable String constant, List<Step> steps) {
        From {
            steps = List.copyOf(steps);
        }
    }

    /** The required fields that nothing is matched with, given the facts that the rules tell of. */
    public List<Field> missing() {
        var told = rules.stream().flatMap(rule -> rule.facts.stream()).toList();
        return Field.ALL.stream()
                .filter(Field::required)
                .filter(field -> field.facts().stream().anyMatch(told::contains))
                .filter(field -> !fields.containsKey(field.id()))
                .toList();
    }

    /**
     * Reads a matching as it is kept and exported.
     *
     * @throws UnreadableException with every fault found
     */
    public static Matching read(JsonNode document) {
        var reader = new Reader();
        var matching = reader.matching(document);
        if (!reader.faults.isEmpty()) {
            throw new UnreadableException(reader.faults);
        }
        return matching;
    }

    /** Reads the document and collects what is wrong with it. */
    private static final class Reader {

        private final List<Fault> faults = new ArrayList<>();

        Matching matching(JsonNode document) {
            allow(document, "", Set.of("yoru", "rules", "fields"));
            if (!document.path("yoru").asString("").equals(VERSION)) {
                fault("yoru", "must be \"" + VERSION + "\"");
            }
            var rules = new ArrayList<Rule>();
            array(document, "rules", "rules").forEach((place, node) -> rules.add(rule(node, place)));
            Map<String, From> fields = new LinkedHashMap<>();
            for (var entry : document.path("fields").properties()) {
                var place = "fields." + entry.getKey();
                if (Field.of(entry.getKey()).isEmpty()) {
                    fault(place, "is no field; there are " + Field.idsInWords());
                }
                fields.put(entry.getKey(), from(entry.getValue(), place));
            }
            return new Matching(rules, fields);
        }

        private Rule rule(JsonNode node, String place) {
            allow(node, place, Set.of("facts", "when"));
            var facts = new ArrayList<String>();
            array(node, "facts", place + ".facts").forEach((at, fact) -> {
                if (!Field.isFact(fact.asString(""))) {
                    fault(at, "is no fact that can be told; there are " + String.join(", ", Field.FACTS));
                }
                facts.add(fact.asString(""));
            });
            if (facts.isEmpty()) {
                fault(place + ".facts", "must name at least one fact");
            }
            var when = new ArrayList<Condition>();
            if (node.has("when")) {
                array(node, "when", place + ".when").forEach((at, condition) -> {
                    allow(condition, at, Set.of("path", "equals"));
                    when.add(new Condition(path(condition, at), text(condition, at, "equals")));
                });
            }
            return new Rule(facts, when);
        }

        private From from(JsonNode node, String place) {
            allow(node, place, Set.of("path", "constant", "steps"));
            if (node.has("path") == node.has("constant")) {
                fault(place, "needs either a path or a constant");
            }
            var steps = new ArrayList<Step>();
            if (node.has("steps")) {
                array(node, "steps", place + ".steps")
                        .forEach((at, step) -> step(step, at).ifPresent(steps::add));
            }
            return new From(
                    node.has("path") ? path(node, place) : null,
                    node.has("constant") ? text(node, place, "constant") : null,
                    steps);
        }

        private Optional<Step> step(JsonNode node, String place) {
            return switch (node.path("do").asString("")) {
                case "trim" -> Optional.of(new Step.Trim());
                case "lower" -> Optional.of(new Step.Lower());
                case "upper" -> Optional.of(new Step.Upper());
                case "first-word" -> Optional.of(new Step.Word(true));
                case "other-words" -> Optional.of(new Step.Word(false));
                case "prefix" -> Optional.of(new Step.Prefix(text(node, place, "text")));
                case "minor-units" -> Optional.of(new Step.MinorUnits());
                case "decimals" -> Optional.of(new Step.Decimals());
                case "date" -> date(node, place);
                case "lookup" -> Optional.of(lookup(node, place));
                default -> {
                    fault(
                            place + ".do",
                            "must be trim, lower, upper, first-word, other-words, prefix, minor-units, decimals, date or lookup");
                    yield Optional.empty();
                }
            };
        }

        private Optional<Step> date(JsonNode node, String place) {
            var format = text(node, place, "format");
            try {
                var zone = ZoneId.of(node.path("zone").asString("UTC"));
                if (!format.equals("seconds") && !format.equals("milliseconds")) {
                    var _ = DateTimeFormatter.ofPattern(format);
                }
                return Optional.of(new Step.Date(format, zone));
            } catch (DateTimeException | IllegalArgumentException e) {
                fault(place, "has a format or a zone that is none: " + e.getMessage());
                return Optional.empty();
            }
        }

        private Step lookup(JsonNode node, String place) {
            Map<String, String> table = new LinkedHashMap<>();
            for (var entry : node.path("table").properties()) {
                table.put(entry.getKey(), entry.getValue().asString(""));
            }
            if (table.isEmpty()) {
                fault(place + ".table", "must name at least one value");
            }
            return new Step.Lookup(
                    table,
                    node.path("otherwise").isString() ? node.path("otherwise").stringValue() : null);
        }

        private String path(JsonNode node, String place) {
            var path = text(node, place, "path");
            if (!path.isEmpty()) {
                Paths.fault(path).ifPresent(problem -> fault(place + ".path", problem));
            }
            return path;
        }

        private String text(JsonNode node, String place, String key) {
            if (!node.path(key).isString() || node.get(key).stringValue().isEmpty()) {
                fault(place + "." + key, "must be text");
                return "";
            }
            return node.get(key).stringValue();
        }

        /** The members with their places. */
        private Map<String, JsonNode> array(JsonNode node, String key, String place) {
            Map<String, JsonNode> members = new LinkedHashMap<>();
            if (!node.path(key).isArray() || node.get(key).size() > MOST) {
                fault(place, "must be a list of at most " + MOST);
                return members;
            }
            node.get(key).forEach(member -> members.put(place + "[" + members.size() + "]", member));
            return members;
        }

        private void allow(JsonNode node, String place, Set<String> keys) {
            if (!node.isObject()) {
                fault(place, "must be an object");
            }
            node.propertyNames().stream()
                    .filter(key -> !keys.contains(key))
                    .forEach(key -> fault(place.isEmpty() ? key : place + "." + key, "is not known here"));
        }

        private void fault(String place, String problem) {
            faults.add(new Fault(place, problem));
        }
    }
}
