package yoru.formats;

import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * Takes people out of what is kept: each of their addresses becomes another name that says nothing, the same everywhere.
 *
 * @param pseudonyms by address in its plain form
 */
public record Forgetting(Map<String, String> pseudonyms) {
    public Forgetting {
        pseudonyms = Map.copyOf(pseudonyms);
    }

    /** The addresses as a JSON array, for a database. */
    public String addresses() {
        var array = JsonNodeFactory.instance.arrayNode();
        pseudonyms.keySet().forEach(array::add);
        return array.toString();
    }

    /** A text in which the addresses are replaced, however they are written, but not where they are part of a longer one. */
    public String text(String text) {
        return replaced(text, "(?<![\\w.+-])", "(?![\\w-]|\\.\\w)");
    }

    private String replaced(String text, String before, String after) {
        var addresses = pseudonyms.keySet().stream()
                .map(Pattern::quote)
                .collect(Collectors.joining("|", before + "(?:", ")" + after));
        return Pattern.compile(addresses, Pattern.CASE_INSENSITIVE)
                .matcher(text)
                .replaceAll(found -> pseudonyms.getOrDefault(found.group().toLowerCase(Locale.ROOT), found.group()));
    }

    /**
     * An event without them. Of their own events only what a fact needs is left: neither names nor words that somebody wrote.
     */
    public JsonNode event(JsonNode event) {
        var subject = event.path("subject");
        return replaced(
                subject.isString() && pseudonyms.containsKey(subject.stringValue()) ? bare(event) : event.deepCopy());
    }

    private JsonNode bare(JsonNode event) {
        var bare = FactReader.parse(FactWriter.write(FactReader.read(event)).getBytes(StandardCharsets.UTF_8));
        ((ObjectNode) bare).put("id", replaced(event.path("id").asString(), "", ""));
        if (bare.path("data") instanceof ObjectNode data && data.has("reason")) {
            data.put("reason", "erased");
        }
        return bare;
    }

    private JsonNode replaced(JsonNode node) {
        switch (node) {
            case ObjectNode object ->
                object.forEachEntry((name, value) -> {
                    if (value.isString()) {
                        object.put(name, text(value.stringValue()));
                    } else {
                        replaced(value);
                    }
                });
            case ArrayNode array -> {
                for (int at = 0; at < array.size(); at++) {
                    var value = array.get(at);
                    if (value.isString()) {
                        array.set(at, text(value.stringValue()));
                    } else {
                        replaced(value);
                    }
                }
            }
            default -> {}
        }
        return node;
    }
}
