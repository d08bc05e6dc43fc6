package yoru.server.deliveries;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import yoru.server.ledger.Register;
import yoru.server.systems.Connections;
import yoru.server.systems.Connector;
import yoru.server.systems.Trouble;

/** Deliveries and letters, to be looked at. */
@Service
public class DeliveryList {

    private static final int MOST = 200;

    private final DeliveryTable table;
    private final Connections connections;
    private final Matters matters;
    private final Register register;

    DeliveryList(DeliveryTable table, Connections connections, Matters matters, Register register) {
        this.register = register;
        this.table = table;
        this.connections = connections;
        this.matters = matters;
    }

    /**
     * How a delivery stands.
     *
     * @param stranger whether the person is no contact there, and by policy was not made one
     */
    public record DeliveryStatus(
            long id,
            String connection,
            String system,
            String matter,
            String title,
            long person,
            boolean open,
            DeliveryState state,
            int attempts,
            @Nullable String answer,
            @Nullable String advice,
            @Nullable Instant answeredAt,
            @Nullable Instant nextTryAt,
            @Nullable Instant failingSince,
            boolean stranger) {}

    /**
     * A letter to somebody. Its text is not shown: a gift's has the code in it by which it is taken up.
     *
     * @param at when it went out, none = it has not
     */
    public record LetterTo(
            String system,
            String subject,
            DeliveryState state,
            @Nullable Instant at) {}

    /** What a system answered when it was told something about somebody. */
    public record Said(long id, long person, String name, String title, String answer, Instant at) {}

    @Transactional(readOnly = true)
    public List<DeliveryStatus> of(long person) {
        return table.findByPersonIdOrderByMatter(person).stream()
                .map(this::status)
                .toList();
    }

    /** Those that have failed at least once, the oldest first. */
    @Transactional(readOnly = true)
    public List<DeliveryStatus> failing() {
        return table.failing(DeliveryState.ANSWERED).stream().map(this::status).toList();
    }

    /** What one system still has to be told, what fails first. */
    @Transactional(readOnly = true)
    public List<DeliveryStatus> open(String connection) {
        return table.open(connection, DeliveryState.ANSWERED, MOST).stream()
                .map(this::status)
                .toList();
    }

    /** What one system was told last and has answered, the latest first. */
    @Transactional(readOnly = true)
    public List<Said> latest(String connection, int most) {
        var latest = table.latest(connection, DeliveryState.ANSWERED, Limit.of(most));
        var people =
                register.byId(latest.stream().map(it -> it.personId).distinct().toList());
        return latest.stream()
                .map(it -> new Said(
                        it.id(),
                        it.personId,
                        Objects.requireNonNull(people.get(it.personId)).name(),
                        matters.title(it),
                        Objects.requireNonNullElse(it.lastAnswer, ""),
                        Objects.requireNonNull(it.lastAnswerAt)))
                .toList();
    }

    /** The letters to somebody that are still kept, the latest first. */
    @Transactional(readOnly = true)
    public List<LetterTo> letters(long person) {
        return table.letters(person).stream()
                .filter(delivery -> !isToTheTeam(delivery))
                .map(delivery -> new LetterTo(
                        connections.title(delivery.connectionId),
                        JsonMapper.shared()
                                .readTree(String.valueOf(delivery.content))
                                .path("subject")
                                .asString(""),
                        delivery.status,
                        delivery.status == DeliveryState.ANSWERED ? delivery.lastAnswerAt : null))
                .toList();
    }

    /** What was written about somebody, but not to them. */
    private static boolean isToTheTeam(Delivery delivery) {
        return JsonMapper.shared().readTree(String.valueOf(delivery.content)).has("to");
    }

    private DeliveryStatus status(Delivery delivery) {
        return new DeliveryStatus(
                delivery.id(),
                delivery.connectionId,
                connections.title(delivery.connectionId),
                delivery.matter,
                matters.title(delivery),
                delivery.personId,
                delivery.open,
                delivery.status,
                delivery.attempts,
                delivery.lastAnswer,
                delivery.trouble == null ? null : delivery.trouble.advice(),
                delivery.lastAnswerAt,
                delivery.nextTryAt,
                delivery.failingSince,
                delivery.trouble == Trouble.STRANGER || Connector.LEFT_OUT.equals(delivery.lastAnswer));
    }
}
