package yoru.server.exchange;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.data.domain.Limit;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.access.HowLong;
import yoru.core.access.Words;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;
import yoru.formats.imports.ImportEntry;
import yoru.formats.imports.ImportEntry.ImportedFact;
import yoru.formats.imports.ImportKind;
import yoru.formats.imports.ImportMatching;
import yoru.formats.matching.Rows;
import yoru.server.exchange.ImportJob.RowState;
import yoru.server.exchange.ImportJob.State;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.ProblemException;
import yoru.server.platform.Queue;
import yoru.server.rulebooks.Rulebooks;

/**
 * Brings tables of the past in: what each row will come to is shown first, then they become facts, some at a time. Interrupted
 * it goes on where it stopped, and what was brought in before changes nothing.
 */
@Service
public class Imports {

    private static final int ROWS_AT_ONCE = 5_000;
    private static final int SHOWN_JOBS = 20;
    private static final int SHOWN_ROWS = 100;
    private static final int SAMPLE = 5;

    private final ImportJobs jobs;
    private final ImportTable table;
    private final Journal journal;
    private final Queue queue;
    private final Rulebooks rulebooks;
    private final JsonMapper json;
    private final Clock clock;

    Imports(
            ImportJobs jobs,
            ImportTable table,
            Journal journal,
            Queue queue,
            Rulebooks rulebooks,
            JsonMapper json,
            Clock clock) {
        this.jobs = jobs;
        this.table = table;
        this.journal = journal;
        this.queue = queue;
        this.rulebooks = rulebooks;
        this.json = json;
        this.clock = clock;
    }

    /**
     * An import as it stands.
     *
     * @param sample the first rows
     * @param left rows that are still to be done
     */
    record ShownImport(
            long id,
            ImportKind kind,
            String name,
            List<String> columns,
            List<ImportField> fields,
            ImportMatching matching,
            List<List<String>> sample,
            State state,
            int total,
            int taken,
            int known,
            int faulty,
            int left,
            Instant madeAt,
            String madeBy,
            @Nullable Instant endedAt) {}

    record ImportField(ImportKind.Field field, String title, boolean required) {}

    /**
     * What the rows would come to.
     *
     * @param missing fields without a column; then nothing else is said
     * @param rows the faulty ones first, then those with a remark, then the others
     */
    record ImportPreview(
            List<ImportKind.Field> missing, int entries, int taken, int known, int faulty, List<RowFate> rows) {}

    /** @param row its number in the table */
    record RowFate(long row, RowState fate, String person, String said) {}

    /** @param left rows that are still to be done */
    record ListedImport(
            long id, ImportKind kind, String name, State state, int total, int left, Instant madeAt, String madeBy) {}

    @Transactional(readOnly = true)
    public List<ListedImport> latest() {
        return jobs.findAllByOrderByIdDesc(Limit.of(SHOWN_JOBS)).stream()
                .map(job -> new ListedImport(
                        job.id(),
                        job.kind,
                        job.name,
                        job.state,
                        job.total,
                        job.state == State.DONE ? 0 : jobs.countLeft(job.id()),
                        job.madeAt,
                        job.madeBy))
                .toList();
    }

    @Transactional(readOnly = true)
    public ShownImport one(long id) {
        return shown(find(id));
    }

    private ImportJob find(long id) {
        return there(jobs.findById(id), id);
    }

    private static ImportJob there(Optional<ImportJob> job, long id) {
        return job.orElseThrow(() -> ProblemException.notFound("No import " + id + "."));
    }

    /** @throws UnreadableException when it is no table with a row */
    @Transactional
    public ShownImport upload(
            ImportKind kind, String name, List<String> columns, Iterator<Rows.Row> rows, String operator) {
        var guess = new Guess(kind, columns);
        var job = new ImportJob();
        job.kind = kind;
        job.name = name;
        job.columns = json.writeValueAsString(columns);
        job.matching = json.writeValueAsString(guess.matching());
        job.madeAt = clock.instant();
        job.madeBy = operator;
        jobs.saveAndFlush(job);
        var some = new ArrayList<Map<String, Object>>();
        while (rows.hasNext()) {
            var row = rows.next();
            job.total++;
            guess.see(row);
            some.add(Map.of("number", row.number(), "cells", row.cells()));
            if (some.size() == ROWS_AT_ONCE) {
                keep(job, some);
            }
        }
        if (job.total == 0) {
            throw new UnreadableException(List.of(new Fault("", "has no rows")));
        }
        keep(job, some);
        job.matching = json.writeValueAsString(guess.matching());
        return shown(job);
    }

    private void keep(ImportJob job, List<Map<String, Object>> some) {
        jobs.addRows(job.id(), json.writeValueAsString(some));
        some.clear();
    }

    /** How the columns are probably meant, as its rows are seen. */
    private static final class Guess {

        private final Map<ImportKind.Field, String> columns;
        private final List<Integer> withDays;
        private final Set<String> days = new HashSet<>();

        Guess(ImportKind kind, List<String> names) {
            columns = kind.guess(names);
            withDays = Stream.of(ImportKind.Field.PLACED, ImportKind.Field.FROM)
                    .flatMap(field -> Optional.ofNullable(columns.get(field)).stream())
                    .map(names::indexOf)
                    .toList();
        }

        void see(Rows.Row row) {
            if (row.fits()) {
                withDays.stream()
                        .map(at -> row.cells().get(at).strip())
                        .filter(day -> !day.isEmpty())
                        .forEach(days::add);
            }
        }

        ImportMatching matching() {
            return new ImportMatching(columns, ImportMatching.Dates.guess(List.copyOf(days)));
        }
    }

