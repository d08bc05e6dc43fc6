package yoru.server.deliveries;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.policies.Policies;
import yoru.core.systems.Matter;
import yoru.server.ledger.Person;
import yoru.server.policies.SchoolPolicies;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Connectors;
import yoru.server.systems.Place;
import yoru.server.systems.Statement;
import yoru.server.systems.SystemKind;
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

    private final Lanes lanes;
    private final Answers answers;
    private final Connections connections;
    private final Connectors connectors;
    private final Gates gates;
    private final SchoolPolicies policies;
    private final JsonMapper json;
    private final Clock clock;

    Telling(
            Lanes lanes,
            Answers answers,
            Connections connections,
            Connectors connectors,
            Gates gates,
            SchoolPolicies policies,
            JsonMapper json,
            Clock clock) {
        this.lanes = lanes;
        this.answers = answers;
        this.connections = connections;
        this.connectors = connectors;
        this.gates = gates;
        this.policies = policies;
        this.json = json;
        this.clock = clock;
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
        var claimed = lanes.claim(lane);
        if (claimed.isEmpty()) {
            return later(lane, SOON);
        }
        var held = new LaneInHand(lane);
        try {
            return work(held, connection, claimed.get());
        } finally {
            if (held.isHeld) {
                lanes.release(lane);
            }
        }
    }

    /** A lane that nobody else is at until it is let go. */
    private static final class LaneInHand {

        private final Lane lane;
        private boolean isHeld = true;

        LaneInHand(Lane lane) {
            this.lane = lane;
        }
    }

    private Optional<Instant> later(Lane lane, Duration wait) {
        return Optional.of(lane)
                .filter(lanes::isNewest)
                .map(it -> clock.instant().plus(wait));
    }

    private Optional<Instant> work(LaneInHand held, Connection connection, Lanes.Claimed claimed) {
        var place = connections.place(connection);
        var gate = gates.of(place);
        Instant next = null;
        boolean justClaimed = true;
        for (Delivery delivery : claimed.waiting()) {
            var due = delivery.nextTryAt;
            if (due == null || !due.isAfter(clock.instant())) {
                switch (gate.enter(held.lane.person())) {
                    case Gate.ComeAgain later -> {
                        return Optional.of(clock.instant().plus(later.in()));
                    }
                    case Gate.Permit permit -> {
                        try (permit) {
                            if (!justClaimed) {
                                lanes.hold(held.lane);
                            }
                            justClaimed = false;
                            var isLast =
                                    delivery.id() == claimed.waiting().getLast().id();
                            due = say(delivery, connection, place, claimed.person(), permit, isLast ? held : null)
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
            @Nullable LaneInHand last) {
        var began = clock.instant();
        String words;
        TroubleException trouble = null;
        try {
            words = connectors.of(connection).tell(place, statement(delivery, connection, person));
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
        var next = answers.note(
                new Answers.Answer(delivery, connection, person, words, trouble, last == null ? null : last.lane));
        if (last != null) {
            last.isHeld = false; // what is rolled back is still held
        }
        return next;
    }

    private Statement statement(Delivery delivery, Connection connection, Person person) {
        return new Statement(
                person.key(),
                person.name(),
                delivery.matter(),
                delivery.open,
                delivery.until,
                delivery.renews,
                delivery.revision,
                delivery.key(),
                delivery.content == null ? null : json.readTree(delivery.content),
                unknown(delivery, connection));
    }

    /** Only of systems of contacts the school says anything: for all others the policies are not read. */
    private Policies.UnknownContacts unknown(Delivery delivery, Connection connection) {
        return delivery.makeKnown || connection.kind() != SystemKind.CONTACTS
                ? Policies.UnknownContacts.MAKE
                : policies.inForce().outwards();
    }

    private static @Nullable Instant earlier(@Nullable Instant one, @Nullable Instant other) {
        if (one == null || other == null) {
            return one == null ? other : one;
        }
        return one.isBefore(other) ? one : other;
    }
}
