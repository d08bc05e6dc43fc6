package yoru.server.deliveries;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.access.HowLong;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.ProblemException;
import yoru.server.platform.Queue;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Matter;
import yoru.server.systems.Trouble;

/** What the connected systems are to be told, until they have answered. {@link Telling} tells them. */
@Service
public class Deliveries {

    static final TaskDescriptor<Void> TELL = TaskDescriptor.of("tell");
    static final TaskDescriptor<Void> SAY_AGAIN = TaskDescriptor.of("say-again");

    /** Letters and events that were sent can be sent again for this long. */
    private static final Duration SENT_KEPT = Duration.ofDays(30);

    /** Whatever is to be told is tried well before, and what is refused for so long is refused for good. */
    private static final Duration LONG = Duration.ofMinutes(10);

    private static final int SHOWN = 200;

    private final DeliveryTable table;
    private final Connections connections;
    private final Reach reach;
    private final Matters matters;
    private final Gates gates;
    private final Journal journal;
    private final Queue queue;
    private final Clock clock;

    Deliveries(
            DeliveryTable table,
            Connections connections,
            Reach reach,
            Matters matters,
            Gates gates,
            Journal journal,
            Queue queue,
            Clock clock) {
        this.table = table;
        this.connections = connections;
        this.reach = reach;
        this.matters = matters;
        this.gates = gates;
        this.journal = journal;
        this.queue = queue;
        this.clock = clock;
    }

    /** What should be so for a person from now on. */
    public record Wanted(
            long person,
            Target target,
            boolean open,
            HowLong howLong,
            @Nullable Long fact) {}