    private ShownImport shown(ImportJob job) {
        var counts = table.counts(job.id());
        int taken = counts.getOrDefault(RowState.NEW, 0);
        int known = counts.getOrDefault(RowState.KNOWN, 0);
        int faulty = counts.getOrDefault(RowState.FAULTY, 0);
        return new ShownImport(
                job.id(),
                job.kind,
                job.name,
                table.columns(job),
                job.kind.fields().stream()
                        .map(field -> new ImportField(field, field.title(), field.required()))
                        .toList(),
                table.matching(job),
                table.rows(job, true, SAMPLE).rows().stream()
                        .map(Rows.Row::cells)
                        .toList(),
                job.state,
                job.total,
                taken,
                known,
                faulty,
                job.total - taken - known - faulty,
                job.madeAt,
                job.madeBy,
                job.endedAt);
    }

    /** Keeps how the columns are matched, and says what would come of it. */
    @Transactional
    public ImportPreview match(long id, ImportMatching matching) {
        var job = find(id);
        if (job.state != State.MATCHING) {
            throw begun(job);
        }
        job.matching = json.writeValueAsString(matching);
        var reader = table.reader(job);
        var missing = reader.missing(table.columns(job));
        if (!missing.isEmpty()) {
            return new ImportPreview(missing, 0, 0, 0, 0, List.of());
        }
        var entries = reader.read(table.rows(job, true, job.total));
        var known = table.known(entries, job.kind);
        var fates = new ArrayList<RowFate>();
        Map<RowState, Integer> counts = new EnumMap<>(RowState.class);
        for (ImportEntry entry : entries) {
            var fate = RowState.of(entry, known);
            counts.merge(fate, entry.rows().size(), Integer::sum);
            fates.add(new RowFate(
                    entry.number(),
                    fate,
                    entry.person(),
                    String.join("; ", entry.isFaulty() ? entry.faults() : remarks(entry, fate, fates.size()))));
        }
        fates.sort((a, b) -> Integer.compare(rank(a), rank(b)));
        return new ImportPreview(
                List.of(),
                entries.size(),
                counts.getOrDefault(RowState.NEW, 0),
                counts.getOrDefault(RowState.KNOWN, 0),
                counts.getOrDefault(RowState.FAULTY, 0),
                fates.stream().limit(SHOWN_ROWS).toList());
    }

    /** With what it opens now, of as many as can be shown. */
    private List<String> remarks(ImportEntry entry, RowState fate, int before) {
        if (fate != RowState.NEW || before >= SHOWN_ROWS || entry.facts().isEmpty()) {
            return entry.remarks();
        }
        var current = rulebooks.current();
        var words = new Words(current.rulebook().school().zone());
        var now = clock.instant();
        var facts = Ledger.of(entry.facts().stream().map(ImportedFact::fact).toList())
                .asOf(now);
        var opens = current.engine().access(Histories.of(facts).person(entry.person()), now).stream()
                .filter(one -> one.state().isOpen())
                .map(one -> current.rulebook().title(one.target()) + ", "
                        + HowLong.of(one).inWords(words))
                .collect(Collectors.joining("; "));
        return Stream.concat(
                        entry.remarks().stream(), Stream.of(opens.isEmpty() ? "opens nothing today" : "opens " + opens))
                .toList();
    }

    private static int rank(RowFate row) {
        return row.fate == RowState.FAULTY ? 0 : row.said.startsWith("opens") || row.said.isEmpty() ? 2 : 1;
    }

    private static ProblemException begun(ImportJob job) {
        return new ProblemException(
                HttpStatus.CONFLICT,
                "This import has begun",
                "Its columns can no longer be matched otherwise; it is "
                        + job.state.name().toLowerCase(Locale.ROOT) + ". Upload the file again to match them anew.");
    }

    /** Begins, or goes on after it was stopped. */
    @Transactional
    public ShownImport start(long id, String operator) {
        var job = there(jobs.lock(id), id);
        if (!table.reader(job).missing(table.columns(job)).isEmpty()) {
            throw new ProblemException(
                    HttpStatus.CONFLICT, "This import cannot begin", "Some columns are not matched yet.");
        }
        if (job.state == State.MATCHING || job.state == State.STOPPED) {
            job.state = State.RUNNING;
            note("Import begun", job, operator);
            // of its own, so that one that is just ending, because it was stopped, is not taken for it
            queue.now(ImportTasks.RUN, id + ":" + clock.instant());
        }
        return shown(job);
    }

    /** Stops after the rows at hand; what was brought in stays, and it can go on. */
    @Transactional
    public ShownImport stop(long id, String operator) {
        var job = there(jobs.lock(id), id);
        if (job.state == State.RUNNING) {
            job.state = State.STOPPED;
            note("Import stopped", job, operator);
        }
        return shown(job);
    }

    /** Throws the table away; what was brought in stays. */
    @Transactional
    public void forget(long id, String operator) {
        var job = find(id);
        if (job.state == State.RUNNING) {
            throw begun(job);
        }
        jobs.delete(job);
        note("Import's table thrown away", job, operator);
    }

    private void note(String what, ImportJob job, String operator) {
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                what,
                "%s: %s, %d rows".formatted(job.name, job.kind.name().toLowerCase(Locale.ROOT), job.total),
                operator,
                null,
                null));
    }

    /** The rows that were not taken, as a file to mend; none = all were. */
    @Transactional(readOnly = true)
    public String faulty(long id) {
        var job = find(id);
        var columns = table.columns(job);
        return new Rows(columns, List.of())
                .toMend(jobs.faulty(id).stream()
                        .map(row -> new Rows.Left(
                                table.row(row.getNumber(), row.getCells(), columns), String.valueOf(row.getSaid())))
                        .toList());
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        jobs.forgetPeople(forgotten.keysAsJson());
    }
}
