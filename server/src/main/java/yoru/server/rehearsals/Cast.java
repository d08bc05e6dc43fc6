package yoru.server.rehearsals;

import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.rehearsal.Script;
import yoru.core.systems.Wish;
import yoru.server.systems.Statement;

/** The people of a story, as systems are told of them. */
final class Cast {

    private final Map<String, Script.Player> people = new HashMap<>();
    private final JsonMapper json;

    Cast(Script script, JsonMapper json) {
        script.people().forEach(it -> people.put(it.id(), it));
        this.json = json;
    }

    /** @param person the id; who is none of the people is called by it */
    String address(String person) {
        var player = people.get(person);
        return player == null ? person : player.address();
    }

    String name(String person) {
        var player = people.get(person);
        return player == null ? person : player.name();
    }

    boolean has(@Nullable String address) {
        return people.values().stream().anyMatch(it -> it.address().equals(address));
    }

    /** What a system is told of one of them; the revision makes its key. */
    Statement statement(String person, Wish wish, int revision) {
        return new Statement(
                address(person),
                name(person),
                wish.matter(),
                wish.isOpen(),
                wish.howLong().endOrNone(),
                wish.howLong().renews(),
                revision,
                "yoru-story-" + address(person) + "-" + revision,
                wish.said() == null ? null : json.readTree(wish.said()));
    }
}
