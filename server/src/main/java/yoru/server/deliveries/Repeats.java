package yoru.server.deliveries;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.systems.Matter;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.Register;
import yoru.server.platform.Portions;
import yoru.server.platform.ProblemException;
import yoru.server.systems.Connections;
import yoru.server.systems.Connector;

/** Has systems told once more what they were told before; repeating it is harmless. */
@Service
public class Repeats {

    static final TaskDescriptor<Void> SAY_AGAIN = TaskDescriptor.of("say-again");

    private final DeliveryTable table;
    private final Deliveries deliveries;
    private final Connections connections;
    private final Matters matters;
    private final Gates gates;
    private final Register register;
    private final Journal journal;

    Repeats(
            DeliveryTable table,
            Deliveries deliveries,
            Connections connections,
            Matters matters,
            Gates gates,
            Register register,
            Journal journal) {
        this.table = table;
        this.deliveries = deliveries;
        this.connections = connections;
        this.matters = matters;
        this.gates = gates;
        this.register = register;
        this.journal = journal;
    }

    /** Has a delivery sent again at once, whatever became of it before. */
    @Transactional
    public void one(long id, String operator) {
        var delivery = locked(id).orElseThrow(() -> ProblemException.notFound("No delivery " + id + "."));
        gates.open(delivery.connectionId);
        deliveries.again(delivery);
        journal.write(new Journal.Line(
                Kind.OPERATOR, "Sent again", matters.title(delivery), operator, delivery.personId, null));
    }

    /** Has somebody made known where by policy they are not, and all that waits for it told. */
    @Transactional
    public void makeKnown(long id, String operator) {
        var delivery = locked(id).orElseThrow(() -> ProblemException.notFound("No delivery " + id + "."));
        if (!(delivery.matter() instanceof Matter.Account)) {
            throw new ProblemException(
                    HttpStatus.CONFLICT, "This is no account", "Only who is not known there can be made known.");
        }
        delivery.makeKnown = true;
        deliveries.again(delivery);
        var others = table.leftOut(delivery.connectionId, delivery.personId, Connector.LEFT_OUT);
        others.forEach(deliveries::again);
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                "Contact made",
                connections.get(delivery.connectionId).title(),
                operator,
                delivery.personId,
                null));
    }

    /** Has everything that was given up or fails sent again. @return how much that is */
    @Transactional
    public int allThatFail(String connection, String operator) {
        gates.open(connection);
        int many = table.failing(connection, DeliveryState.ANSWERED).stream()
                .gather(Portions.ofAStatement())
                .mapToInt(this::failingAgain)
                .sum();
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                "All sent again",
                connections.get(connection).title() + ": " + many,
                operator,
                null,
                null));
        return many;
    }

    private int failingAgain(List<DeliveryTable.OfPerson> some) {
        register.lock(some.stream().map(DeliveryTable.OfPerson::getPerson).collect(Collectors.toSet()));
        var failing = table
                .lock(some.stream().map(DeliveryTable.OfPerson::getId).toList())
                .stream()
                .filter(delivery -> delivery.status != DeliveryState.ANSWERED)
                .toList();
        failing.forEach(deliveries::again);
        return failing.size();
    }

    /**
     * Says once more what was answered after a try without an answer: that try can still take effect, also where it said
     * the opposite.
     *
     * @param id the delivery and the revision that was answered, as {@code 7@2}; any other revision speaks for itself
     */
    @Transactional
    public void afterDoubt(String id) {
        int at = id.indexOf('@');
        locked(Long.parseLong(id.substring(0, at)))
                .filter(delivery -> delivery.status == DeliveryState.ANSWERED
                        && delivery.reportedAt == null
                        && delivery.revision == Integer.parseInt(id.substring(at + 1)))
                .ifPresent(deliveries::again);
    }

    /** As everybody locks who decides what a system is told of somebody: the person before what is theirs. */
    private Optional<Delivery> locked(long id) {
        return table.personOf(id).flatMap(person -> {
            register.lock(person);
            return table.lock(id);
        });
    }
}
