package yoru.server.rehearsals;

import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.rehearsal.Rehearsal;
import yoru.core.rehearsal.Report;
import yoru.core.rehearsal.Script;
import yoru.core.rulebook.Rulebook;
import yoru.formats.StoryDocument;
import yoru.formats.UnreadableException;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.ProblemException;
import yoru.server.rulebooks.Rulebooks;

/** The stories that a school keeps. */
@Service
public class Rehearsals {

    /** More are run no longer at every change of a draft. */
    private static final int MOST = 500;

    private final KeptRehearsals table;
    private final RehearsalStage stage;
    private final Rulebooks rulebooks;
    private final Journal journal;
    private final Clock clock;
    private final JsonMapper json;

    Rehearsals(
            KeptRehearsals table,
            RehearsalStage stage,
            Rulebooks rulebooks,
            Journal journal,
            Clock clock,
            JsonMapper json) {
        this.table = table;
        this.stage = stage;
        this.rulebooks = rulebooks;
        this.journal = journal;
        this.clock = clock;
        this.json = json;
    }

    /**
     * How a story came out.
     *
     * @param expectations how many
     * @param not what is not as expected, each with where it stands
     * @param faults why it cannot be run
     */
    public record Outcome(String id, String title, int expectations, List<NotAsExpected> not, List<String> faults) {

        public boolean holds() {
            return not.isEmpty() && faults.isEmpty();
        }

        /** In a few words: the first thing that is otherwise. */
        String fails() {
            return faults.isEmpty() ? not.getFirst().sentence() : "cannot be run: " + faults.getFirst();
        }
    }

    /** @param step from 0 on */
    public record NotAsExpected(int step, String place, String sentence) {}

    /** What somebody keeps. */
    record Kept(KeptRehearsal row, Script script) {}

    /** Every story that is kept, run under a rulebook; in the order of their titles. */
    @Transactional(readOnly = true)
    public List<Outcome> under(Rulebook rulebook) {
        var rehearsal = stage.under(rulebook);
        return table.findAllByOrderByTitleAscIdAsc().stream()
                .map(row -> outcome(row, rehearsal))
                .toList();
    }

    private Outcome outcome(KeptRehearsal row, Rehearsal rehearsal) {
        return outcome(row.id, rehearsal.of(script(row)));
    }

    private static Outcome outcome(String id, Report report) {
        var not = new ArrayList<NotAsExpected>();
        for (int at = 0; at < report.steps().size(); at++) {
            var step = report.steps().get(at);
            int position = at;
            step.expected().stream()
                    .filter(it -> !it.holds())
                    .forEach(it -> not.add(new NotAsExpected(position, step.place(), it.sentence())));
        }
        return new Outcome(
                id,
                report.script().title(),
                report.expectations(),
                not,
                StoryDocument.faults(report.faults()).stream()
                        .map(Object::toString)
                        .toList());
    }

    /**
     * One story, kept or not, under a rulebook.
     *
     * @param switchedOn ids of systems that are taken to be on besides those that are
     */
    @Transactional(readOnly = true)
    public Report run(JsonNode document, Rulebook rulebook, Set<String> switchedOn) {
        var report = stage.under(rulebook, switchedOn).of(StoryDocument.read(document));
        if (!report.faults().isEmpty()) {
            throw new UnreadableException(StoryDocument.faults(report.faults()));
        }
        return report;
    }

    @Transactional(readOnly = true)
    List<KeptRehearsal> all() {
        return table.findAllByOrderByTitleAscIdAsc();
    }

    /** Those that no longer came out as they should when they last ran. */
    @Transactional(readOnly = true)
    public List<NotAsRehearsed> failing() {
        return table.findByFailsIsNotNullOrderByTitleAscIdAsc().stream()
                .map(row -> new NotAsRehearsed(
                        row.id, row.title, Optional.ofNullable(row.fails).orElse("")))
                .toList();
    }

    public record NotAsRehearsed(String id, String title, String says) {}

    @Transactional(readOnly = true)
    Kept get(String id) {
        var row = table.findById(id).orElseThrow(() -> ProblemException.notFound("No rehearsal " + id + " is kept."));
        return new Kept(row, script(row));
    }

    /**
     * Keeps a story under its id, and says how it comes out under the rulebook in force.
     *
     * @param seen the revision that it was changed from; 0 = it is new
     */
    @Transactional
    public KeptRehearsal keep(Script script, int seen, String by) {
        var known = table.findById(script.id()).orElse(null);
        int revision = known == null ? 0 : known.revision;
        if (revision != seen) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    known == null ? "It is not kept any more" : "Another is kept under that name",
                    known == null
                            ? "Somebody has let " + script.id() + " go meanwhile. Nothing was kept."
                            : "%s kept %s meanwhile. Nothing was written over.".formatted(known.keptBy, known.title));
        }
        if (known == null && table.count() >= MOST) {
            throw new ProblemException(
                    HttpStatus.CONFLICT, "Too many rehearsals", "At most %d are kept.".formatted(MOST));
        }
        var row = known == null ? new KeptRehearsal(script.id()) : known;
        row.title = script.title();
        row.document = json.writeValueAsString(StoryDocument.write(script));
        row.revision = revision + 1;
        row.keptBy = by;
        row.keptAt = clock.instant();
        note(row, outcome(row, stage.under(rulebooks.current().rulebook())));
        journal.write(new Journal.Line(
                Kind.OPERATOR, known == null ? "Rehearsal kept" : "Rehearsal changed", row.title, by, null, null));
        return table.save(row);
    }

    @Transactional
    void letGo(String id, String by) {
        var row = get(id).row();
        table.delete(row);
        journal.write(new Journal.Line(Kind.OPERATOR, "Rehearsal let go", row.title, by, null, null));
    }

    /** Runs all of them under the rulebook in force, and notes which do not come out as they should. */
    @Transactional
    public void runAll() {
        var rehearsal = stage.under(rulebooks.current().rulebook());
        table.findAllByOrderByTitleAscIdAsc().forEach(row -> note(row, outcome(row, rehearsal)));
    }

    private void note(KeptRehearsal row, Outcome outcome) {
        row.ranAt = clock.instant();
        row.fails = outcome.holds() ? null : outcome.fails();
    }

    private Script script(KeptRehearsal row) {
        return StoryDocument.read(json.readTree(row.document));
    }
}
