package yoru.server.reception;

import java.time.Clock;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.BooleanSupplier;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.JsonNode;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.policies.Policies.Introduction;
import yoru.core.policies.Policies.Verdict;
import yoru.formats.Introductions;
import yoru.formats.UnreadableException;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.FactKeeper;
import yoru.server.ledger.FactWords;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Origin;
import yoru.server.platform.Queue;
import yoru.server.platform.Together;
import yoru.server.policies.SchoolPolicies;
import yoru.server.reception.HeldReport.State;
import yoru.server.reception.HeldReport.Why;
import yoru.server.systems.Connections;

/** Lets reports in as the school's policies say. */
@Service
public class Reception {

    private static final int AT_A_TIME = 50;

    private final Connections connections;
    private final LedgerReader ledger;
    private final FactKeeper keeper;
    private final SchoolPolicies policies;
    private final HeldReports held;
    private final Journal journal;
    private final Queue queue;
    private final Clock clock;
    private final Together<Report, Fate> together;

    Reception(
            Connections connections,
            LedgerReader ledger,
            FactKeeper keeper,
            SchoolPolicies policies,
            HeldReports held,
            Journal journal,
            Queue queue,
            TransactionTemplate transaction,
            Clock clock) {
        this.connections = connections;
        this.ledger = ledger;
        this.keeper = keeper;
        this.policies = policies;
        this.held = held;
        this.journal = journal;
        this.queue = queue;
        this.clock = clock;
        this.together = new Together<>(transaction, Together.ON_EACH, AT_A_TIME, this::receive);
    }

    /** What became of a report. */
    public enum Fate {
        KEPT,
        KNOWN_ALREADY,
        /** Its id is known with other content; the first counts. */
        CONTRADICTS,
        /** It says back what Yoru told the system. */
        ECHO,
        /** It waits for somebody to let it in. */
        HELD,
        /** It is about somebody unknown, and the school wants none of that. */
        SKIPPED
    }

    /** An event that a system reports. */
    private record Report(String connection, JsonNode event, Fact fact) {

        private boolean isRelatedTo(HeldReport other) {
            return other.about.equals(Reception.about(fact))
                    || (other.source.equals(fact.id().source())
                            && other.eventId.equals(fact.id().id()));
        }
    }

    /**
     * Takes a report up in a transaction of its own, or of all that come at the same time. What cannot be read is refused
     * before anything is kept.
     */
    public Fate takeUp(String connection, JsonNode event) {
        return together.ask(new Report(connection, event, FactKeeper.read(event)));
    }

    /**
     * What is locked, people in the end, is locked in one order, so that two who do this do not wait for each other. What
     * nothing holds back is kept together, the rest one after another.
     */
    private List<Fate> receive(List<Report> reports) {
        reports.stream().map(Report::connection).distinct().sorted().forEach(connections::heard);
        keeper.waitFor(reports.stream().map(Report::fact).toList());
        var sorted = IntStream.range(0, reports.size())
                .boxed()
                .sorted(Comparator.comparing(at -> reports.get(at).fact.subject()))
                .toList();
        var free = free(reports);
        var fates = new Fate[reports.size()];
        var together = sorted.stream().filter(free::contains).toList();
        var kept = take(together.stream().map(reports::get).toList());
        for (int n = 0; n < kept.size(); n++) {
            fates[together.get(n)] = kept.get(n);
        }
        sorted.stream().filter(at -> !free.contains(at)).forEach(at -> fates[at] = receive(reports.get(at)));
        return List.of(fates);
    }

    /** The places of those that no policy holds back, and that are about nothing that waits or was left out. */
    private Set<Integer> free(List<Report> reports) {
        var waiting = held.about(
                reports.stream().map(report -> about(report.fact)).collect(Collectors.toSet()),
                reports.stream().map(report -> report.fact.id().source()).collect(Collectors.toSet()),
                reports.stream().map(report -> report.fact.id().id()).collect(Collectors.toSet()));
        return IntStream.range(0, reports.size())
                .filter(at -> waiting.stream().noneMatch(reports.get(at)::isRelatedTo)
                        && verdict(reports.get(at)) == Verdict.TAKE)
                .boxed()
                .collect(Collectors.toSet());
    }

    private Verdict verdict(Report report) {
        var introduction = Introductions.read(report.event);
        return policies.inForce()
                .on(
                        report.fact,
                        introduction,
                        () -> isKnown(report.fact, introduction),
                        () -> !(report.fact.happening() instanceof Happening.OfOrder it)
                                || ledger.knowsOrder(it.order()));
    }

    /** Takes a report up in the transaction at hand. */
    @Transactional(noRollbackFor = UnreadableException.class)
    public Fate receive(String connection, JsonNode event) {
        return receive(List.of(new Report(connection, event, FactKeeper.read(event))))
                .getFirst();
    }

