package yoru.server.exchange;

import java.time.Clock;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.formats.imports.ImportEntry;
import yoru.formats.imports.ImportEntry.ImportedFact;
import yoru.formats.imports.ImportKind;
import yoru.formats.imports.ImportMatching;
import yoru.formats.imports.ImportReader;
import yoru.formats.matching.Rows;
import yoru.server.exchange.ImportJob.RowState;
import yoru.server.ledger.PastFacts;
import yoru.server.ledger.Register;
import yoru.server.rulebooks.Rulebooks;

/** The table of an import, and what of it is known already. */
@Component
class ImportTable {

    private final ImportJobs jobs;
    private final Register register;
    private final PastFacts past;
    private final Rulebooks rulebooks;
    private final JsonMapper json;
    private final Clock clock;

    ImportTable(ImportJobs jobs, Register register, PastFacts past, Rulebooks rulebooks, JsonMapper json, Clock clock) {
        this.jobs = jobs;
        this.register = register;
        this.past = past;
        this.rulebooks = rulebooks;
        this.json = json;
        this.clock = clock;
    }

    List<String> columns(ImportJob job) {
        return List.of(json.readValue(job.columns, String[].class));
    }

    ImportMatching matching(ImportJob job) {
        return json.readValue(job.matching, ImportMatching.class);
    }

    Rows rows(ImportJob job, boolean all, int most) {
        var columns = columns(job);
        return new Rows(
                columns,
                jobs.rows(job.id(), all, most).stream()
                        .map(row -> row(row.getNumber(), row.getCells(), columns))
                        .toList());
    }

    Rows.Row row(long number, String text, List<String> columns) {
        var cells = List.of(json.readValue(text, String[].class));
        return new Rows.Row(number, cells, cells.size() == columns.size());
    }

    ImportReader reader(ImportJob job) {
        return new ImportReader(job.kind, matching(job), rulebooks.current().rulebook(), clock.instant());
    }

    /** How many rows have come to what. */
    Map<RowState, Integer> counts(long job) {
        Map<RowState, Integer> counts = new EnumMap<>(RowState.class);
        jobs.counts(job).forEach(count -> counts.put(RowState.valueOf(count.getFate()), count.getMany()));
        return counts;
    }

    /** The numbers of those of which every fact is known, or whose order somebody else has reported. */
    Set<Long> known(List<ImportEntry> entries, ImportKind kind) {
        Predicate<ImportEntry> known = kind == ImportKind.PEOPLE ? knownPeople(entries) : knownFacts(entries);
        return entries.stream().filter(known).map(ImportEntry::number).collect(Collectors.toSet());
    }

    private Predicate<ImportEntry> knownPeople(List<ImportEntry> entries) {
        var there = register.people(entries.stream().map(ImportEntry::person).toList());
        return entry -> there.containsKey(entry.person());
    }

    private Predicate<ImportEntry> knownFacts(List<ImportEntry> entries) {
        var ids = new HashSet<FactId>();
        var things = new HashSet<String>();
        entries.stream().flatMap(entry -> entry.facts().stream()).forEach(it -> {
            ids.add(it.fact().id());
            it.fact().happening().thing().ifPresent(things::add);
        });
        var knownIds = past.known(ids);
        var elsewhere = past.orderedElsewhere(things, "/imports/orders");
        Predicate<Fact> isKnown = fact -> knownIds.contains(fact.id())
                || fact.happening().thing().filter(elsewhere::contains).isPresent();
        return entry -> !entry.facts().isEmpty()
                && entry.facts().stream().map(ImportedFact::fact).allMatch(isKnown);
    }
}
