package yoru.server.today;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.systems.Difference;
import yoru.server.access.Openings;
import yoru.server.charges.Charges;
import yoru.server.deliveries.DeliveryFigures;
import yoru.server.deliveries.DeliveryList;
import yoru.server.deliveries.DeliveryState;
import yoru.server.doors.Signs;
import yoru.server.drift.Checks;
import yoru.server.findings.SchoolFindings;
import yoru.server.findings.SchoolFindings.ShownFinding;
import yoru.server.intake.Untaken;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.LedgerFigures;
import yoru.server.orders.OrderBook;
import yoru.server.platform.ProblemException;
import yoru.server.platform.Queue;
import yoru.server.reception.HeldBack;
import yoru.server.rehearsals.Rehearsals;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;

/** What needs a person now. */
@RestController
class TodayController {

    private static final Duration SOON = Duration.ofDays(14);

    private final Connections connections;
    private final LedgerFigures sales;
    private final SchoolFindings findings;
    private final DeliveryList deliveries;
    private final DeliveryFigures figures;
    private final Openings openings;
    private final Checks checks;
    private final OrderBook orders;
    private final HeldBack held;
    private final Untaken untaken;
    private final Charges charges;
    private final Rehearsals rehearsals;
    private final Signs signs;
    private final Queue queue;
    private final Journal journal;
    private final Clock clock;

    TodayController(
            Connections connections,
            LedgerFigures sales,
            SchoolFindings findings,
            DeliveryList deliveries,
            DeliveryFigures figures,
            Openings openings,
            Checks checks,
            OrderBook orders,
            HeldBack held,
            Untaken untaken,
            Charges charges,
            Rehearsals rehearsals,
            Signs signs,
            Queue queue,
            Journal journal,
            Clock clock) {
        this.connections = connections;
        this.sales = sales;
        this.findings = findings;
        this.deliveries = deliveries;
        this.figures = figures;
        this.openings = openings;
        this.checks = checks;
        this.orders = orders;
        this.held = held;
        this.untaken = untaken;
        this.charges = charges;
        this.rehearsals = rehearsals;
        this.signs = signs;
        this.queue = queue;
        this.journal = journal;
        this.clock = clock;
    }

    record Today(
            @Nullable Instant lastSale,
            List<Failing> failing,
            List<Untried> untried,
            List<Untaken.Reports> untaken,
            List<Charges.Refused> refused,
            List<AtOdds> outOfStep,
            List<Signs.ShownOtherwise> shownOtherwise,
            List<ShownFinding> findings,
            List<Rehearsals.NotAsRehearsed> rehearsals,
            List<Stuck> stuck,
            OrderBook.Waiting orders,
            HeldBack.HeldCount held,
            long endingSoon,
            Since sinceYesterday,
            List<SystemHealth> systems) {}

    /**
     * Work of the server's own that fails and fails.
     *
     * @param what it is, in words
     * @param stopped whether it is not tried again before somebody says so
     */
    record Stuck(
            String task,
            String id,
            String what,
            int failures,
            @Nullable Instant lastFailure,
            boolean stopped) {}

    /** A system that is told nothing, though nothing fails. */
    record Untried(String connection, String system, long many, Instant since) {}

    /** A system that does not do what it was told. */
    record Failing(
            String connection,
            String system,
            int people,
            int givenUp,
            Instant since,
            @Nullable String said,
            @Nullable Instant nextTryAt,
            @Nullable Long firstPerson) {}

    /**
     * A system that has something else than Yoru wants there.
     *
     * @param people at least; somebody may be counted once for each kind
     * @param extra how much it has without a reason
     * @param missing how much it lacks
     * @param different how much has another end
     */
    record AtOdds(String connection, String system, int people, int extra, int missing, int different) {}

    record Since(long sold, long opened, long ended, long refunded) {}

    record SystemHealth(
            String id,
            String title,
            String kind,
            Connection.State state,
            @Nullable Instant heardAt,
            @Nullable Instant catalogueAt,
            @Nullable String catalogueFault,
            long waiting,
            long givenUp,
            long failing,
            long refused) {}

