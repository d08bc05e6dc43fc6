package yoru.server.deliveries;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Semaphore;
import java.util.function.Supplier;
import java.util.random.RandomGenerator;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.systems.Matter;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.Queue;
import yoru.server.platform.YoruSettings;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Connectors;
import yoru.server.systems.Place;
import yoru.server.systems.Statement;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/**
 * Tells one system everything about one person, one thing after the other; other people's lanes go their own ways. No
 * transaction is open while the system is spoken to; a server that dies in between says it once more, under the same key.
 */
@Service
class Telling {

    private static final Logger LOG = LoggerFactory.getLogger(Telling.class);
    /** A lane that somebody else is at is looked at again after this. */
    private static final Duration SOON = Duration.ofMillis(250);
    /** Longer than any answer takes: whoever holds a lane beyond this has died. */
    private final Duration lease;

    private final DeliveryTable table;
    private final Connections connections;
    private final Connectors connectors;
    private final Register register;
    private final Matters matters;
    private final Journal journal;
    private final Gates gates;
    private final Meters meters;
    private final JsonMapper json;
    private final TransactionTemplate transaction;
    private final Queue queue;
    private final ApplicationEventPublisher events;
    private final Clock clock;
    private final Semaphore turns =
            new Semaphore(Math.max(1, Runtime.getRuntime().availableProcessors() - 1), true);
    private final RetryPauses pauses;
    private final Duration settle;

    Telling(
            DeliveryTable table,
            Connections connections,
            Connectors connectors,
            Register register,
            Matters matters,
            Journal journal,
            Gates gates,
            Meters meters,
            JsonMapper json,
            TransactionTemplate transaction,
            Queue queue,
            ApplicationEventPublisher events,
            Clock clock,
            YoruSettings settings) {
        this.table = table;
        this.connections = connections;
        this.connectors = connectors;
        this.register = register;
        this.matters = matters;
        this.journal = journal;
        this.gates = gates;
        this.meters = meters;
        this.json = json;
        this.transaction = transaction;
        this.queue = queue;
        this.events = events;
        this.clock = clock;
        var delivery = settings.delivery();
        this.pauses = new RetryPauses(delivery.firstPause(), delivery.longestPause(), delivery.giveUpAfter());
        this.settle = delivery.settle();
        this.lease = delivery.timeout().plusSeconds(5);
    }

    /** @return when to go on, if anything is left to say */
    Optional<Instant> tell(Lane lane) {
        var connection = connections.find(lane.connection()).orElseThrow();
        if (!connection.isOn()) {
            return Optional.empty(); // switched on again, it is told everything
        }
        var closed = gates.closed(lane.connection());
        if (closed.isPresent()) {
            return later(lane, closed.get());
        }
        var claimed = inTurn(() -> claim(lane));
        if (claimed.isEmpty()) {
            return later(lane, SOON);
        }
        var held = new Held(lane);
        try {
            return work(held, connection, claimed.get());
        } finally {
            if (held.isHeld) {
                transaction.executeWithoutResult(status -> held.release());
            }
        }
    }

    /** What a system said, or why it could not be told. */
    private record Answer(String words, @Nullable TroubleException trouble) {}

    /** What is to be said to one system about one person. */
    private record Claimed(Person person, List<Delivery> waiting) {}

    /** A lane that nobody else is at until it is let go. */
    private final class Held {

        private final Lane lane;
        private boolean isHeld = true;

        Held(Lane lane) {
            this.lane = lane;
        }

        void release() {
            table.hold(lane.connection(), lane.person(), null);
        }
    }

    private Optional<Claimed> claim(Lane lane) {
        var now = clock.instant();
        return table.claim(lane.connection(), lane.person(), lane.version(), now, now.plus(lease)) == 1
                ? Optional.of(new Claimed(
                        register.person(lane.person()).orElseThrow(),
                        table.waiting(lane.connection(), lane.person(), DeliveryState.WAITING)))
                : Optional.empty();
    }

    /** Never, where something newer is wanted: that has its own place in the queue. */
    private Optional<Instant> later(Lane lane, Duration wait) {
        return table.version(lane.connection(), lane.person())
                .filter(version -> version == lane.version())
                .map(version -> clock.instant().plus(wait));
    }

    /**
     * In a transaction, as few at once as leave a processor to those who look at pages: however much is to be told, and however
     * many systems are waited for meanwhile.
     */
    private <T> T inTurn(Supplier<T> act) {
        turns.acquireUninterruptibly();
        try {
            return transaction.execute(status -> act.get());
        } finally {
            turns.release();
        }
    }

    private Optional<Instant> work(Held held, Connection connection, Claimed claimed) {
        var place = connections.place(connection);
        var gate = gates.of(place);
        Instant next = null;
        boolean justClaimed = true;
        for (Delivery delivery : claimed.waiting) {
            var due = delivery.nextTryAt;
            if (due == null || !due.isAfter(clock.instant())) {
                switch (gate.enter(held.lane.person())) {
                    case Gate.ComeAgain later -> {
                        return Optional.of(clock.instant().plus(later.in()));
                    }
                    case Gate.Permit permit -> {
                        try (permit) {
                            if (!justClaimed) {
                                hold(delivery);
                            }
                            justClaimed = false;
                            var isLast =
                                    delivery.id() == claimed.waiting.getLast().id();
                            due = say(delivery, connection, place, claimed.person, permit, isLast ? held : null)
                                    .orElse(null);
                        }
                    }
                }
            }
            next = earlier(next, due);
            if (due != null && delivery.matter() instanceof Matter.Account) {
                break; // without an account there is nothing else to be had
            }
        }
        return Optional.ofNullable(next);
    }

