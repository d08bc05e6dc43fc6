package yoru.server.exchange;

import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.ledger.FactId;
import yoru.formats.imports.ImportEntry;
import yoru.formats.imports.ImportKind;
import yoru.server.exchange.ImportJob.RowState;
import yoru.server.exchange.ImportJob.State;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.PastFacts;
import yoru.server.ledger.Register;

/** Makes facts of the rows of an import, some in each transaction. */
@Service
public class ImportWork {

    private final ImportJobs jobs;
    private final ImportTable table;
    private final Register register;
    private final PastFacts past;
    private final Journal journal;
    private final JsonMapper json;
    private final Clock clock;

    ImportWork(
            ImportJobs jobs,
            ImportTable table,
            Register register,
            PastFacts past,
            Journal journal,
            JsonMapper json,
            Clock clock) {
        this.jobs = jobs;
        this.table = table;
        this.register = register;
        this.past = past;
        this.journal = journal;
        this.json = json;
        this.clock = clock;
    }

    /**
     * What is still to be done, put together; read once for a run. What is about one person stands together, so that nobody is
     * looked over more often than must be.
     */
    @Transactional(readOnly = true)
    public List<ImportEntry> left(long id) {
        var job = jobs.findById(id).orElse(null);
        return job != null && job.state == State.RUNNING
                ? table.reader(job).read(table.rows(job, false, job.total)).stream()
                        .sorted(Comparator.comparing(ImportEntry::person))
                        .toList()
                : List.of();
    }

    /**
     * Brings some entries in, in one transaction, but those that another run has decided about meanwhile.
     *
     * @return whether it goes on
     */
    @Transactional
    public boolean take(long id, List<ImportEntry> some) {
        var job = jobs.lock(id).orElse(null);
        if (job == null || job.state != State.RUNNING) {
            return false;
        }
        var undecided = Set.copyOf(jobs.undecided(
                id,
                json.writeValueAsString(some.stream().map(ImportEntry::number).toList())));
        var entries = some.stream()
                .filter(entry -> undecided.contains(entry.number()))
                .toList();
        var sound = entries.stream().filter(entry -> !entry.isFaulty()).toList();
        var known = table.known(sound, job.kind);
        var fresh =
                sound.stream().filter(entry -> !known.contains(entry.number())).toList();
        var contradicted = past.keepAll(
                fresh.stream().flatMap(entry -> entry.facts().stream()).toList());
        if (job.kind == ImportKind.PEOPLE) {
            fresh.forEach(entry -> register.know(entry.person(), entry.name()));
        }
        var fates = new ArrayList<Map<String, Object>>();
        for (ImportEntry entry : entries) {
            var fate = RowState.of(entry, known);
            var said = String.join("; ", said(entry, contradicted));
            entry.rows().forEach(row -> fates.add(Map.of("number", row, "fate", fate, "said", said)));
        }
        jobs.decide(id, json.writeValueAsString(fates));
        return true;
    }

    private static List<String> said(ImportEntry entry, Set<FactId> contradicted) {
        if (entry.isFaulty()) {
            return entry.faults();
        }
        return entry.facts().stream()
                        .anyMatch(it -> contradicted.contains(it.fact().id()))
                ? List.of("is known with other content; what was there first counts")
                : entry.remarks();
    }

    /** Everything is decided. */
    @Transactional
    public void done(long id) {
        var job = jobs.lock(id).orElse(null);
        if (job != null && job.state == State.RUNNING) {
            job.state = State.DONE;
            job.endedAt = clock.instant();
            var counts = table.counts(id);
            int faulty = counts.getOrDefault(RowState.FAULTY, 0);
            journal.write(new Journal.Line(
                    faulty == 0 ? Kind.OPERATOR : Kind.WARNING,
                    "Import done",
                    "%s: %d rows taken, %d known already, %d faulty"
                            .formatted(
                                    job.name,
                                    counts.getOrDefault(RowState.NEW, 0),
                                    counts.getOrDefault(RowState.KNOWN, 0),
                                    faulty),
                    job.madeBy,
                    null,
                    null));
        }
    }
}
