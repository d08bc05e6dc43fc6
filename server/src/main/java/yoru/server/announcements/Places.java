package yoru.server.announcements;

import java.util.Optional;
import org.springframework.stereotype.Component;
import yoru.core.letters.OpeningLetter.Where;
import yoru.core.rulebook.Target;
import yoru.server.deliveries.Deliveries;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Listed.Thing;

/** Where people find what has opened for them: the page that the system names, else the system's own front page. */
@Component
class Places {

    private final Catalogue catalogue;
    private final Connections connections;
    private final Deliveries deliveries;

    Places(Catalogue catalogue, Connections connections, Deliveries deliveries) {
        this.catalogue = catalogue;
        this.connections = connections;
        this.deliveries = deliveries;
    }

    Optional<Where> of(Target target) {
        return deliveries.reachedBy(target).stream()
                .flatMap(id -> connections.find(id).stream())
                .flatMap(connection -> where(connection, target).stream())
                .findFirst();
    }

    private Optional<Where> where(Connection connection, Target target) {
        return Thing.of(target).stream()
                .flatMap(thing -> catalogue.listings(thing).stream())
                .filter(listing -> listing.connection().equals(connection.id()))
                .flatMap(listing -> Optional.ofNullable(listing.link()).stream())
                .findFirst()
                .or(() -> connections.frontPage(connection))
                .map(address -> new Where(connection.title(), address));
    }
}
