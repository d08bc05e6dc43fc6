package yoru.server.intake;

import java.util.List;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.intake.Received.Outcome;
import yoru.server.systems.Connections;

/** Reports that say something nobody could take up: a sale may be among them. */
@Service
public class Untaken {

    private final ReceivedTable table;
    private final Connections connections;

    Untaken(ReceivedTable table, Connections connections) {
        this.table = table;
        this.connections = connections;
    }

    /** @param said why the latest could not be taken up */
    public record Reports(String connection, String system, long many, String said) {}

    @Transactional(readOnly = true)
    public List<Reports> all() {
        return connections.all().stream()
                .flatMap(connection ->
                        table
                                .findByConnectionIdAndOutcomeOrderByIdDesc(connection.id(), Outcome.FAULTY, Limit.of(1))
                                .stream()
                                .map(latest -> new Reports(
                                        connection.id(),
                                        connection.title(),
                                        table.countByConnectionIdAndOutcome(connection.id(), Outcome.FAULTY),
                                        latest.said)))
                .toList();
    }
}
