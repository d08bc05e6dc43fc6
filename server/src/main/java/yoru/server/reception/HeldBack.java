package yoru.server.reception;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.springframework.context.event.EventListener;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.formats.FactReader;
import yoru.server.desk.ActConsequences;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.FactKeeper;
import yoru.server.ledger.FactWords;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Register;
import yoru.server.platform.PersonForgotten;
import yoru.server.reception.HeldReport.State;
import yoru.server.reception.HeldReport.Why;
import yoru.server.rulebooks.Rulebooks;

/** What waits to be let in, and what becomes of it. */
@Service
public class HeldBack {

    private static final int MOST = 200;

    /** An order that was overtaken comes within that. */
    private static final Duration SOON = Duration.ofMinutes(5);

    private final HeldReports reports;
    private final Reception reception;
    private final LedgerReader ledger;
    private final Register register;
    private final FactKeeper keeper;
    private final Rulebooks rulebooks;
    private final ActConsequences consequences;
    private final Journal journal;
    private final Clock clock;

    HeldBack(
            HeldReports reports,
            Reception reception,
            LedgerReader ledger,
            Register register,
            FactKeeper keeper,
            Rulebooks rulebooks,
            ActConsequences consequences,
            Journal journal,
            Clock clock) {
        this.reports = reports;
        this.reception = reception;
        this.ledger = ledger;
        this.register = register;
        this.keeper = keeper;
        this.rulebooks = rulebooks;
        this.consequences = consequences;
        this.journal = journal;
        this.clock = clock;
    }

    /**
     * How much waits to be let in.
     *
     * @param guests orders by guests
     * @param unknown people nobody has heard of, and orders that should have come by now
     */
    public record HeldCount(int guests, int unknown) {}

    /**
     * Reports about one thing that wait together.
     *
     * @param about an order, a subscription, or a person of whom nothing else is known
     * @param known whether the person has become known since
     */
    record HeldCase(
            String about, Why why, String person, String name, Instant since, boolean known, List<HeldLine> reports) {}

    /** One report, in words. */
    record HeldLine(String system, Instant at, String title, String text) {}

    /**
     * @param count how many cases there are
     * @param cases the longest waiting
     */
    record HeldList(int count, List<HeldCase> cases) {}

    @Transactional(readOnly = true)
    public HeldCount count() {
        var now = clock.instant();
        return new HeldCount(
                reports.waiting(Why.GUEST, now),
                reports.waiting(Why.UNKNOWN_CONTACT, now) + reports.waiting(Why.EARLY, now.minus(SOON)));
    }

    /** The orders by a guest with an address that wait to be let in. */
    @Transactional(readOnly = true)
    public List<String> ordersOf(String address) {
        return reports.guestsOrders(address);
    }

    @Transactional(readOnly = true)
    public HeldList waiting() {
        var about = reports.waiting(Limit.of(MOST));
        var byCase = reports.findByAboutInAndStateOrderByHappenedAtAscIdAsc(about, State.HELD).stream()
                .collect(Collectors.groupingBy(report -> report.about));
        return new HeldList(
                reports.countCases(),
                about.stream()
                        .map(one -> shown(one, byCase.getOrDefault(one, List.of())))
                        .toList());
    }

    private HeldCase shown(String about, List<HeldReport> reports) {
        var first = reports.getFirst();
        return new HeldCase(
                about,
                first.why,
                first.subject,
                reports.stream()
                        .map(it -> it.name)
                        .filter(it -> !it.isEmpty())
                        .findFirst()
                        .orElse(first.subject),
                first.receivedAt,
                ledger.isKnown(first.subject),
                reports.stream().map(this::line).toList());
    }

    private HeldLine line(HeldReport report) {
        var fact = FactReader.read(report.event());
        UnaryOperator<String> title = rulebooks.current().rulebook()::titleOfProduct;
        return new HeldLine(report.connectionId, report.happenedAt, FactWords.title(fact), FactWords.text(fact, title));
    }

    /** What letting something in would change; empty where it waits no longer. */
    @Transactional(readOnly = true)
    public List<ActConsequences.Touched> consequence(String about) {
        var waiting = reports.findByAboutAndStateOrderByHappenedAtAscIdAsc(about, State.HELD);
        if (waiting.isEmpty()) {
            return List.of();
        }
        var facts =
                waiting.stream().map(report -> FactReader.read(report.event())).toList();
        return consequences.ofFacts(
                facts, waiting.stream().collect(Collectors.toMap(it -> it.subject, it -> it.name, (one, _) -> one)));
    }

    /** Lets in all that waits about something; its facts count from when they happened. @return whether anything waited */
    @Transactional
    public boolean release(String about, String operator) {
        return decide(about, State.RELEASED, "Let in", operator);
    }

    /** Leaves out all that waits about something, and what is still to come about it. @return whether anything waited */
    @Transactional
    public boolean leaveOut(String about, String operator) {
        return decide(about, State.LEFT_OUT, "Left out", operator);
    }

    private boolean decide(String about, State state, String words, String operator) {
        keeper.holdBackAll(); // what waits may join people
        var waiting = reports.findByAboutAndStateOrderByHappenedAtAscIdAsc(about, State.HELD);
        if (waiting.isEmpty()) {
            return false;
        }
        for (HeldReport report : waiting) {
            if (state == State.RELEASED) {
                reception.letIn(report, operator);
            } else {
                report.become(state, clock.instant(), operator);
            }
        }
        var first = waiting.getFirst();
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                words + ": " + FactWords.title(FactReader.read(first.event())),
                first.subject,
                operator,
                register.person(first.subject).map(person -> person.id()).orElse(null),
                null));
        return true;
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        reports.forgetPeople(forgotten.keysAsJson());
    }
}
