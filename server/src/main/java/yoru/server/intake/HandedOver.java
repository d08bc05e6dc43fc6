package yoru.server.intake;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import yoru.formats.UnreadableException;
import yoru.formats.matching.Rows;
import yoru.server.intake.Received.Outcome;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.Sha256;
import yoru.server.platform.Utf8;
import yoru.server.systems.Connection;

/** Files of CSV instead of reports: each row is a report of its own, and the same row again changes nothing. */
@Service
class HandedOver {

    private final Intake intake;
    private final Journal journal;

    HandedOver(Intake intake, Journal journal) {
        this.intake = intake;
        this.journal = journal;
    }

    /**
     * What became of a file's rows.
     *
     * @param known had been taken up before
     * @param kept only kept, for the system is being tried or no rule fits them
     * @param toMend the rows that were not taken, as CSV with a column that says why; none where all were
     */
    record FileTaken(
            int rows,
            int taken,
            int known,
            int kept,
            int faulty,
            @Nullable String toMend) {}

    /**
     * Row by row, each in a transaction of its own: begun again, it goes on where it stopped.
     *
     * @throws UnreadableException when the file is no table; nothing was taken then
     */
    FileTaken take(Connection connection, String name, byte[] file, String by) {
        var rows = Rows.read(Utf8.ofFile(file));
        int taken = 0;
        int known = 0;
        int kept = 0;
        List<Rows.Left> left = new ArrayList<>();
        for (Rows.Row row : rows.rows()) {
            if (!row.fits()) {
                left.add(new Rows.Left(
                        row,
                        "it has %d cells under %d columns"
                                .formatted(row.cells().size(), rows.columns().size())));
                continue;
            }
            var report = rows.report(row);
            var answer = intake.take(connection, "row " + Sha256.of(report), report);
            if (answer.again()) {
                known++;
            } else if (answer.outcome() == Outcome.TAKEN) {
                taken++;
            } else if (answer.outcome() != Outcome.FAULTY) {
                kept++;
            }
            if (answer.outcome() == Outcome.FAULTY) {
                left.add(new Rows.Left(row, answer.said()));
            }
        }
        var result = new FileTaken(
                rows.rows().size(), taken, known, kept, left.size(), left.isEmpty() ? null : rows.toMend(left));
        journal.write(new Journal.Line(
                left.isEmpty() ? Kind.OPERATOR : Kind.WARNING,
                "A file was read",
                "%s, %s: %d rows, %d taken up, %d known already, %d kept, %d faulty"
                        .formatted(connection.title(), name, result.rows, taken, known, kept, left.size()),
                by,
                null,
                null));
        return result;
    }
}
