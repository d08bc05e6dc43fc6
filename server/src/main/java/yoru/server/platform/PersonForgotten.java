package yoru.server.platform;

import java.util.List;
import tools.jackson.databind.node.JsonNodeFactory;
import yoru.formats.Forgetting;

/**
 * Somebody is taken out of all that is kept; published in the transaction that does it. Whoever keeps something about people
 * forgets them, or calls them as they are called now.
 *
 * @param people the ids of all records of the one person
 */
public record PersonForgotten(List<Long> people, Forgetting forgetting) {
    public PersonForgotten {
        people = List.copyOf(people);
    }

    /** Under what they were known, for a database. */
    public String keysAsJson() {
        var keys = JsonNodeFactory.instance.arrayNode();
        forgetting.keys().forEach(keys::add);
        return keys.toString();
    }
}
