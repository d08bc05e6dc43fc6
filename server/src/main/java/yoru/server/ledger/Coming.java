package yoru.server.ledger;

import java.util.Set;
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
    private final Seen seen = new Seen();

    void add(Origin origin, Fact fact, JsonNode event) {
        var thing = fact.happening().thing();
        things.add(thing.orElse(fact.subject()));
        seen.in(fact, event);
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

    /** Who is seen in them. */
    Seen seen() {
        return seen;
    }
}
