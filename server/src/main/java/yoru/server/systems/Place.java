package yoru.server.systems;

import java.util.List;
import java.util.Map;

/**
 * Where a system is and how one is let in there; what a connector works with.
 *
 * @param token empty = none is needed
 * @param secrets what is sent there is signed with; more than one while a new one takes over
 * @param settings what else was set for this connection
 */
public record Place(
        String id,
        String title,
        SystemKind kind,
        String address,
        String token,
        List<String> secrets,
        Map<String, String> settings) {

    public Place {
        secrets = List.copyOf(secrets);
        settings = Map.copyOf(settings);
    }

    /** The same system under another address. */
    public Place at(String other) {
        return new Place(id, title, kind, other, token, secrets, settings);
    }

    /** So that no log line ever shows a secret. */
    @Override
    public String toString() {
        return id;
    }
}