    private Fate receive(Report report) {
        var fact = report.fact;
        var about = about(fact);
        if (held.findBySourceAndEventId(fact.id().source(), fact.id().id()).isPresent()) {
            return Fate.KNOWN_ALREADY;
        }
        BooleanSupplier known = () -> isKnown(fact, Introductions.read(report.event));
        var before = held.findFirstByAboutAndStateNotOrderById(about, State.RELEASED);
        var order = fact.happening() instanceof Happening.OrderPlaced;
        if (before.isPresent() && before.get().waitsWith(known) && !(order && before.get().why == Why.EARLY)) {
            // what is said about something that waits waits with it, and about what was left out is left out with it
            hold(report.connection, fact, report.event, before.get());
            return before.get().state == State.HELD ? Fate.HELD : Fate.SKIPPED;
        }
        return switch (verdict(report)) {
            case TAKE -> {
                var fate = take(List.of(report)).getFirst();
                if (order && before.isPresent()) {
                    waitedForIt(about).forEach(waited -> letIn(waited, null));
                }
                yield fate;
            }
            case HOLD_GUEST -> {
                waitedForIt(about).forEach(waited -> waited.why = Why.GUEST);
                yield hold(report.connection, fact, report.event, new HeldReport(report.connection, about, Why.GUEST));
            }
            case HOLD_EARLY ->
                hold(report.connection, fact, report.event, new HeldReport(report.connection, about, Why.EARLY));
            case HOLD_UNKNOWN ->
                hold(
                        report.connection,
                        fact,
                        report.event,
                        new HeldReport(report.connection, about, Why.UNKNOWN_CONTACT));
            case SKIP_UNKNOWN -> {
                journal.gather(
                        Kind.WARNING,
                        "A report about somebody unknown was left out",
                        fact.subject() + ": " + FactWords.title(fact),
                        report.connection);
                yield Fate.SKIPPED;
            }
        };
    }

    private List<HeldReport> waitedForIt(String about) {
        return held.findByAboutAndStateOrderByHappenedAtAscIdAsc(about, State.HELD).stream()
                .filter(report -> report.why == Why.EARLY)
                .toList();
    }

    /**
     * Makes a report a fact that waited.
     *
     * @param by none = what it waited for has come
     */
    void letIn(HeldReport report, @Nullable String by) {
        var event = report.event();
        take(List.of(new Report(report.connectionId, event, FactKeeper.read(event))));
        report.become(State.RELEASED, clock.instant(), by);
    }

    /** What reports that belong together are about. */
    static String about(Fact fact) {
        return fact.happening().thing().orElse("person " + fact.subject());
    }

    private boolean isKnown(Fact fact, Introduction introduction) {
        return ledger.isKnown(fact.subject())
                || policies.inForce()
                        .joins(fact.subject(), introduction)
                        .filter(ledger::isKnown)
                        .isPresent();
    }

    private List<Fate> take(List<Report> reports) {
        var fates = keeper
                .keepAll(reports.stream()
                        .map(it -> new FactKeeper.Said(new Origin.OfSystem(it.connection), it.event))
                        .toList())
                .stream()
                .map(fate -> Fate.valueOf(fate.name()))
                .toList();
        for (int at = 0; at < fates.size(); at++) {
            if (fates.get(at) == Fate.KEPT) {
                join(reports.get(at));
            }
        }
        return fates;
    }

    /** Whom a system knows by another address that it has verified becomes one person, where the school wants that. */
    private void join(Report report) {
        var subject = report.fact.subject();
        policies.inForce()
                .joins(subject, Introductions.read(report.event))
                .filter(address -> !ledger.wasJoined(subject))
                .ifPresent(address -> queue.now(ReceptionTasks.JOIN, subject));
    }

    private Fate hold(String connection, Fact fact, JsonNode event, HeldReport like) {
        boolean first = like.id == null;
        var report = first ? like : new HeldReport(connection, like.about, like.why);
        report.state = like.state;
        report.source = fact.id().source();
        report.eventId = fact.id().id();
        report.subject = fact.subject();
        report.name = FactKeeper.nameIn(event);
        report.happenedAt = fact.time();
        report.receivedAt = clock.instant();
        report.body = event.toString();
        held.save(report);
        if (first && like.why != Why.EARLY) {
            journal.write(new Journal.Line(
                    Kind.WARNING,
                    "Held: " + FactWords.title(fact),
                    Optional.of(report.name).filter(name -> !name.isEmpty()).orElse(fact.subject()) + " · "
                            + (like.why == Why.GUEST ? "bought as a guest" : "nobody has heard of them"),
                    connection,
                    null,
                    null));
        }
        return Fate.HELD;
    }
}
