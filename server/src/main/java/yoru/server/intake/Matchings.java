package yoru.server.intake;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.ledger.Fact;
import yoru.formats.FactReader;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;
import yoru.formats.matching.Field;
import yoru.formats.matching.Matched;
import yoru.formats.matching.Matching;
import yoru.server.intake.Received.Outcome;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.FactWords;
import yoru.server.platform.ProblemException;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;

/** How the fields of a system are matched: shown beside what came in, tried, kept in versions. */
@Service
public class Matchings {

    private static final int LATEST = 20;

    private final MatchingVersions versions;
    private final ReceivedTable received;
    private final Connections connections;
    private final Journal journal;
    private final JsonMapper json;
    private final Clock clock;

    Matchings(
            MatchingVersions versions,
            ReceivedTable received,
            Connections connections,
            Journal journal,
            JsonMapper json,
            Clock clock) {
        this.versions = versions;
        this.received = received;
        this.connections = connections;
        this.journal = journal;
        this.json = json;
        this.clock = clock;
    }

    /**
     * Everything about the matching of one system.
     *
     * @param version 0 = none was kept yet
     * @param left how many reports are not taken up, by why
     */
    record MatchingShown(
            int version,
            @Nullable JsonNode document,
            List<FieldShown> fields,
            List<String> facts,
            List<Kept> versions,
            List<Report> latest,
            Map<Outcome, Long> left) {}

    record FieldShown(String id, String title, boolean required, List<String> facts) {}

    record Kept(int number, String note, String by, Instant at) {}

    /** A report as it came. */
    record Report(long id, Instant at, String body, Outcome outcome, String said) {}

    /**
     * What the latest reports would come to.
     *
     * @param missing required fields that nothing is matched with
     * @param faults what is wrong with the matching itself; the reports were not tried then
     */
    record Trial(List<String> missing, List<FaultShown> faults, List<TrialOfOne> reports) {}

    record FaultShown(String field, String problem) {}

    /**
     * What one report would come to.
     *
     * @param told whether a rule fits it
     * @param facts what would be kept, in words
     */
    record TrialOfOne(long id, boolean told, Map<String, String> values, List<FaultShown> faults, List<String> facts) {}

    @Transactional(readOnly = true)
    public MatchingShown of(String id) {
        var connection = connections.get(id);
        var all = versions.findByConnectionIdOrderByNumberDesc(id);
        Map<Outcome, Long> left = new EnumMap<>(Outcome.class);
        for (Outcome outcome : EnumSet.complementOf(EnumSet.of(Outcome.TAKEN))) {
            long many = received.countByConnectionIdAndOutcome(id, outcome);
            if (many > 0) {
                left.put(outcome, many);
            }
        }
        return new MatchingShown(
                all.isEmpty() ? 0 : all.getFirst().number,
                all.isEmpty() ? null : json.readTree(all.getFirst().document),
                Field.ALL.stream()
                        .map(field -> new FieldShown(
                                field.id(),
                                field.title(),
                                field.required(),
                                field.facts().stream().sorted().toList()))
                        .toList(),
                Field.FACTS,
                all.stream()
                        .map(version -> new Kept(version.number, version.note, version.madeBy, version.madeAt))
                        .toList(),
                latest(connection).stream()
                        .map(it -> new Report(it.id(), it.at, it.body, it.outcome, it.said))
                        .toList(),
                left);
    }

    @Transactional(readOnly = true)
    public Trial trial(String id, JsonNode document) {
        var connection = connections.get(id);
        try {
            var matching = Matching.read(document);
            return new Trial(
                    matching.missing().stream().map(Field::id).toList(),
                    List.of(),
                    latest(connection).stream()
                            .map(it -> trial(it, Intake.read(connection, matching, it)))
                            .toList());
        } catch (UnreadableException e) {
            return new Trial(List.of(), shown(e.faults()), List.of());
        }
    }