    @GetMapping("/api/today")
    @Transactional(readOnly = true)
    public Today today() {
        var now = clock.instant();
        var yesterday = now.minus(Duration.ofDays(1));
        var count = sales.since(yesterday);
        var windows = openings.between(yesterday, now);
        var failing = deliveries.failing();
        var tallies = figures.tally();
        return new Today(
                sales.lastSale().orElse(null),
                failing(failing),
                figures.untried().stream()
                        .map(it -> new Untried(
                                it.connection(), connections.title(it.connection()), it.many(), it.oldest()))
                        .toList(),
                untaken.all(),
                charges.refused(),
                outOfStep(),
                signs.otherwise(),
                findings.urgent(),
                rehearsals.failing(),
                stuck(),
                orders.waiting(),
                held.count(),
                openings.peopleEnding(now, now.plus(SOON)),
                new Since(count.sold(), windows.opened(), windows.ended(), count.refunded()),
                connections.all().stream()
                        .map(connection -> health(connection, failing, tallies))
                        .toList());
    }

    private List<Stuck> stuck() {
        return queue.failing().stream()
                .map(it -> new Stuck(
                        it.task(), it.id(), it.task().replace('-', ' '), it.failures(), it.lastFailure(), it.stopped()))
                .toList();
    }

    record StuckWork(
            @NotBlank @Size(max = 100) String task,
            @NotBlank @Size(max = 300) String id) {}

    /** Has work tried once more that had stopped. */
    @PostMapping("/api/today/work/again")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void again(@Valid @RequestBody StuckWork work, @AuthenticationPrincipal Principal operator) {
        if (!queue.tryAgain(work.task, work.id)) {
            throw ProblemException.notFound("It is being tried again already, or was done.");
        }
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                "Stopped work is tried again",
                work.task + " · " + work.id,
                operator.getName(),
                null,
                null));
    }

    /** Reports that could not be taken up and have the words somewhere in them: a sale that is looked for may be one. */
    @GetMapping("/api/untaken")
    List<Untaken.Naming> untaken(@RequestParam @Size(max = 200) String q) {
        return untaken.naming(q);
    }

    private static List<Failing> failing(List<DeliveryList.DeliveryStatus> standings) {
        Map<String, List<DeliveryList.DeliveryStatus>> bySystem =
                standings.stream().collect(Collectors.groupingBy(DeliveryList.DeliveryStatus::connection));
        return bySystem.values().stream()
                .map(of -> new Failing(
                        of.getFirst().connection(),
                        of.getFirst().system(),
                        (int) of.stream()
                                .map(DeliveryList.DeliveryStatus::person)
                                .distinct()
                                .count(),
                        (int) of.stream()
                                .filter(it -> it.state() == DeliveryState.GIVEN_UP)
                                .count(),
                        Objects.requireNonNull(of.getFirst().failingSince()),
                        of.getLast().answer(),
                        of.stream()
                                .map(DeliveryList.DeliveryStatus::nextTryAt)
                                .filter(Objects::nonNull)
                                .min(Comparator.naturalOrder())
                                .orElse(null),
                        of.getFirst().person()))
                .sorted(Comparator.comparing(Failing::since))
                .toList();
    }

    private List<AtOdds> outOfStep() {
        Map<String, List<Checks.Count>> bySystem =
                checks.counts().stream().collect(Collectors.groupingBy(Checks.Count::connection));
        return connections.all().stream()
                .filter(connection -> bySystem.containsKey(connection.id()))
                .map(connection -> {
                    var counts = bySystem.getOrDefault(connection.id(), List.of());
                    return new AtOdds(
                            connection.id(),
                            connection.title(),
                            counts.stream().mapToInt(Checks.Count::people).max().orElse(0),
                            many(counts, Difference.Kind.EXTRA),
                            many(counts, Difference.Kind.MISSING),
                            many(counts, Difference.Kind.DIFFERENT));
                })
                .toList();
    }

    private static int many(List<Checks.Count> counts, Difference.Kind kind) {
        return counts.stream()
                .filter(count -> count.kind() == kind)
                .mapToInt(Checks.Count::many)
                .sum();
    }

    private static SystemHealth health(
            Connection connection, List<DeliveryList.DeliveryStatus> failing, List<DeliveryFigures.Tally> tallies) {
        Map<DeliveryState, Long> tally = tallies.stream()
                .filter(row -> row.connection().equals(connection.id()))
                .collect(Collectors.toMap(DeliveryFigures.Tally::state, DeliveryFigures.Tally::many));
        return new SystemHealth(
                connection.id(),
                connection.title(),
                connection.kind().name(),
                connection.state(),
                connection.heardAt().orElse(null),
                connection.catalogueAt().orElse(null),
                connection.catalogueFault().orElse(null),
                tally.getOrDefault(DeliveryState.WAITING, 0L),
                tally.getOrDefault(DeliveryState.GIVEN_UP, 0L),
                failing.stream()
                        .filter(it -> it.connection().equals(connection.id()))
                        .count(),
                connection.refused());
    }
}
