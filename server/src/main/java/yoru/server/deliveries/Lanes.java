package yoru.server.deliveries;

import java.time.Clock;
import java.time.Duration;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.node.JsonNodeFactory;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.Together;
import yoru.server.platform.YoruSettings;

/** Who is at which lane. Lanes that are asked for at the same time are claimed together. */
@Component
class Lanes {

    private static final int AT_A_TIME = 100;

    private final DeliveryTable table;
    private final Register register;
    private final TransactionTemplate transaction;
    private final Clock clock;
    private final Together<Lane, Optional<Claimed>> claims;
    /** Longer than any answer takes: whoever holds a lane beyond this has died. */
    private final Duration lease;

    Lanes(DeliveryTable table, Register register, TransactionTemplate transaction, Clock clock, YoruSettings settings) {
        this.table = table;
        this.register = register;
        this.transaction = transaction;
        this.clock = clock;
        this.claims = new Together<>(transaction, Together.LEAVING_ONE, AT_A_TIME, this::claim);
        this.lease = settings.delivery().timeout().plusSeconds(5);
    }

    /** What is to be said to one system about one person. */
    record Claimed(Person person, List<Delivery> waiting) {}

    /**
     * Nobody else is at the lane until it is let go, or much later than any answer takes.
     *
     * @return nothing where somebody else is at it, or something newer is wanted
     */
    Optional<Claimed> claim(Lane lane) {
        return claims.ask(lane);
    }

    /** None waits for a lane that is locked: whoever holds several and waits for one more could wait for ever. */
    private List<Optional<Claimed>> claim(List<Lane> lanes) {
        Map<Lane.Key, Lane> wanted = new HashMap<>();
        lanes.forEach(
                lane -> wanted.merge(lane.key(), lane, (one, other) -> one.version() < other.version() ? other : one));
        var now = clock.instant();
        var claimed = table.claim(json(wanted.values()), now, now.plus(lease)).stream()
                .map(it -> wanted.get(new Lane.Key(it.getConnection(), it.getPerson())))
                .collect(Collectors.toCollection(LinkedHashSet::new));
        if (claimed.isEmpty()) {
            return lanes.stream().map(lane -> Optional.<Claimed>empty()).toList();
        }
        var people = register.byId(claimed.stream().map(Lane::person).toList());
        var waiting = table.waiting(json(claimed)).stream()
                .collect(Collectors.groupingBy(it -> new Lane.Key(it.connectionId, it.personId)));
        return lanes.stream()
                .map(lane -> Optional.of(lane)
                        .filter(claimed::remove) // once, whoever asks again
                        .map(it -> new Claimed(
                                Objects.requireNonNull(people.get(it.person())),
                                waiting.getOrDefault(it.key(), List.of()))))
                .toList();
    }

    /** Whether nothing newer is wanted: that has its own place in the queue. */
    boolean isNewest(Lane lane) {
        return table.version(lane.connection(), lane.person())
                .filter(version -> version == lane.version())
                .isPresent();
    }

    /** Holds on to a lane for one more answer. */
    void hold(Lane lane) {
        transaction.executeWithoutResult(status ->
                table.hold(lane.connection(), lane.person(), clock.instant().plus(lease)));
    }

    void release(Lane lane) {
        transaction.executeWithoutResult(status -> release(List.of(lane)));
    }

    /** Lets lanes go in the transaction at hand. */
    void release(Collection<Lane> lanes) {
        if (!lanes.isEmpty()) {
            table.release(json(lanes));
        }
    }

    private static String json(Collection<Lane> lanes) {
        var rows = JsonNodeFactory.instance.arrayNode();
        lanes.forEach(it -> rows.addObject()
                .put("connection", it.connection())
                .put("person", it.person())
                .put("version", it.version()));
        return rows.toString();
    }
}
