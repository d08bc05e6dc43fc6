package yoru.server.deliveries;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.random.RandomGenerator;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.LedgerService;
import yoru.server.ledger.Person;
import yoru.server.platform.ProblemException;
import yoru.server.platform.Queue;
import yoru.server.platform.YoruSettings;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.SystemKind;

/** Tells the connected systems what should be so, until they have answered. */
@Service
public class Deliveries {

    static final TaskDescriptor<Void> DELIVER = TaskDescriptor.of("deliver");

    private final DeliveryTable table;
    private final Connections connections;
    private final Catalogue catalogue;
    private final LedgerService ledger;
    private final ClassroomClient classroom;
    private final Journal journal;
    private final Queue queue;
    private final TransactionTemplate transaction;
    private final Clock clock;
    private final RetryPauses pauses;

    Deliveries(
            DeliveryTable table,
            Connections connections,
            Catalogue catalogue,
            LedgerService ledger,
            ClassroomClient classroom,
            Journal journal,
            Queue queue,
            TransactionTemplate transaction,
            Clock clock,
            YoruSettings settings) {
        this.table = table;
        this.connections = connections;
        this.catalogue = catalogue;
        this.ledger = ledger;
        this.classroom = classroom;
        this.journal = journal;
        this.queue = queue;
        this.transaction = transaction;
        this.clock = clock;
        var delivery = settings.delivery();
        this.pauses = new RetryPauses(delivery.firstPause(), delivery.longestPause(), delivery.giveUpAfter());
    }

    /** What should be so for a person at a course from now on. */
    public record Wanted(
            long person,
            String course,
            boolean open,
            @Nullable Instant until,
            @Nullable Long fact) {}

    /** How a delivery stands. */
    public record Standing(
            long id,
            String connection,
            String system,
            String course,
            long person,
            boolean open,
            State state,
            int attempts,
            @Nullable String answer,
            @Nullable Instant answeredAt,
            @Nullable Instant nextTryAt,
            @Nullable Instant failingSince) {}

    /** How far a delivery has come. */
    public enum State {
        WAITING,
        ANSWERED,
        /** Tried for the whole time allowed; an operator can have it tried again. */
        GIVEN_UP
    }

    /** How many deliveries of a connection wait and how many were given up. */
    public record Tally(String connection, State state, long many) {}

    /** Has every classroom that teaches the course told, in the transaction at hand. */
    @Transactional
    public void want(Wanted wanted) {
        for (Connection connection : teaching(wanted.course)) {
            var known = table.findByConnectionIdAndPersonIdAndCourse(connection.id(), wanted.person, wanted.course);
            if (known.isEmpty() && !wanted.open) {
                continue; // it was never told that the person may enter
            }
            var delivery = known.orElseGet(() -> new Delivery(connection.id(), wanted.person, wanted.course));
            if (!delivery.says(wanted.open, wanted.until)) {
                delivery.want(wanted.open, wanted.until, wanted.fact);
                send(table.save(delivery));
            }
        }
    }

    /** Has a delivery sent again at once, whatever became of it before; repeating it is harmless. */
    @Transactional
    public void sendAgain(long id, String operator) {
        var delivery = table.lock(id).orElseThrow(() -> ProblemException.notFound("No delivery " + id + "."));
        delivery.want(delivery.open, delivery.until, delivery.factSeq);
        send(delivery);
        journal.write(new Journal.Line(
                Kind.OPERATOR, "Sent again", courseTitle(delivery), operator, delivery.personId, null));
    }

    /** Has everything that was given up or fails sent again. */
    @Transactional
    public int sendAllAgain(String connection, String operator) {
        var failing = table.failing(State.ANSWERED).stream()
                .filter(delivery -> delivery.connectionId.equals(connection))
                .toList();
        failing.forEach(delivery -> sendAgain(delivery.id(), operator));
        return failing.size();
    }

    @Transactional(readOnly = true)
    public List<Standing> of(long person) {
        return table.findByPersonIdOrderByCourse(person).stream()
                .map(this::standing)
                .toList();
    }