    /**
     * @param last the lane, where it is let go with the answer
     * @return when to say it again, if it failed and there is time left
     */
    private Optional<Instant> say(
            Delivery delivery,
            Connection connection,
            Place place,
            Person person,
            Gate.Permit permit,
            @Nullable Held last) {
        var began = clock.instant();
        String words;
        TroubleException trouble = null;
        try {
            words = connectors.of(connection).tell(place, statement(delivery, person));
            permit.done(Duration.between(began, clock.instant()));
        } catch (TroubleException e) {
            words = e.words();
            trouble = e;
            permit.failed(Duration.between(began, clock.instant()), e);
        } catch (RuntimeException e) {
            LOG.error("A fault of Yoru's own while {} was told", connection.id(), e);
            words = "could not be told, for a fault of Yoru's own";
            trouble = new TroubleException(Trouble.NOT_CONFIRMED, "");
        }
        var answer = new Answer(words, trouble);
        var next = inTurn(() -> {
            var again = noteAnswer(delivery, connection, person, answer.words, answer.trouble);
            if (last != null) {
                last.release();
            }
            return again;
        });
        if (last != null) {
            last.isHeld = false; // what is rolled back is still held
        }
        return next;
    }

    private Statement statement(Delivery delivery, Person person) {
        return new Statement(
                person.key(),
                person.name(),
                delivery.matter(),
                delivery.open,
                delivery.until,
                delivery.renews,
                delivery.revision,
                delivery.key(),
                delivery.content == null ? null : json.readTree(delivery.content));
    }

    private Optional<Instant> noteAnswer(
            Delivery told, Connection connection, Person person, String words, @Nullable TroubleException trouble) {
        register.lock(person.id()); // the person before what is theirs: everybody locks in this order
        var delivery = table.lock(told.id()).orElseThrow();
        // also what was overtaken by another wish meanwhile can still take effect
        delivery.doubtful |= trouble != null
                && delivery.matter().isState()
                && trouble.trouble().mayStillTakeEffect();
        if (delivery.revision != told.revision) {
            return Optional.empty();
        }
        var now = clock.instant();
        delivery.attempts++;
        delivery.reportedAt = null;
        delivery.lastAnswer = words;
        delivery.lastAnswerAt = now;
        if (trouble != null) {
            var next = failed(delivery, trouble, connection, person, now);
            if (delivery.status == DeliveryState.GIVEN_UP || delivery.trouble == Trouble.REFUSED) {
                settled(delivery);
            }
            return next;
        }
        delivery.status = DeliveryState.ANSWERED;
        if (delivery.doubtful) {
            delivery.doubtful = false;
            queue.at(Repeats.SAY_AGAIN, delivery.id() + "@" + delivery.revision, now.plus(settle));
        }
        delivery.failingSince = null;
        delivery.nextTryAt = null;
        delivery.trouble = null;
        meters.answered(connection.id(), Duration.between(delivery.wantedAt, now));
        write(Kind.ANSWERED, connection.title() + ": " + words, delivery, person, connection);
        settled(delivery);
        return Optional.empty();
    }

    private void settled(Delivery delivery) {
        if (delivery.matter() instanceof Matter.Access) {
            table.flush();
            events.publishEvent(new Settled(delivery.personId));
        }
    }

    private Optional<Instant> failed(
            Delivery delivery, TroubleException trouble, Connection connection, Person person, Instant now) {
        meters.failed(connection.id());
        delivery.trouble = trouble.trouble();
        if (delivery.failingSince == null) {
            delivery.failingSince = now;
            write(
                    Kind.FAILED,
                    connection.title() + " " + delivery.lastAnswer + "; trying again",
                    delivery,
                    person,
                    connection);
        }
        var next = pauses.next(
                delivery.attempts, delivery.failingSince, now, trouble.retryAfter(), RandomGenerator.getDefault());
        delivery.nextTryAt = next.orElse(null);
        if (next.isEmpty()) {
            delivery.status = DeliveryState.GIVEN_UP;
            write(Kind.FAILED, connection.title() + ": given up", delivery, person, connection);
        }
        return next;
    }

    private void write(Kind kind, String title, Delivery delivery, Person person, Connection connection) {
        journal.write(new Journal.Line(
                kind,
                title,
                person.name() + " · " + matters.title(delivery),
                connection.id(),
                person.id(),
                delivery.factSeq));
    }

    private void hold(Delivery delivery) {
        transaction.executeWithoutResult(status -> table.hold(
                delivery.connectionId, delivery.personId, clock.instant().plus(lease)));
    }

    private static @Nullable Instant earlier(@Nullable Instant one, @Nullable Instant other) {
        if (one == null || other == null) {
            return one == null ? other : one;
        }
        return one.isBefore(other) ? one : other;
    }
}
