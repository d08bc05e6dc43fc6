package yoru.server.systems;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.rulebook.Target;
import yoru.core.systems.ConnectedSystem;
import yoru.core.systems.Landscape;

/** What is connected just now, for whatever decides by it. */
@Service
public class Landscapes {

    private final Connections connections;
    private final Connectors connectors;
    private final CatalogueItems items;
    private final AtomicReference<Read> lastRead = new AtomicReference<>(new Read(List.of(), Landscape.EMPTY));

    Landscapes(Connections connections, Connectors connectors, CatalogueItems items) {
        this.connections = connections;
        this.connectors = connectors;
        this.items = items;
    }

    /** What of a connection the landscape depends on; the time stands for its whole catalogue. */
    private record State(
            String id,
            String title,
            String address,
            boolean isOn,
            String settings,
            @Nullable Instant catalogueAt) {

        static State of(Connection it) {
            return new State(it.id(), it.title(), it.address(), it.isOn(), it.settings, it.catalogueAt);
        }
    }

    private record Read(List<State> states, Landscape landscape) {}

    /** Connections are asked for each time, for another server may have changed them; catalogues where one was read anew. */
    @Transactional(readOnly = true)
    public Landscape current() {
        var connected = connections.all();
        var states = connected.stream().map(State::of).toList();
        var known = lastRead.get();
        if (states.equals(known.states)) {
            return known.landscape;
        }
        var read = new Read(states, landscape(connected));
        lastRead.set(read);
        return read.landscape;
    }

    private Landscape landscape(List<Connection> connected) {
        Map<String, Map<Target, String>> lists = new HashMap<>();
        for (CatalogueItems.Page page : items.pages()) {
            new Listed.Thing(page.getKind(), page.getExternalId())
                    .asTarget()
                    .ifPresent(target -> lists.computeIfAbsent(page.getConnectionId(), id -> new HashMap<>())
                            .put(target, Objects.requireNonNullElse(page.getLink(), "")));
        }
        return new Landscape(connected.stream()
                .map(connection -> system(connection, lists.getOrDefault(connection.id(), Map.of())))
                .toList());
    }

    private ConnectedSystem system(Connection connection, Map<Target, String> lists) {
        return new ConnectedSystem(
                connection.id(),
                connection.title(),
                connection.isOn(),
                connectors.abilities(connection),
                lists,
                connections.frontPage(connection).orElse(null),
                Optional.ofNullable(connections.settings(connection).get(Connections.NEXT_END))
                        .filter(name -> !name.isBlank())
                        .orElse(null));
    }
}
