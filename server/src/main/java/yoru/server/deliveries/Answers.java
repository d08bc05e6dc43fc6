package yoru.server.deliveries;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.random.RandomGenerator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.Queue;
import yoru.server.platform.RetryPauses;
import yoru.server.platform.Together;
import yoru.server.platform.YoruSettings;
import yoru.server.systems.Connection;
import yoru.server.systems.TroubleException;

/** Notes what systems answer. Answers that come at the same time are noted together. */
@Component
class Answers {

    private static final int AT_A_TIME = 100;

    private final DeliveryTable table;
    private final Lanes lanes;
    private final Register register;
    private final Matters matters;
    private final Journal journal;
    private final Meters meters;
    private final Queue queue;
    private final ApplicationEventPublisher events;
    private final Clock clock;
    private final RetryPauses pauses;
    private final Duration settle;
    private final Together<Answer, Optional<Instant>> notes;

    Answers(
            DeliveryTable table,
            Lanes lanes,
            Register register,
            Matters matters,
            Journal journal,
            Meters meters,
            Queue queue,
            ApplicationEventPublisher events,
            TransactionTemplate transaction,
            Clock clock,
            YoruSettings settings) {
        this.table = table;
        this.lanes = lanes;
        this.register = register;
        this.matters = matters;
        this.journal = journal;
        this.meters = meters;
        this.queue = queue;
        this.events = events;
        this.clock = clock;
        var delivery = settings.delivery();
        this.pauses = new RetryPauses(delivery.firstPause(), delivery.longestPause(), delivery.giveUpAfter());
        this.settle = delivery.settle();
        this.notes = new Together<>(transaction, Together.LEAVING_ONE, AT_A_TIME, this::note);
    }

    /**
     * What a system said, or why it could not be told.
     *
     * @param told as it was when it was said
     * @param last the lane, where nothing more is to be said and it is let go
     */
    record Answer(
            Delivery told,
            Connection connection,
            Person person,
            String words,
            @Nullable TroubleException trouble,
            @Nullable Lane last) {}

    /** @return when to say it again, if it failed and there is time left */
    Optional<Instant> note(Answer answer) {
        return notes.ask(answer);
    }

    /** The people before what is theirs, each in the order of their numbers: everybody locks in this order. */
    private List<Optional<Instant>> note(List<Answer> answers) {
        register.lock(answers.stream().map(it -> it.person.id()).collect(Collectors.toSet()));
        var deliveries = table.lock(answers.stream().map(it -> it.told.id()).collect(Collectors.toSet())).stream()
                .collect(Collectors.toMap(Delivery::id, Function.identity()));
        var lines = new Lines(matters.titles(deliveries.values()), new ArrayList<>());
        var next = answers.stream()
                .map(it -> Optional.ofNullable(deliveries.get(it.told.id()))
                        .flatMap(delivery -> note(it, delivery, lines)))
                .toList();
        lanes.release(answers.stream().flatMap(it -> Stream.ofNullable(it.last)).toList());
        table.flush();
        journal.writeAll(lines.written);
        var people = deliveries.values().stream().map(it -> it.personId).collect(Collectors.toSet());
        events.publishEvent(new Answered(people));
        return next;
    }

    /**
     * What the journal is to say of it.
     *
     * @param titles what each delivery is about, by its id
     */
    private record Lines(Map<Long, String> titles, List<Journal.Line> written) {

        void add(Kind kind, String said, Answer answer, Delivery delivery) {
            var person = answer.person;
            written.add(new Journal.Line(
                    kind,
                    answer.connection.title() + said,
                    person.name() + " · " + titles.get(delivery.id()),
                    answer.connection.id(),
                    person.id(),
                    delivery.factSeq));
        }
    }

    private Optional<Instant> note(Answer answer, Delivery delivery, Lines lines) {
        var trouble = answer.trouble;
        // also what was overtaken by another wish meanwhile can still take effect
        delivery.doubtful |= trouble != null
                && delivery.matter().isState()
                && trouble.trouble().mayStillTakeEffect();
        if (delivery.revision != answer.told.revision) {
            return Optional.empty();
        }
        var now = clock.instant();
        delivery.attempts++;
        delivery.reportedAt = null;
        delivery.lastAnswer = answer.words;
        delivery.lastAnswerAt = now;
        if (trouble != null) {
            return failed(answer, delivery, trouble, now, lines);
        }
        delivery.status = DeliveryState.ANSWERED;
        if (delivery.doubtful) {
            delivery.doubtful = false;
            queue.at(Repeats.SAY_AGAIN, delivery.id() + "@" + delivery.revision, now.plus(settle));
        }
        delivery.failingSince = null;
        delivery.nextTryAt = null;
        delivery.trouble = null;
        delivery.forgetCodes();
        meters.answered(answer.connection.id(), Duration.between(delivery.wantedAt, now));
        lines.add(Kind.ANSWERED, ": " + answer.words, answer, delivery);
        return Optional.empty();
    }

    private Optional<Instant> failed(
            Answer answer, Delivery delivery, TroubleException trouble, Instant now, Lines lines) {
        meters.failed(answer.connection.id());
        delivery.trouble = trouble.trouble();
        if (delivery.failingSince == null) {
            delivery.failingSince = now;
            lines.add(Kind.FAILED, " " + delivery.lastAnswer + "; trying again", answer, delivery);
        }
        var next = pauses.next(
                delivery.attempts, delivery.failingSince, now, trouble.retryAfter(), RandomGenerator.getDefault());
        delivery.nextTryAt = next.orElse(null);
        if (next.isEmpty()) {
            delivery.status = DeliveryState.GIVEN_UP;
            lines.add(Kind.FAILED, ": given up", answer, delivery);
        }
        return next;
    }
}
