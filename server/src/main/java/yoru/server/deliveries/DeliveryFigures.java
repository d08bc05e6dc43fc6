package yoru.server.deliveries;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.systems.Connections;
import yoru.server.systems.Trouble;

/** How much waits and fails, and how it goes with each system. */
@Service
public class DeliveryFigures {

    /** Whatever is to be told is tried well before, and what is refused for so long is refused for good. */
    static final Duration LONG = Duration.ofMinutes(10);

    private static final int HOURS = 24;

    private final DeliveryTable table;
    private final Connections connections;
    private final Gates gates;
    private final Clock clock;

    DeliveryFigures(DeliveryTable table, Connections connections, Gates gates, Clock clock) {
        this.table = table;
        this.connections = connections;
        this.gates = gates;
        this.clock = clock;
    }

    /** How many deliveries of a connection wait and how many were given up. */
    public record Tally(String connection, DeliveryState state, long many, Instant oldest) {}

    /** What one system does just now. */
    public record Traffic(
            long answeredLastMinute,
            @Nullable Instant answeredAt,
            boolean leftAlone,
            @Nullable String lastTrouble,
            @Nullable String advice,
            @Nullable Instant troubleAt) {}

    @Transactional(readOnly = true)
    public long countFailing(String connection) {
        return table.countByConnectionIdAndStatusNotAndFailingSinceIsNotNull(connection, DeliveryState.ANSWERED);
    }

    @Transactional(readOnly = true)
    public List<Tally> tally() {
        return shown(table.tally());
    }

    /** What waits for long in systems that are on and was never tried: nothing fails, and nothing is told. */
    @Transactional(readOnly = true)
    public List<Tally> untried() {
        return shown(table.untried(DeliveryState.WAITING, clock.instant().minus(LONG))).stream()
                .filter(it -> connections.get(it.connection()).isOn() && !gates.isShut(it.connection()))
                .toList();
    }

    private static List<Tally> shown(List<DeliveryTable.Tally> rows) {
        return rows.stream()
                .map(row -> new Tally(row.getConnection(), row.getStatus(), row.getMany(), row.getOldest()))
                .toList();
    }

    /** How often each system answered in each of the last 24 hours, the last one last. */
    @Transactional(readOnly = true)
    public Map<String, List<Integer>> days(Collection<String> connections) {
        Map<String, Integer[]> days = new HashMap<>();
        for (String connection : connections) {
            var hours = new Integer[HOURS];
            Arrays.fill(hours, 0);
            days.put(connection, hours);
        }
        var answered = connections.isEmpty()
                ? List.<DeliveryTable.Hour>of()
                : table.answeredByHour(connections, clock.instant());
        for (var hour : answered) {
            var hours = Objects.requireNonNull(days.get(hour.getConnection()));
            hours[HOURS - 1 - Math.clamp(hour.getAgo(), 0, HOURS - 1)] = hour.getMany();
        }
        return days.entrySet().stream().collect(Collectors.toMap(Map.Entry::getKey, it -> List.of(it.getValue())));
    }

    @Transactional(readOnly = true)
    public Traffic traffic(String connection) {
        var last = table.lastTrouble(connection);
        return new Traffic(
                table.answeredSince(
                        connection, DeliveryState.ANSWERED, clock.instant().minus(Duration.ofMinutes(1))),
                table.lastAnswered(connection, DeliveryState.ANSWERED).orElse(null),
                gates.isShut(connection),
                last.map(delivery -> delivery.lastAnswer).orElse(null),
                last.map(delivery -> delivery.trouble).map(Trouble::advice).orElse(null),
                last.map(delivery -> delivery.lastAnswerAt).orElse(null));
    }
}
