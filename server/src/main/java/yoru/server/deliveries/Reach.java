package yoru.server.deliveries;

import java.util.List;
import org.springframework.stereotype.Component;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Connectors;
import yoru.server.systems.Listed.Thing;

/** Which systems are told about what: those that can, and of them those that list the thing, if any does. */
@Component
class Reach {

    private final Connections connections;
    private final Connectors connectors;
    private final Catalogue catalogue;

    Reach(Connections connections, Connectors connectors, Catalogue catalogue) {
        this.connections = connections;
        this.connectors = connectors;
        this.catalogue = catalogue;
    }

    List<Connection> of(Target target) {
        var able = Ability.neededFor(target).map(this::able).orElse(List.of());
        if (able.size() < 2) {
            return able;
        }
        // a tag is made where it is first put on, so that no list tells who can have it
        var listing = target instanceof Target.OfTag
                ? List.<String>of()
                : Thing.of(target).map(catalogue::listing).orElse(List.of());
        // a system that lists nothing, as a folder, has whatever it is told
        return able.stream()
                .filter(connection ->
                        listing.isEmpty() || listing.contains(connection.id()) || !can(connection, Ability.CATALOGUE))
                .toList();
    }

    /** Whether a system would be told about it if only it were on. */
    boolean isOnlyListedWhereOff(Target target) {
        return of(target).isEmpty()
                && Thing.of(target).map(catalogue::listing).orElse(List.of()).stream()
                        .flatMap(id -> connections.find(id).stream())
                        .anyMatch(connection -> !connection.isOn());
    }

    List<Connection> able(Ability ability) {
        return connections.all().stream()
                .filter(connection -> connection.isOn() && can(connection, ability))
                .toList();
    }

    boolean can(Connection connection, Ability ability) {
        return connectors.abilities(connection).contains(ability);
    }
}
