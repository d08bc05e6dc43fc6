package yoru.server.findings;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.findings.Finding;
import yoru.core.findings.Finding.Kind;
import yoru.core.findings.Finding.Severity;
import yoru.core.findings.Findings;
import yoru.core.findings.Observed;
import yoru.core.findings.Observed.Offer;
import yoru.core.findings.Sales;
import yoru.server.doors.SchoolDoors;
import yoru.server.drift.Corrections;
import yoru.server.drift.Corrections.Within;
import yoru.server.journal.Journal;
import yoru.server.ledger.LedgerFigures;
import yoru.server.mapping.Consequences;
import yoru.server.mapping.DraftCell;
import yoru.server.mapping.Wanted;
import yoru.server.orders.OrderBook;
import yoru.server.platform.ProblemException;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Connections;

/** Looks the mapping in force over, together with what was sold and what the systems list. */
@Service
public class SchoolFindings {

    private final Rulebooks rulebooks;
    private final Consequences consequences;
    private final Catalogue catalogue;
    private final Connections connections;
    private final SchoolDoors doors;
    private final LedgerFigures figures;
    private final Corrections corrections;
    private final OrderBook orders;
    private final AcceptedFindings accepted;
    private final Journal journal;
    private final Clock clock;

    SchoolFindings(
            Rulebooks rulebooks,
            Consequences consequences,
            Catalogue catalogue,
            Connections connections,
            SchoolDoors doors,
            LedgerFigures figures,
            Corrections corrections,
            OrderBook orders,
            AcceptedFindings accepted,
            Journal journal,
            Clock clock) {
        this.rulebooks = rulebooks;
        this.consequences = consequences;
        this.catalogue = catalogue;
        this.connections = connections;
        this.doors = doors;
        this.figures = figures;
        this.corrections = corrections;
        this.orders = orders;
        this.accepted = accepted;
        this.journal = journal;
        this.clock = clock;
    }

    /**
     * A finding as it is shown.
     *
     * @param subject what it is about, as a path
     * @param fix cells that would put it right
     * @param system where its people are seen and taken out; none = it is about no people of a system
     * @param acceptance that somebody wants it so; none = it is open
     */
    public record ShownFinding(
            Kind kind,
            Severity severity,
            String subject,
            String title,
            String text,
            String advice,
            int people,
            String evidence,
            List<DraftCell> fix,
            @Nullable String system,
            @Nullable Acceptance acceptance) {}

    public record Acceptance(String reason, String by, Instant at) {}

    /** The gravest first; those accepted too, as long as they rest on the same. */
    @Transactional(readOnly = true)
    public List<ShownFinding> all() {
        var within = corrections.withoutReason();
        return shown(found(within), within);
    }

    /**
     * What a draft does to what is found.
     *
     * @param brought what is found only with it
     * @param standing what is found without it too, at something that it touches; nothing that was accepted
     * @param mended how many are found no more
     */
    public record OfDraft(List<ShownFinding> brought, List<ShownFinding> standing, int mended) {}

    /** @throws yoru.formats.UnreadableException where the draft is no rulebook, naming the place of every fault */
    @Transactional(readOnly = true)
    public OfDraft of(Wanted wanted) {
        var within = corrections.withoutReason();
        var observed = observed(within);
        var now = rulebooks.overTodaysCatalogue();
        var turn = Findings.turn(
                new Findings(now.rulebook()).check(observed),
                new Findings(consequences.rulebook(now, wanted)).check(observed),
                wanted.touched());
        return new OfDraft(open(turn.brought(), within), open(turn.standing(), within), turn.mended());
    }

    /** Those that nobody has accepted and that ask for somebody; who is in without a reason is counted as out of step. */
    @Transactional(readOnly = true)
    public List<ShownFinding> urgent() {
        return open(found(List.of()), List.of()).stream()
                .filter(finding -> finding.severity != Severity.NOTE)
                .toList();
    }

