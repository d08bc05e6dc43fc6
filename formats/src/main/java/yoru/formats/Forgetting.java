package yoru.formats;

import java.nio.charset.StandardCharsets;
import java.util.Collection;
import java.util.Collections;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;
import tools.jackson.databind.node.StringNode;

/** Takes people out of what is kept: each of their keys becomes another name that says nothing, the same everywhere. */
public final class Forgetting {

    /** Without regard to case, as addresses are written. */
    private final Map<String, String> pseudonyms = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);

    /** The keys as they stand by themselves: not as a part of a longer one. */
    private final Pattern alone;

    private final Pattern anywhere;

    /** What they were called, where it is enough to be taken for nobody else. */
    private final Set<String> names;

    /** @param pseudonyms by key in its plain form */
    public Forgetting(Map<String, String> pseudonyms) {
        this(pseudonyms, Set.of());
    }

    /** @param names what they were called; one word alone is too little to take out of what others wrote */
    public Forgetting(Map<String, String> pseudonyms, Collection<String> names) {
        this.pseudonyms.putAll(pseudonyms);
        this.names = names.stream()
                .map(String::strip)
                .filter(name -> name.contains(" "))
                .collect(Collectors.toUnmodifiableSet());
        var keys = pseudonyms.keySet().stream().map(Pattern::quote).collect(Collectors.joining("|", "(?:", ")"));
        alone = Pattern.compile("(?<![\\w.+-])" + keys + "(?![\\w-]|\\.\\w)", Pattern.CASE_INSENSITIVE);
        anywhere = Pattern.compile(keys, Pattern.CASE_INSENSITIVE);
    }

    /** Under what they were known. */
    public Set<String> keys() {
        return Collections.unmodifiableSet(pseudonyms.keySet());
    }

    /** A text in which the keys are replaced, however they are written, but not where they are part of a longer one. */
    public String text(String text) {
        return replaced(alone, text);
    }

    /** What stands in what others wrote or were written: by their keys and by their names. */
    public Set<String> words() {
        return Stream.concat(pseudonyms.keySet().stream(), names.stream()).collect(Collectors.toUnmodifiableSet());
    }

    /** A text of somebody else's, without them: neither their keys nor their names. */
    public String words(String text) {
        var without = text(text);
        for (String name : names) {
            without = Pattern.compile("(?<![\\p{L}])" + Pattern.quote(name) + "(?![\\p{L}])", Pattern.CASE_INSENSITIVE)
                    .matcher(without)
                    .replaceAll("somebody");
        }
        return without;
    }

    private String replaced(Pattern pattern, String text) {
        return pattern.matcher(text)
                .replaceAll(found -> Matcher.quoteReplacement(pseudonyms.getOrDefault(found.group(), found.group())));
    }

    /**
     * An event without them. Of their own events only what a fact needs is left: neither names nor words that somebody wrote.
     */
    public JsonNode event(JsonNode event) {
        var subject = event.path("subject");
        return retold(subject.isString() && pseudonyms.containsKey(subject.stringValue()) ? bare(event) : event);
    }

    private JsonNode bare(JsonNode event) {
        var bare = FactReader.parse(FactWriter.write(FactReader.read(event)).getBytes(StandardCharsets.UTF_8));
        ((ObjectNode) bare).put("id", replaced(anywhere, event.path("id").asString()));
        if (bare.path("data") instanceof ObjectNode data && data.has("reason")) {
            data.put("reason", "erased");
        }
        return bare;
    }

    private JsonNode retold(JsonNode node) {
        return switch (node) {
            case StringNode said -> StringNode.valueOf(text(said.stringValue()));
            case ObjectNode object -> {
                var copy = JsonNodeFactory.instance.objectNode();
                object.forEachEntry((name, value) -> copy.set(name, retold(value)));
                yield copy;
            }
            case ArrayNode array -> {
                var copy = JsonNodeFactory.instance.arrayNode();
                array.forEach(value -> copy.add(retold(value)));
                yield copy;
            }
            default -> node;
        };
    }
}
