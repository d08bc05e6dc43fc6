package yoru.server.ledger;

import java.time.Instant;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import yoru.core.ledger.Fact;

/** Who is seen in facts: since when they are known, and how they are called. */
final class Seen {

    private final Map<String, As> people = new TreeMap<>();

    private record As(String name, Instant first) {

        As and(As later) {
            return new As(later.name.isEmpty() ? name : later.name, later.first.isBefore(first) ? later.first : first);
        }
    }

    Seen in(Fact fact, JsonNode event) {
        return as(fact.subject(), FactKeeper.nameIn(event), fact.time());
    }

    Seen as(String key, String name, Instant first) {
        people.merge(key, new As(name, first), As::and);
        return this;
    }

    Set<String> keys() {
        return people.keySet();
    }

    /** As {@link PersonTable#knowAll} takes them. */
    String json() {
        var rows = JsonNodeFactory.instance.arrayNode();
        people.forEach((key, it) ->
                rows.addObject().put("key", key).put("name", it.name).put("seen", it.first.toString()));
        return rows.toString();
    }
}
