package yoru.server.rehearsals;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.rehearsal.Report;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Connectors;
import yoru.server.systems.Place;

/** Shows what came of a story, with what is sent to each system as it is sent; nothing is. */
@Service
public class AsSent {

    private final Connections connections;
    private final Connectors connectors;
    private final JsonMapper json;

    AsSent(Connections connections, Connectors connectors, JsonMapper json) {
        this.connections = connections;
        this.connectors = connectors;
        this.json = json;
    }

    /** A system that a story can be told to. */
    private record Told(Connection connection, Place place) {}

    @Transactional(readOnly = true)
    public RehearsalReport shown(Report report) {
        var cast = new Cast(report.script(), json);
        Map<String, Told> systems = new HashMap<>();
        connections.all().forEach(it -> systems.put(it.id(), new Told(it, connections.place(it))));
        Map<String, Integer> revisions = new HashMap<>();
        return RehearsalReport.of(report, (person, wish) -> {
            int revision = revisions.merge(
                    person + " " + wish.system() + " " + wish.matter().path(), 1, Integer::sum);
            return Optional.ofNullable(systems.get(wish.system()))
                    .map(told ->
                            connectors.of(told.connection).preview(told.place, cast.statement(person, wish, revision)));
        });
    }
}
