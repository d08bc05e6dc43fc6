package yoru.server.deliveries;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.node.JsonNodeFactory;
import yoru.core.access.HowLong;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.core.systems.ConnectedSystem;
import yoru.core.systems.Matter;
import yoru.core.systems.Wish;
import yoru.server.ledger.LostTime;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.Queue;
import yoru.server.systems.Connector;
import yoru.server.systems.Landscapes;

/** What the connected systems are to be told, until they have answered. {@link Telling} tells them. */
@Service
public class Deliveries {

    static final TaskDescriptor<Void> TELL = TaskDescriptor.of("tell");

    /** Letters and events that were sent can be sent again for this long. */
    private static final Duration SENT_KEPT = Duration.ofDays(30);

    private final DeliveryTable table;
    private final Landscapes landscapes;
    private final Queue queue;
    private final LostTime lost;
    private final Clock clock;

    Deliveries(DeliveryTable table, Landscapes landscapes, Queue queue, LostTime lost, Clock clock) {
        this.table = table;
        this.landscapes = landscapes;
        this.queue = queue;
        this.lost = lost;
        this.clock = clock;
    }

    /** What a system was told and has not been told otherwise since. */
    public record Told(
            String person,
            Target target,
            boolean open,
            @Nullable Instant until,
            DeliveryState state,
            @Nullable Instant answeredAt) {

        /** Whether whoever has looked at the system since then has seen what came of it. */
        public boolean isSettled(Instant then) {
            return state.isSettled(answeredAt, then);
        }
    }

    /** What of one person a system is told about. */
    private record About(long person, String system, String matter) {}

    /**
     * What systems are to be told of one person.
     *
     * @param fact from which it follows; none = from none
     */
    public record Wanted(
            long person, List<Wish> wishes, @Nullable Long fact) {}

    /** Has systems told in the transaction at hand what they were not told yet, of each person in this order. */
    @Transactional
    public void want(Collection<Wanted> wanted) {
        var people = wanted.stream()
                .filter(it -> !it.wishes.isEmpty())
                .map(Wanted::person)
                .toList();
        if (people.isEmpty()) {
            return;
        }
        Map<About, Delivery> told = new HashMap<>();
        table.states(people).forEach(it -> told.put(new About(it.personId, it.connectionId, it.matter), it));
        var lanes = new LinkedHashSet<Lane.Key>();
        for (Wanted one : wanted) {
            for (Wish wish : one.wishes) {
                var about = new About(one.person, wish.system(), wish.matter().path());
                var last = Optional.ofNullable(told.get(about));
                if (wish.isNewsAfter(last.map(Delivery::wish))) {
                    var delivery = last.orElseGet(() -> made(wish.system(), one.person, wish.matter()));
                    delivery.want(wish.isOpen(), wish.howLong(), wish.said(), one.fact, clock.instant());
                    told.put(about, table.save(delivery));
                    lanes.add(new Lane.Key(wish.system(), one.person));
                }
            }
        }
        enqueue(lanes);
    }

    /** Has a system told that somebody should not have something, whatever it was told before. */
    @Transactional
    public void takeAway(String connection, long person, Target target) {
        var matter = new Matter.Access(target);
        var delivery = find(connection, person, matter).orElseGet(() -> made(connection, person, matter));
        delivery.want(false, HowLong.ALWAYS, null, null, clock.instant());
        table.save(delivery);
        enqueue(connection, person);
    }

    /** Whether a system is to be told, or has answered since then, what somebody should have of something. */
    @Transactional(readOnly = true)
    public boolean isToldSince(String connection, long person, Target target, Instant then) {
        return find(connection, person, new Matter.Access(target))
                .filter(delivery -> !delivery.status.isSettled(delivery.lastAnswerAt, then))
                .isPresent();
    }

    /** Has what a system was told last told again, as a state of its own. */
    @Transactional
    public void tellAgain(String connection, long person, Target target) {
        find(connection, person, new Matter.Access(target)).ifPresent(this::again);
    }

    /** What a system was told that people should have. */
    @Transactional(readOnly = true)
    public Map<Long, List<Target>> toldOpen(String connection, Collection<Long> people) {
        Map<Long, List<Target>> open = new HashMap<>();
        for (Delivery delivery : table.states(people)) {
            if (delivery.connectionId.equals(connection)
                    && delivery.open
                    && delivery.matter() instanceof Matter.Access it) {
                open.computeIfAbsent(delivery.personId, id -> new ArrayList<>()).add(it.target());
            }
        }
        return open;
    }

    /**
     * How far a system is with something about somebody.
     *
     * @param failing whether it did not take it at the last try
     */
    public record Progress(
            long id,
            long person,
            String matter,
            String connection,
            DeliveryState state,
            boolean failing,
            @Nullable String answer) {}

