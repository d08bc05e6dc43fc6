package yoru.server.ledger;

import java.time.Instant;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Mention;

/** Facts on their way into the table, many at once, and who is seen in them. */
final class Coming {

    private final ArrayNode rows = JsonNodeFactory.instance.arrayNode();
    private final Set<String> things = new TreeSet<>();
    private final Map<String, Seen> seen = new TreeMap<>();

    /** Since when somebody is known, and how they are called. */
    private record Seen(String name, Instant first) {

        Seen and(Seen other) {
            return new Seen(
                    other.name.isEmpty() ? name : other.name, other.first.isBefore(first) ? other.first : first);
        }
    }

    void add(Origin origin, Fact fact, JsonNode event) {
        var thing = fact.happening().thing();
        things.add(thing.orElse(fact.subject()));
        seen.merge(fact.subject(), new Seen(FactKeeper.nameIn(event), fact.time()), Seen::and);
        var row = rows.addObject()
                .put("source", fact.id().source())
                .put("eventId", fact.id().id())
                .put("type", event.get("type").stringValue())
                .put("subject", fact.subject())
                .put("thing", thing.orElse(null))
                .put("happenedAt", fact.time().toString())
                .put("origin", origin.sort().name())
                .put("connection", origin instanceof Origin.OfSystem it ? it.connection() : null);
        var mentions = row.putArray("mentions");
        Mention.in(fact.happening()).forEach(mention -> mentions.add(mention.key()));
        row.set("body", event);
    }

    /** As {@link FactTable#insertAll} takes them. */
    String rows() {
        return rows.toString();
    }

    Set<String> things() {
        return things;
    }

    Set<String> subjects() {
        return seen.keySet();
    }

    /** As {@link PersonTable#knowAll} takes them. */
    String people() {
        var people = JsonNodeFactory.instance.arrayNode();
        seen.forEach((key, it) ->
                people.addObject().put("key", key).put("name", it.name).put("seen", it.first.toString()));
        return people.toString();
    }
}
