package yoru.server.systems;

import java.util.Collection;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.springframework.stereotype.Component;
import yoru.core.systems.Ability;

/** The connectors that there are, one for each kind of system. */
@Component
public class Connectors {

    private final Map<SystemKind, Connector> byKind = new EnumMap<>(SystemKind.class);

    Connectors(List<Connector> connectors) {
        connectors.forEach(connector -> byKind.put(connector.kind(), connector));
    }

    public Connector of(SystemKind kind) {
        return Objects.requireNonNull(byKind.get(kind), () -> "no connector for " + kind);
    }

    public Connector of(Connection connection) {
        return of(connection.kind());
    }

    public Set<Ability> abilities(Connection connection) {
        return of(connection).abilities();
    }

    public Collection<Connector> all() {
        return byKind.values();
    }
}