    /** Those that have failed at least once, the oldest first. */
    @Transactional(readOnly = true)
    public List<Standing> failing() {
        return table.failing(State.ANSWERED).stream().map(this::standing).toList();
    }

    @Transactional(readOnly = true)
    public List<Tally> tally() {
        return table.tally().stream()
                .map(row -> new Tally(row.getConnection(), row.getStatus(), row.getMany()))
                .toList();
    }

    /**
     * Sends one state. No transaction is open while the system is spoken to; a server that dies in between sends it
     * once more, with the same idempotency key.
     *
     * @return when to try again, if it failed and there is time left
     */
    Optional<Instant> deliver(long id, int revision) {
        var delivery =
                table.findById(id).filter(found -> found.revision == revision).orElse(null);
        if (delivery == null || delivery.status == State.ANSWERED) {
            return Optional.empty(); // a newer state is wanted, and has its own place in the queue
        }
        var connection = connections.find(delivery.connectionId).orElseThrow();
        var person = ledger.person(delivery.personId).orElseThrow();
        var answer = classroom.tell(connection, person, delivery);
        return transaction.execute(status -> noteAnswer(id, revision, connection, person, answer));
    }

    private Optional<Instant> noteAnswer(
            long id, int revision, Connection connection, Person person, SystemAnswer answer) {
        var delivery = table.lock(id).orElseThrow();
        if (delivery.revision != revision) {
            return Optional.empty();
        }
        var now = clock.instant();
        delivery.attempts++;
        delivery.lastAnswer = answer.words();
        delivery.lastAnswerAt = now;
        return switch (answer) {
            case SystemAnswer.Done done -> {
                delivery.status = State.ANSWERED;
                delivery.failingSince = null;
                delivery.nextTryAt = null;
                write(Kind.ANSWERED, connection.title() + ": " + done.words(), delivery, person, connection);
                yield Optional.empty();
            }
            case SystemAnswer.NotDone notDone -> failed(delivery, notDone, connection, person, now);
        };
    }

    private Optional<Instant> failed(
            Delivery delivery, SystemAnswer.NotDone answer, Connection connection, Person person, Instant now) {
        if (delivery.failingSince == null) {
            delivery.failingSince = now;
            write(
                    Kind.FAILED,
                    connection.title() + " " + answer.words() + "; trying again",
                    delivery,
                    person,
                    connection);
        }
        var next = pauses.next(
                delivery.attempts, delivery.failingSince, now, answer.retryAfter(), RandomGenerator.getDefault());
        delivery.nextTryAt = next.orElse(null);
        if (next.isEmpty()) {
            delivery.status = State.GIVEN_UP;
            write(Kind.FAILED, connection.title() + ": given up", delivery, person, connection);
        }
        return next;
    }

    private void write(Kind kind, String title, Delivery delivery, Person person, Connection connection) {
        journal.write(new Journal.Line(
                kind,
                title,
                person.name() + " · " + courseTitle(delivery),
                connection.id(),
                person.id(),
                delivery.factSeq));
    }

    private String courseTitle(Delivery delivery) {
        return catalogue.courseTitle(delivery.connectionId, delivery.course).orElse(delivery.course);
    }

    private void send(Delivery delivery) {
        queue.now(DELIVER, delivery.id() + ":" + delivery.revision);
    }

    private List<Connection> teaching(String course) {
        var teaching = catalogue.courses().stream()
                .filter(taught -> taught.id().equals(course))
                .map(Catalogue.TaughtCourse::connection)
                .toList();
        var classrooms = connections.ofKind(SystemKind.CLASSROOM);
        return teaching.isEmpty()
                ? classrooms
                : classrooms.stream()
                        .filter(found -> teaching.contains(found.id()))
                        .toList();
    }

    private Standing standing(Delivery delivery) {
        var system =
                connections.find(delivery.connectionId).map(Connection::title).orElse(delivery.connectionId);
        return new Standing(
                delivery.id(),
                delivery.connectionId,
                system,
                delivery.course,
                delivery.personId,
                delivery.open,
                delivery.status,
                delivery.attempts,
                delivery.lastAnswer,
                delivery.lastAnswerAt,
                delivery.nextTryAt,
                delivery.failingSince);
    }
}