    /** What a report said, in words. */
    public record Understood(String said, boolean well) {}

    /** What the newest report of a system comes to under the matching in use; none without a matching or a report. */
    @Transactional(readOnly = true)
    public Optional<Understood> newest(String id) {
        var connection = connections.get(id);
        var version = versions.findFirstByConnectionIdOrderByNumberDesc(id);
        var report = received.findByConnectionIdOrderByIdDesc(id, Limit.of(1)).stream()
                .findFirst();
        if (version.isEmpty() || report.isEmpty()) {
            return Optional.empty();
        }
        var matching = Matching.read(json.readTree(version.get().document));
        var matched = Intake.read(connection, matching, report.get());
        if (!matched.faults().isEmpty()) {
            return Optional.of(new Understood(Intake.inWords(matched.faults()), false));
        }
        return Optional.of(new Understood(
                matched.told()
                        ? "understood as " + String.join(", ", trial(report.get(), matched).facts)
                        : "no rule fits it",
                matched.told()));
    }

    private static TrialOfOne trial(Received received, Matched matched) {
        var facts = new ArrayList<String>();
        for (JsonNode event : matched.events()) {
            Fact fact = FactReader.read(event);
            facts.add(FactWords.title(fact));
        }
        return new TrialOfOne(received.id(), matched.told(), matched.values(), shown(matched.faults()), facts);
    }

    private static List<FaultShown> shown(List<Fault> faults) {
        return faults.stream()
                .map(fault -> new FaultShown(fault.field(), fault.problem()))
                .toList();
    }

    @Transactional(readOnly = true)
    public JsonNode document(String id, int number) {
        return versions.findByConnectionIdAndNumber(connections.get(id).id(), number)
                .map(version -> json.readTree(version.document))
                .orElseThrow(() -> ProblemException.notFound("No version " + number + "."));
    }

    /**
     * Keeps a matching as the newest version.
     *
     * @param base the version that it was made from; where it is no longer the newest, nothing is kept
     */
    @Transactional
    public int keep(String id, JsonNode document, int base, String note, String operator) {
        var connection = connections.get(id);
        var matching = Matching.read(document);
        if (connection.isOn() && !matching.missing().isEmpty()) {
            throw incomplete(matching);
        }
        int newest = versions.findFirstByConnectionIdOrderByNumberDesc(id)
                .map(version -> version.number)
                .orElse(0);
        if (newest != base) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "Somebody else has changed the matching",
                    "Version %d counts now. Nothing of yours was kept; load the page again.".formatted(newest));
        }
        var version = new MatchingVersion();
        version.connectionId = id;
        version.number = newest + 1;
        version.document = document.toString();
        version.note = note;
        version.madeBy = operator;
        version.madeAt = clock.instant();
        versions.saveAndFlush(version);
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                "Matching changed",
                connection.title() + ", version " + version.number + (note.isBlank() ? "" : ": " + note),
                operator,
                null,
                null));
        return version.number;
    }

    /** @throws ProblemException when required fields of a system's matching are matched with nothing */
    @Transactional(readOnly = true)
    public void checkComplete(String id) {
        var newest = versions.findFirstByConnectionIdOrderByNumberDesc(id)
                .map(version -> Matching.read(json.readTree(version.document)));
        newest.filter(matching -> !matching.missing().isEmpty()).ifPresent(matching -> {
            throw incomplete(matching);
        });
    }

    private static ProblemException incomplete(Matching matching) {
        return new ProblemException(
                HttpStatus.UNPROCESSABLE_CONTENT,
                "The matching is not complete",
                "Nothing is matched with "
                        + String.join(
                                ", ",
                                matching.missing().stream().map(Field::title).toList())
                        + ". Nothing was changed.");
    }

    private List<Received> latest(Connection connection) {
        return received.findByConnectionIdOrderByIdDesc(connection.id(), Limit.of(LATEST));
    }
}
