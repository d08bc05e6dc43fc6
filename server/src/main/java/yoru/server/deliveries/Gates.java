package yoru.server.deliveries;

import java.time.Clock;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.random.RandomGenerator;
import org.springframework.stereotype.Component;
import yoru.server.platform.YoruSettings;
import yoru.server.systems.Place;

/** The gates of this server, one for each system. */
@Component
class Gates {

    /** What a connection may set; 0 = no limit. */
    static final String PER_SECOND = "perSecond";

    private static final int USUAL_PER_SECOND = 50;

    private final Map<String, Limited> gates = new ConcurrentHashMap<>();
    private final YoruSettings settings;
    private final Clock clock;

    Gates(YoruSettings settings, Clock clock) {
        this.settings = settings;
        this.clock = clock;
    }

    private record Limited(int perSecond, Gate gate) {}

    /** A new one when its limit has changed. */
    Gate of(Place place) {
        int perSecond = perSecond(place);
        return gates.compute(
                        place.id(),
                        (id, known) -> known != null && known.perSecond == perSecond
                                ? known
                                : new Limited(
                                        perSecond,
                                        new Gate(
                                                id,
                                                perSecond,
                                                settings.delivery(),
                                                clock,
                                                RandomGenerator.getDefault())))
                .gate;
    }

    boolean isShut(String connection) {
        var known = gates.get(connection);
        return known != null && known.gate.isShut();
    }

    /** How long to stay away from a system that is full or shut, as far as can be told without entering. */
    Optional<Duration> closed(String connection) {
        return Optional.ofNullable(gates.get(connection)).flatMap(known -> known.gate.closed());
    }

    void open(String connection) {
        var known = gates.get(connection);
        if (known != null) {
            known.gate.open();
        }
    }

    private static int perSecond(Place place) {
        try {
            return Integer.parseInt(place.settings().getOrDefault(PER_SECOND, String.valueOf(USUAL_PER_SECOND)));
        } catch (NumberFormatException e) {
            return USUAL_PER_SECOND;
        }
    }
}