    @Transactional
    public void accept(Kind kind, String subject, String evidence, String reason, String by) {
        var finding = found(corrections.withoutReason()).stream()
                .filter(it -> it.kind() == kind
                        && it.subject().equals(subject)
                        && it.evidence().equals(evidence))
                .findFirst()
                .orElseThrow(() -> new ProblemException(
                        HttpStatus.CONFLICT,
                        "It is not so any more",
                        "What was to be accepted has changed meanwhile. Nothing was accepted; look at it again."));
        accepted.save(
                new AcceptedFinding(new AcceptedFinding.Id(kind, subject), evidence, reason, by, clock.instant()));
        note("Finding accepted", finding.title() + ": " + reason, by);
    }

    @Transactional
    public void reopen(Kind kind, String subject, String by) {
        accepted.deleteById(new AcceptedFinding.Id(kind, subject));
        note("Finding opened again", subject, by);
    }

    private List<Finding> found(List<Within> within) {
        return new Findings(rulebooks.overTodaysCatalogue().rulebook()).check(observed(within));
    }

    private Observed observed(List<Within> within) {
        var published = rulebooks.current();
        var products = catalogue.products();
        var things = products.stream()
                .filter(Catalogue.SoldProduct::thing)
                .map(Catalogue.SoldProduct::id)
                .collect(Collectors.toSet());
        var sales = figures.sold().stream()
                .map(sold -> new Sales(sold.product(), sold.buyers(), things.contains(sold.product())))
                .toList();
        var offers = products.stream()
                .map(sold -> new Offer(sold.id(), sold.price(), sold.currency(), sold.thing(), sold.about()))
                .toList();
        var courses =
                catalogue.courses().stream().map(Catalogue.TaughtCourse::state).toList();
        var now = LocalDateTime.ofInstant(
                clock.instant(), published.rulebook().school().zone());
        var checkouts = catalogue.checkouts().stream()
                .map(it -> new Observed.Checkout(
                        it.connection(), connections.get(it.connection()).title(), it.guests(), it.password()))
                .toList();
        return new Observed(
                sales,
                orNone(offers),
                orNone(courses),
                catalogue.vanishedCourses(),
                within.stream()
                        .map(it -> new Observed.Strangers(it.course(), it.names(), it.people()))
                        .toList(),
                orders.surplus().stream()
                        .map(it -> new Observed.Surplus(it.order(), it.name(), it.products()))
                        .toList(),
                checkouts,
                published.number() == 0 ? null : published.rulebook(),
                now,
                doors.paths());
    }

    /** Where no system lists anything there is nothing to compare with: the catalogue came from a file. */
    private static <T> @Nullable List<T> orNone(List<T> listed) {
        return listed.isEmpty() ? null : listed;
    }

    private List<ShownFinding> open(List<Finding> findings, List<Within> within) {
        return shown(findings, within).stream()
                .filter(finding -> finding.acceptance == null)
                .toList();
    }

    private List<ShownFinding> shown(List<Finding> findings, List<Within> within) {
        Map<AcceptedFinding.Id, AcceptedFinding> known =
                accepted.findAll().stream().collect(Collectors.toMap(it -> it.id, Function.identity()));
        Map<String, String> systems = within.stream()
                .collect(Collectors.toMap(it -> "course/" + it.course(), Within::connection, (one, other) -> one));
        return findings.stream()
                .map(finding ->
                        shown(finding, systems, known.get(new AcceptedFinding.Id(finding.kind(), finding.subject()))))
                .toList();
    }

    private static ShownFinding shown(Finding finding, Map<String, String> systems, @Nullable AcceptedFinding known) {
        boolean holds = known != null && known.evidence.equals(finding.evidence());
        return new ShownFinding(
                finding.kind(),
                finding.kind().severity(),
                finding.subject(),
                finding.title(),
                finding.text(),
                finding.advice(),
                finding.people(),
                finding.evidence(),
                finding.fix().stream().map(DraftCell::of).toList(),
                finding.kind() == Kind.IN_WITHOUT_REASON ? systems.get(finding.subject()) : null,
                known == null || !holds ? null : new Acceptance(known.reason, known.acceptedBy, known.acceptedAt));
    }

    private void note(String what, String text, String by) {
        journal.write(new Journal.Line(yoru.server.journal.Kind.OPERATOR, what, text, by, null, null));
    }
}