    /** How far systems are with some matters of some people. */
    @Transactional(readOnly = true)
    public List<Progress> progress(Collection<Long> people, Collection<String> matters) {
        if (people.isEmpty() || matters.isEmpty()) {
            return List.of();
        }
        return table.findByPersonIdInAndMatterIn(people, matters).stream()
                .map(it -> new Progress(
                        it.id(),
                        it.personId,
                        it.matter,
                        it.connectionId,
                        it.status,
                        it.status != DeliveryState.ANSWERED && it.failingSince != null,
                        it.lastAnswer))
                .toList();
    }

    /** Puts what waits for a system about people into the queue again; while a system is off it leaves the queue. */
    @Transactional
    public void resume(String connection, Collection<Long> people) {
        enqueue(table.waiting(connection, people, DeliveryState.WAITING).stream()
                .map(person -> new Lane.Key(connection, person))
                .toList());
    }

    /**
     * A letter or an event, sent once.
     *
     * @param ability which systems it goes to
     * @param content asked for only where there is such a system
     * @param keptBack whether it is sent only when somebody says so
     */
    public record Message(
            long person,
            Ability ability,
            Matter matter,
            Supplier<String> content,
            @Nullable Long fact,
            boolean keptBack) {

        public Message(long person, Ability ability, Matter matter, Supplier<String> content, @Nullable Long fact) {
            this(person, ability, matter, content, fact, false);
        }
    }

    /** Sends each to every system that takes such. */
    @Transactional
    public void send(Collection<Message> messages) {
        send(messages, systems -> systems);
    }

    /** Sends each to one system that takes such. */
    @Transactional
    public void sendToOne(Collection<Message> messages) {
        send(messages, systems -> systems.subList(0, Math.min(1, systems.size())));
    }

    private void send(Collection<Message> messages, UnaryOperator<List<ConnectedSystem>> which) {
        if (messages.isEmpty()) {
            return;
        }
        var landscape = landscapes.current();
        var lanes = new LinkedHashSet<Lane.Key>();
        for (Message message : messages) {
            for (ConnectedSystem system : which.apply(landscape.able(message.ability))) {
                if (find(system.id(), message.person, message.matter).isEmpty()) {
                    var delivery = made(system.id(), message.person, message.matter);
                    delivery.want(true, HowLong.ALWAYS, message.content.get(), message.fact, clock.instant());
                    if (message.keptBack) {
                        delivery.keepBack(clock.instant());
                    } else {
                        lanes.add(new Lane.Key(system.id(), message.person));
                    }
                    table.save(delivery);
                }
            }
        }
        enqueue(lanes);
    }

    /** A letter keeps its revision, and with it its Message-ID: a mailbox that has it already can tell. */
    void again(Delivery delivery) {
        if (delivery.matter().isState()) {
            delivery.want(delivery.open, delivery.howLong(), delivery.content, delivery.factSeq, clock.instant());
        } else {
            delivery.startOver();
        }
        table.save(delivery);
        enqueue(delivery.connectionId, delivery.personId);
    }

    private void enqueue(String connection, long person) {
        enqueue(List.of(new Lane.Key(connection, person)));
    }

    private void enqueue(Collection<Lane.Key> lanes) {
        if (lanes.isEmpty()) {
            return;
        }
        table.flush();
        var rows = JsonNodeFactory.instance.arrayNode();
        lanes.forEach(it -> rows.addObject().put("connection", it.connection()).put("person", it.person()));
        queue.now(
                TELL,
                table.newVersions(rows.toString()).stream()
                        .map(it -> new Lane(it.getConnection(), it.getPerson(), it.getVersion()).toString())
                        .toList());
    }

    /** Whether every system has answered all that it was told about somebody. */
    @Transactional(readOnly = true)
    public boolean isAllAnswered(long person) {
        return !table.existsByPersonIdAndStatusNot(person, DeliveryState.ANSWERED);
    }

    /** What a system was told about people whose keys lie in (after, to], in the order of their code points. */
    @Transactional(readOnly = true)
    public List<Told> told(String connection, String after, @Nullable String to) {
        return table.wantedBetween(connection, after, to, Connector.LEFT_OUT).stream()
                .map(row -> new Told(
                        row.getPerson(),
                        Target.read(row.getTarget()),
                        row.getOpen(),
                        row.getUntil(),
                        row.getStatus(),
                        row.getAnsweredAt()))
                .toList();
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        table.forget(forgotten.people());
        table.forgetLanes(forgotten.people());
        for (String word : forgotten.forgetting().words()) {
            table.saying(word).forEach(delivery -> delivery.retell(forgotten.forgetting()::words));
        }
    }

    @Transactional
    void forgetSent() {
        table.forgetSent(DeliveryState.ANSWERED, clock.instant().minus(SENT_KEPT));
    }

    /** Something that a system was never told about somebody, as far as is known. */
    Delivery made(String connection, long person, Matter matter) {
        return new Delivery(connection, person, matter, lost.revisionsBefore(), clock.instant());
    }

    private Optional<Delivery> find(String connection, long person, Matter matter) {
        return table.findByConnectionIdAndPersonIdAndMatter(connection, person, matter.path());
    }
}
