package yoru.server.setup;

import java.net.URI;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Connectors;
import yoru.server.systems.Place;
import yoru.server.systems.SystemKind;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/**
 * Where an interface is usually found on its host, where it was not under the address that was given. RFC 7644 (3.13) has
 * {@code /scim/v2} in its examples; the others are common practice, no source.
 */
@Component
class UsualPlaces {

    private static final List<String> OF_SCIM = List.of("/scim/v2", "/scim", "/api/scim/v2");
    /** What an address says that is on the right host and in the wrong place. */
    private static final Set<Trouble> ELSEWHERE =
            EnumSet.of(Trouble.UNREADABLE, Trouble.REFUSED, Trouble.SENT_ELSEWHERE);

    private final Connections connections;
    private final Connectors connectors;

    UsualPlaces(Connections connections, Connectors connectors) {
        this.connections = connections;
        this.connectors = connectors;
    }

    /**
     * @param tried addresses, in the order in which they were tried
     * @param found the one that answered as it should
     */
    record Looked(List<String> tried, Optional<String> found) {}

    Looked look(Connection connection, Trouble trouble) {
        var place = connections.place(connection);
        var tried = new ArrayList<String>();
        if (connection.kind() == SystemKind.COMMUNITY && ELSEWHERE.contains(trouble)) {
            var host = URI.create(place.address());
            for (String path : OF_SCIM) {
                var address = host.getScheme() + "://" + host.getRawAuthority() + path;
                if (!address.equals(place.address())) {
                    tried.add(address);
                    if (answers(connection, place.at(address))) {
                        return new Looked(tried, Optional.of(address));
                    }
                }
            }
        }
        return new Looked(tried, Optional.empty());
    }

    private boolean answers(Connection connection, Place place) {
        try {
            connectors.of(connection).sample(place);
            return true;
        } catch (TroubleException e) {
            return false;
        }
    }
}
