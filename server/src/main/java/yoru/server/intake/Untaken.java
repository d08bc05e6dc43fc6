package yoru.server.intake;

import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.intake.Received.Outcome;
import yoru.server.platform.SearchWords;
import yoru.server.systems.Connections;

/** Reports that say something nobody could take up: a sale may be among them. */
@Service
public class Untaken {

    private static final int MOST_NAMING = 20;
    private static final int MOST_LOOKED_AT = 500;

    private final ReceivedTable table;
    private final Connections connections;

    Untaken(ReceivedTable table, Connections connections) {
        this.table = table;
        this.connections = connections;
    }

    /** @param said why the latest could not be taken up */
    public record Reports(String connection, String system, long many, String said) {}

    /** A report that names what is looked for. */
    public record Naming(String connection, String system, Instant at, String said) {}

    /** The newest that could not be taken up and have the words somewhere in them. */
    @Transactional(readOnly = true)
    public List<Naming> naming(String words) {
        var single = List.of(words.strip().toLowerCase(Locale.ROOT).split("\\s+"));
        var longest =
                single.stream().max(Comparator.comparingInt(String::length)).orElse("");
        if (longest.isEmpty()) {
            return List.of();
        }
        return table.untakenNaming(SearchWords.anywhere(longest), MOST_LOOKED_AT).stream()
                .filter(report -> {
                    var text = (report.body + " " + report.said).toLowerCase(Locale.ROOT);
                    return single.stream().allMatch(text::contains); // a name can stand in two places
                })
                .limit(MOST_NAMING)
                .map(it -> new Naming(it.connectionId, connections.title(it.connectionId), it.at, it.said))
                .toList();
    }

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