    /** How a delivery stands. */
    public record Standing(
            long id,
            String connection,
            String system,
            String matter,
            String title,
            long person,
            boolean open,
            State state,
            int attempts,
            @Nullable String answer,
            @Nullable String advice,
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
    public record Tally(String connection, State state, long many, Instant oldest) {}

    /** What one system does just now. */
    public record Traffic(
            long answeredLastMinute,
            @Nullable Instant answeredAt,
            boolean leftAlone,
            @Nullable String lastTrouble,
            @Nullable String advice,
            @Nullable Instant troubleAt) {}

    /** What a system was told and has not been told otherwise since. */
    public record Told(
            String person,
            Target target,
            boolean open,
            @Nullable Instant until,
            State state) {}

    /** Whether the systems that somebody would be told of have confirmed that they let them in. */
    public enum Confirmation {
        /** All have; or none is to be told. */
        CONFIRMED,
        /** One has not answered yet, or is switched off. */
        WAITING,
        /** One has not taken it for ten minutes, or it was given up. */
        REFUSED
    }

    /** How far the systems have confirmed that a person has something. */
    @Transactional(readOnly = true)
    public Confirmation confirmation(long person, Target target) {
        var reached = reach.of(target);
        if (reached.isEmpty()) {
            return reach.isOnlyListedWhereOff(target) ? Confirmation.WAITING : Confirmation.CONFIRMED;
        }
        var worst = Confirmation.CONFIRMED;
        for (Connection connection : reached) {
            var one = find(connection, person, new Matter.Access(target))
                    .map(this::confirmation)
                    .orElse(Confirmation.WAITING);
            worst = one.compareTo(worst) > 0 ? one : worst;
        }
        return worst;
    }

    /** A system may refuse for a moment what it takes a little later: an account that is only being made, say. */
    private Confirmation confirmation(Delivery delivery) {
        return switch (delivery.status) {
            case ANSWERED -> delivery.open ? Confirmation.CONFIRMED : Confirmation.REFUSED;
            case WAITING ->
                delivery.trouble == Trouble.REFUSED
                                && delivery.failingSince != null
                                && delivery.failingSince.isBefore(
                                        clock.instant().minus(LONG))
                        ? Confirmation.REFUSED
                        : Confirmation.WAITING;
            case GIVEN_UP -> Confirmation.REFUSED;
        };
    }

    /** Whether a system that carries letters is on. */
    @Transactional(readOnly = true)
    public boolean canSendLetters() {
        return !reach.able(Ability.MESSAGES).isEmpty();
    }

    /** The ids of the systems that would be told about a target. */
    @Transactional(readOnly = true)
    public List<String> reachedBy(Target target) {
        return reach.of(target).stream().map(Connection::id).toList();
    }

    /** What the systems are called that would be told about a target. */
    @Transactional(readOnly = true)
    public List<String> reached(Target target) {
        return reach.of(target).stream().map(Connection::title).toList();
    }

    /** Has every system that can tell people apart by the target told, in the transaction at hand. */
    @Transactional
    public void want(Wanted wanted) {
        reach.of(wanted.target).forEach(connection -> want(connection, wanted));
    }

    /** Has one system told, if it is one that the target reaches. */
    @Transactional
    public void want(String connection, Wanted wanted) {
        reach.of(wanted.target).stream()
                .filter(reached -> reached.id().equals(connection))
                .forEach(reached -> want(reached, wanted));
    }

    private void want(Connection connection, Wanted wanted) {
        var matter = new Matter.Access(wanted.target);
        var known = find(connection, wanted.person, matter);
        if (known.isEmpty() && !wanted.open) {
            return; // it was never told that the person should have it
        }
        if (wanted.open && reach.can(connection, Ability.ACCOUNTS)) {
            state(connection, wanted.person, new Matter.Account(), true, HowLong.ALWAYS, wanted.fact);
        }
        state(connection, wanted.person, matter, wanted.open, wanted.howLong, wanted.fact);
    }

    /** Has a system told that somebody should not have something, whatever it was told before. */
    @Transactional
    public void takeAway(String connection, long person, Target target) {
        var delivery = new Delivery(connection, person, new Matter.Access(target), clock.instant());
        var known = find(connections.get(connection), person, delivery.matter()).orElse(delivery);
        known.want(false, HowLong.ALWAYS, null, null, clock.instant());
        send(table.save(known));
    }

    /** Has what a system was told last told again, as a state of its own. */
    @Transactional
    public void tellAgain(String connection, long person, Target target) {
        find(connections.get(connection), person, new Matter.Access(target)).ifPresent(this::again);
    }

    /** What a system was told that a person should have. */
    @Transactional(readOnly = true)
    public List<Target> toldOpen(String connection, long person) {
        return table.findByPersonIdOrderByMatter(person).stream()
                .filter(delivery -> delivery.connectionId.equals(connection) && delivery.open)
                .flatMap(delivery ->
                        delivery.matter() instanceof Matter.Access it ? Stream.of(it.target()) : Stream.empty())
                .toList();
    }

    /** Puts what waits for a system about a person into the queue again; while a system is off it leaves the queue. */
    @Transactional
    public void resume(String connection, long person) {
        table.waiting(connection, person, State.WAITING).stream().findFirst().ifPresent(this::send);
    }

    /**
     * Sends a letter or an event to every system that takes such, once.
     *
     * @param content asked for only where there is such a system
     */
    @Transactional
    public void send(long person, Ability ability, Matter matter, Supplier<String> content, @Nullable Long fact) {
        for (Connection connection : reach.able(ability)) {
            if (find(connection, person, matter).isEmpty()) {
                state(connection, person, matter, true, HowLong.ALWAYS, content.get(), fact);
            }
        }
    }

    /** Has the field for it, where a system has one, say when the next of what a person has ends. */
    @Transactional
    public void wantNextEnd(long person, Optional<LocalDate> day, @Nullable Long fact) {
        reach.able(Ability.FIELDS).forEach(connection -> wantNextEnd(connection, person, day, fact));
    }

    /** Has one system's field say it. */
    @Transactional
    public void wantNextEnd(String connection, long person, Optional<LocalDate> day) {
        reach.able(Ability.FIELDS).stream()
                .filter(able -> able.id().equals(connection))
                .forEach(able -> wantNextEnd(able, person, day, null));
    }

    private void wantNextEnd(Connection connection, long person, Optional<LocalDate> day, @Nullable Long fact) {
        var name = connections.settings(connection).getOrDefault(Connections.NEXT_END, "");
        var matter = new Matter.Field(name);
        if (name.isBlank() || (day.isEmpty() && find(connection, person, matter).isEmpty())) {
            return; // a field that was never set is as good as an empty one
        }
        if (reach.can(connection, Ability.ACCOUNTS)) {
            state(connection, person, new Matter.Account(), true, HowLong.ALWAYS, fact);
        }
        var value = day.map(it -> '"' + it.toString() + '"').orElse("\"\"");
        state(connection, person, matter, true, HowLong.ALWAYS, value, fact);
    }

    private void state(
            Connection connection, long person, Matter matter, boolean open, HowLong howLong, @Nullable Long fact) {
        state(connection, person, matter, open, howLong, null, fact);
    }

    private void state(
            Connection connection,
            long person,
            Matter matter,
            boolean open,
            HowLong howLong,
            @Nullable String content,
            @Nullable Long fact) {
        var now = clock.instant();
        var delivery =
                find(connection, person, matter).orElseGet(() -> new Delivery(connection.id(), person, matter, now));
        if (!delivery.says(open, howLong, content)) {
            delivery.want(open, howLong, content, fact, now);
            send(table.save(delivery));
        }
    }

    /** Has a delivery sent again at once, whatever became of it before; repeating it is harmless. */
    @Transactional
    public void sendAgain(long id, String operator) {
        var delivery = table.lock(id).orElseThrow(() -> ProblemException.notFound("No delivery " + id + "."));
        gates.open(delivery.connectionId);
        again(delivery);
        journal.write(new Journal.Line(
                Kind.OPERATOR, "Sent again", matters.title(delivery), operator, delivery.personId, null));
    }

    /** Has everything that was given up or fails sent again. */
    @Transactional
    public int sendAllAgain(String connection, String operator) {
        gates.open(connection);
        var failing = table.failing(State.ANSWERED).stream()
                .filter(delivery -> delivery.connectionId.equals(connection))
                .toList();
        failing.forEach(this::again);
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                "All sent again",
                connections.get(connection).title() + ": " + failing.size(),
                operator,
                null,
                null));
        return failing.size();
    }

    /** A letter keeps its revision, and with it its Message-ID: a mailbox that has it already can tell. */
    private void again(Delivery delivery) {
        if (delivery.matter().isState()) {
            delivery.want(delivery.open, delivery.howLong(), delivery.content, delivery.factSeq, clock.instant());
        } else {
            delivery.startOver();
        }
        send(delivery);
    }

    /**
     * Says once more what was answered after a try without an answer: that try can still take effect, also where it said
     * the opposite.
     *
     * @param id the delivery and the revision that was answered, as {@code 7@2}; any other revision speaks for itself
     */
    @Transactional
    void sayAgain(String id) {
        int at = id.indexOf('@');
        table.lock(Long.parseLong(id.substring(0, at)))
                .filter(delivery -> delivery.status == State.ANSWERED
                        && delivery.reportedAt == null
                        && delivery.revision == Integer.parseInt(id.substring(at + 1)))
                .ifPresent(this::again);
    }

    @Transactional(readOnly = true)
    public List<Standing> of(long person) {
        return table.findByPersonIdOrderByMatter(person).stream()
                .map(this::standing)
                .toList();
    }

    /**
     * A letter to somebody. Its text is not shown: a gift's has the code in it by which it is taken up.
     *
     * @param at when it went out, none = it has not
     */
    public record LetterTo(
            String system,
            String subject,
            State state,
            @Nullable Instant at) {}

    /** The letters to somebody that are still kept, the latest first. */
    @Transactional(readOnly = true)
    public List<LetterTo> letters(long person) {
        return table.letters(person).stream()
                .map(delivery -> new LetterTo(
                        connections.title(delivery.connectionId),
                        JsonMapper.shared()
                                .readTree(String.valueOf(delivery.content))
                                .path("subject")
                                .asString(""),
                        delivery.status,
                        delivery.status == State.ANSWERED ? delivery.lastAnswerAt : null))
                .toList();
    }

    /** Whether every system has answered all that it was told about somebody. */
    @Transactional(readOnly = true)
    public boolean isAllAnswered(long person) {
        return !table.existsByPersonIdAndStatusNot(person, State.ANSWERED);
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        table.forget(forgotten.people());
        table.forgetLanes(forgotten.people());
    }

    /** Those that have failed at least once, the oldest first. */
    @Transactional(readOnly = true)
    public List<Standing> failing() {
        return table.failing(State.ANSWERED).stream().map(this::standing).toList();
    }

    @Transactional(readOnly = true)
    public long countFailing(String connection) {
        return table.countByConnectionIdAndStatusNotAndFailingSinceIsNotNull(connection, State.ANSWERED);
    }

    /** What one system still has to be told, what fails first. */
    @Transactional(readOnly = true)
    public List<Standing> open(String connection) {
        return table.open(connection, State.ANSWERED, SHOWN).stream()
                .map(this::standing)
                .toList();
    }

    @Transactional(readOnly = true)
    public List<Tally> tally() {
        return shown(table.tally());
    }

    /** What waits for long in systems that are on and was never tried: nothing fails, and nothing is told. */
    @Transactional(readOnly = true)
    public List<Tally> untried() {
        return shown(table.untried(State.WAITING, clock.instant().minus(LONG))).stream()
                .filter(it -> connections.get(it.connection()).isOn() && !gates.isShut(it.connection()))
                .toList();
    }

    private static List<Tally> shown(List<DeliveryTable.Tally> rows) {
        return rows.stream()
                .map(row -> new Tally(row.getConnection(), row.getStatus(), row.getMany(), row.getOldest()))
                .toList();
    }

    @Transactional(readOnly = true)
    public Traffic traffic(String connection) {
        var last = table.lastTrouble(connection);
        return new Traffic(
                table.answeredSince(connection, State.ANSWERED, clock.instant().minus(Duration.ofMinutes(1))),
                table.lastAnswered(connection, State.ANSWERED).orElse(null),
                gates.isShut(connection),
                last.map(delivery -> delivery.lastAnswer).orElse(null),
                last.map(delivery -> delivery.trouble).map(Trouble::advice).orElse(null),
                last.map(delivery -> delivery.lastAnswerAt).orElse(null));
    }

    /** What a system was told about people whose keys lie in (after, to], in the order of their code points. */
    @Transactional(readOnly = true)
    public List<Told> told(String connection, String after, @Nullable String to) {
        return table.wantedBetween(connection, after, to).stream()
                .map(row -> new Told(
                        row.getPerson(), Target.read(row.getTarget()), row.getOpen(), row.getUntil(), row.getStatus()))
                .toList();
    }

    @Transactional
    void forgetSent() {
        table.forgetSent(State.ANSWERED, clock.instant().minus(SENT_KEPT));
    }

    private Optional<Delivery> find(Connection connection, long person, Matter matter) {
        return table.findByConnectionIdAndPersonIdAndMatter(connection.id(), person, matter.path());
    }

    private void send(Delivery delivery) {
        int version = table.newVersion(delivery.connectionId, delivery.personId);
        queue.now(TELL, new Lane(delivery.connectionId, delivery.personId, version).toString());
    }

    private Standing standing(Delivery delivery) {
        return new Standing(
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
                delivery.failingSince);
    }
}
