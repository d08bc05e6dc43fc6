package yoru.formats;

import com.networknt.schema.Error;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaLocation;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A published JSON Schema (2020-12), and what it has to say against a document, in words. */
final class DocumentSchema {

    private static final Published RULEBOOK_SCHEMA = Published.of("rulebook");

    /** A whole rulebook. */
    static final DocumentSchema RULEBOOK = new DocumentSchema(RULEBOOK_SCHEMA, "", "");

    /** The terms of a link alone. */
    static final DocumentSchema TERMS = new DocumentSchema(RULEBOOK_SCHEMA, "#/$defs/terms", "terms");

    /** A whole story. */
    static final DocumentSchema STORY = new DocumentSchema(Published.of("story"), "", "");

    /** What is connected. */
    static final DocumentSchema SYSTEMS = new DocumentSchema(Published.of("systems"), "", "");

    /** A thing of a list of a rulebook alone. */
    static DocumentSchema thing(String definition) {
        return new DocumentSchema(RULEBOOK_SCHEMA, "#/$defs/" + definition, "");
    }

    /** A schema as it is published. */
    private record Published(JsonNode node, String id, SchemaRegistry registry) {

        static Published of(String name) {
            var text = text(name);
            var node = JsonMapper.shared().readTree(text);
            var id = node.get("$id").stringValue();
            return new Published(
                    node,
                    id,
                    SchemaRegistry.withDefaultDialect(
                            SpecificationVersion.DRAFT_2020_12, registry -> registry.schemas(Map.of(id, text))));
        }

        private static String text(String name) {
            try (InputStream in = DocumentSchema.class.getResourceAsStream("/" + name + ".schema.json")) {
                return new String(Objects.requireNonNull(in).readAllBytes(), StandardCharsets.UTF_8);
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }

    private final JsonNode whole;
    private final Schema schema;
    private final String place;

    private DocumentSchema(Published published, String part, String place) {
        this.whole = published.node;
        this.schema = published.registry.getSchema(SchemaLocation.of(published.id + part));
        this.place = place;
    }

    /** Every fault once, in the order of the document. */
    List<Fault> faults(JsonNode document) {
        Set<Fault> faults = new LinkedHashSet<>();
        for (Error error : schema.validate(document)) {
            faults.add(fault(error, document));
        }
        return List.copyOf(faults);
    }

    private Fault fault(Error error, JsonNode document) {
        var pointer = error.getInstanceLocation().toString();
        var rule = error.getSchemaLocation().getFragment().toString();
        var choice = rule.indexOf("/oneOf");
        if (choice >= 0) {
            // what the branches say each for itself is one fault of the whole
            int deeper = rule.substring(choice).split("/properties/", -1).length - 1;
            for (int up = 0; up < deeper; up++) {
                pointer = pointer.substring(0, pointer.lastIndexOf('/'));
            }
            return new Fault(place(pointer), "must be " + described(rule.substring(0, choice)));
        }
        var at = place(pointer);
        var owner = rule.substring(0, rule.lastIndexOf('/'));
        var key = Objects.requireNonNullElse(error.getProperty(), "");
        return switch (Objects.requireNonNullElse(error.getKeyword(), "")) {
            case "required" -> new Fault(join(at, key), "is missing");
            case "dependentRequired" -> new Fault(join(at, missing(rule, document.at(pointer))), "is missing");
            case "additionalProperties" -> {
                var allowed = List.copyOf(whole.at(owner).path("properties").propertyNames());
                yield new Fault(
                        join(at, key),
                        "is not known here" + Nearest.to(key, allowed) + "; allowed: " + String.join(", ", allowed));
            }
            case "enum" -> {
                var allowed =
                        whole.at(rule).valueStream().map(JsonNode::asString).toList();
                var given = document.at(pointer).asString("");
                yield new Fault(at, "must be one of " + String.join(", ", allowed) + Nearest.to(given, allowed));
            }
            case "const" -> new Fault(at, "must be " + whole.at(rule).asString());
            default -> new Fault(at, "must be " + described(owner));
        };
    }

    /** What a part of the schema says that it wants; where it says nothing, its type. */
    private String described(String part) {
        var node = whole.at(part);
        if (node.has("description")) {
            return node.get("description").stringValue();
        }
        return switch (node.path("type").asString("")) {
            case "array" -> "a list";
            case "object" -> "an object";
            case "string" -> "text (in quotes where it looks like something else)";
            case "integer" -> "a whole number";
            case "number" -> "a number";
            case "boolean" -> "true or false";
            default -> "something else";
        };
    }

    /** The first key that another one which is there wants beside itself. */
    private String missing(String rule, JsonNode object) {
        return whole.at(rule).properties().stream()
                .filter(wants -> object.has(wants.getKey()))
                .flatMap(wants -> wants.getValue().valueStream())
                .map(JsonNode::stringValue)
                .filter(wanted -> !object.has(wanted))
                .findFirst()
                .orElse("");
    }

    /** {@code /links/3/to} as {@code links[3].to}. */
    private String place(String pointer) {
        var text = new StringBuilder(place);
        for (String step : pointer.split("/", -1)) {
            if (step.isEmpty()) {
                continue;
            }
            var name = step.replace("~1", "/").replace("~0", "~");
            if (name.chars().allMatch(Character::isDigit)) {
                text.append('[').append(name).append(']');
            } else {
                text.append(text.isEmpty() ? "" : ".").append(name);
            }
        }
        return text.toString();
    }

    private static String join(String at, String key) {
        return at.isEmpty() ? key : at + "." + key;
    }
}
