package yoru.server.intake;

import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.formats.FactReader;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;
import yoru.formats.matching.Matched;
import yoru.formats.matching.Matcher;
import yoru.formats.matching.Matching;
import yoru.server.intake.Received.Outcome;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.FactKeeper;
import yoru.server.platform.PersonForgotten;
import yoru.server.reception.Reception;
import yoru.server.reception.Reception.Fate;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;

/** Takes up what systems report in words of their own. */
@Service
class Intake {

    /** What was taken up can be looked at for this long; what was not stays until it is. */
    private static final Duration KEPT = Duration.ofDays(30);

    private final ReceivedTable table;
    private final MatchingVersions versions;
    private final Connections connections;
    private final FactKeeper keeper;
    private final Reception reception;
    private final Journal journal;
    private final JsonMapper json;
    private final Clock clock;
    private final Map<String, Known> lastRead = new ConcurrentHashMap<>();

    Intake(
            ReceivedTable table,
            MatchingVersions versions,
            Connections connections,
            FactKeeper keeper,
            Reception reception,
            Journal journal,
            JsonMapper json,
            Clock clock) {
        this.table = table;
        this.versions = versions;
        this.connections = connections;
        this.keeper = keeper;
        this.reception = reception;
        this.journal = journal;
        this.json = json;
        this.clock = clock;
    }

    private static final Matched NOT_MATCHED = new Matched(List.of(), Map.of(), List.of(), false);

    private record Known(int number, Matching matching) {}

    /** @param again whether it had come before */
    record Taken(Outcome outcome, String said, boolean again) {}

    /** The matching in use; none = the system speaks CloudEvents, as Yoru does. */
    @Transactional(readOnly = true)
    public Optional<Matching> matching(String connection) {
        var newest = versions.findFirstByConnectionIdOrderByNumberDesc(connection);
        if (newest.isEmpty()) {
            return Optional.empty();
        }
        var version = newest.get();
        return Optional.of(lastRead.compute(
                        connection,
                        (id, known) -> known != null && known.number == version.number
                                ? known
                                : new Known(version.number, Matching.read(json.readTree(version.document))))
                .matching);
    }

    /**
     * Keeps a report and takes it up, in one transaction. The same report again changes nothing.
     *
     * @param reportId tells reports apart; the system's own where it has one
     */
    @Transactional
    public Taken take(Connection connection, String reportId, String body) {
        connections.heard(connection.id()); // before anything else is locked
        table.oneAtATime(connection.id() + " " + reportId);
        var known = table.findByConnectionIdAndReportId(connection.id(), reportId);
        if (known.isPresent()) {
            return new Taken(known.get().outcome, known.get().said, true);
        }
        var received = new Received(connection.id(), reportId, clock.instant(), body);
        if (connection.isOn()) {
            takeUp(connection, received);
        }
        table.save(received);
        if (received.outcome == Outcome.FAULTY) {
            journal.gather(
                    Kind.WARNING,
                    "A report could not be taken up",
                    connection.title() + ": " + received.said,
                    connection.id());
        }
        return new Taken(received.outcome, received.said, false);
    }

    /** Has what was not taken up tried again with the matching as it is now. @return how many were taken up now */
    @Transactional
    public int again(Connection connection, String operator) {
        var left = table.findByConnectionIdAndOutcomeInOrderById(
                connection.id(), EnumSet.complementOf(EnumSet.of(Outcome.TAKEN)));
        left.forEach(received -> takeUp(connection, received));
        int taken = (int) left.stream()
                .filter(received -> received.outcome == Outcome.TAKEN)
                .count();
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                "Reports taken up again",
                "%s: %d of %d".formatted(connection.title(), taken, left.size()),
                operator,
                null,
                null));
        return taken;
    }

    private void takeUp(Connection connection, Received received) {
        try {
            var matched = matched(connection, received);
            if (!matched.told()) {
                become(received, Outcome.SET_ASIDE, "no rule fits it");
            } else if (!matched.faults().isEmpty()) {
                become(received, Outcome.FAULTY, inWords(matched.faults()));
            } else {
                keep(connection, received, matched.events());
            }
        } catch (UnreadableException e) {
            become(received, Outcome.FAULTY, inWords(e.faults()));
        }
    }

    private void keep(Connection connection, Received received, List<JsonNode> events) {
        keeper.waitFor(events.stream().map(FactKeeper::read).toList());
        var fates = events.stream()
                .map(event -> reception.receive(connection.id(), event))
                .collect(Collectors.toSet());
        become(received, Outcome.TAKEN, String.join(", ", types(events)) + inWords(fates));
    }

    private static String inWords(Set<Fate> fates) {
        if (fates.equals(Set.of(Fate.KNOWN_ALREADY))) {
            return " (known already)";
        }
        return fates.contains(Fate.HELD) ? " (held)" : fates.contains(Fate.SKIPPED) ? " (left out)" : "";
    }

    private static void become(Received received, Outcome outcome, String said) {
        received.outcome = outcome;
        received.said = said;
    }

    private Matched matched(Connection connection, Received received) {
        return matching(connection.id())
                .map(matching -> read(connection, matching, received))
                .orElseGet(() -> connection.kind().speaksEvents() ? asItIs(received) : NOT_MATCHED);
    }

    /** What a report would come to under a matching. */
    static Matched read(Connection connection, Matching matching, Received received) {
        return new Matcher(matching, "/systems/" + connection.id()).read(received.body, received.reportId, received.at);
    }

    /** A report in Yoru's own words that came while the system was tried. */
    private static Matched asItIs(Received received) {
        var event = FactReader.parse(received.body.getBytes(StandardCharsets.UTF_8));
        return new Matched(List.of(event), Map.of(), List.of(), true);
    }

    @Transactional
    public void forget() {
        table.forget(Outcome.TAKEN, clock.instant().minus(KEPT));
    }

    private static List<String> types(List<JsonNode> events) {
        return events.stream()
                .map(event -> event.path("type").asString("").replace("yoru.", ""))
                .toList();
    }

    static String inWords(List<Fault> faults) {
        return faults.stream()
                .map(fault -> fault.field().isEmpty() ? fault.problem() : fault.field() + " " + fault.problem())
                .collect(Collectors.joining("; "));
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        table.forgetPeople(forgotten.keysAsJson());
    }
}
