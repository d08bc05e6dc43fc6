package yoru.cli;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Iterator;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import yoru.core.access.Engine;
import yoru.core.access.Evaluation;
import yoru.core.followup.Followups;
import yoru.core.impact.Impact;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.formats.AccessCsv;
import yoru.formats.ChangeRows;
import yoru.formats.ReasonsJson;

/** Writes who has access to what, as known at a time. */
@Command(
        name = "evaluate",
        mixinStandardHelpOptions = true,
        sortOptions = false,
        description = "Computes access from a rulebook and a ledger and writes it to standard output.",
        footer = {
            "",
            "Writes CSV (person,target,start,end,state; times in UTC), sorted by person, target, start.",
            "Exit code 0; warnings go to standard error. 2 = input that cannot be used, one line per fault."
        })
final class Evaluate implements Callable<Integer> {

    @Mixin
    private final Inputs inputs = new Inputs();

    @Option(names = "--with-followups", description = "counts what follow-ups gave and took as well")
    private boolean withFollowups;

    @Option(names = "--reasons", description = "JSON Lines with the whole derivation of each window instead of CSV")
    private boolean reasons;

    @Option(
            names = "--impact",
            paramLabel = "OTHER.yaml",
            description = "what this rulebook instead of the first one changes from then on, for whom")
    private @Nullable String otherName;

    private final Files files;
    private final OutputStream out;
    private final PrintStream messages;

    Evaluate(Files files, OutputStream out, PrintStream messages) {
        this.files = files;
        this.out = out;
        this.messages = messages;
    }

    @Override
    public Integer call() throws IOException {
        var given = inputs.read(files, otherName);
        try (var ledger = given.ledger()) {
            var rulebook = given.rulebook();
            var other = given.other();
            var asOf = given.asOf();
            var evaluation = new Engine(rulebook);
            var followups = withFollowups ? new Followups(rulebook) : null;
            var buffered = new BufferedOutputStream(out, 1 << 16);
            if (other != null) {
                var impact = new Impact(rulebook, other);
                write(ledger, buffered, reasons ? "" : ChangeRows.HEADER, part -> changes(impact, part, asOf));
            } else {
                write(
                        ledger,
                        buffered,
                        reasons ? "" : AccessCsv.HEADER,
                        part -> access(evaluation, followups == null ? part : followups.with(part, asOf), asOf));
            }
            buffered.flush();
        }
        return 0;
    }

    private void write(LedgerFile ledger, OutputStream to, String header, Function<Ledger, Iterable<Rows.Row>> evaluate)
            throws IOException {
        to.write(header.getBytes(StandardCharsets.UTF_8));
        Iterator<Ledger> parts = ledger.parts().iterator();
        var first = evaluate.apply(parts.next());
        if (!parts.hasNext()) {
            for (Rows.Row row : first) {
                to.write(row.text().getBytes(StandardCharsets.UTF_8));
            }
            return;
        }
        try (var rows = new Rows()) {
            rows.add(first);
            while (parts.hasNext()) {
                rows.add(evaluate.apply(parts.next()));
            }
            rows.writeTo(to);
        }
    }

    private List<Rows.Row> access(Engine engine, Ledger part, Instant asOf) {
        Evaluation evaluation = engine.evaluate(part, asOf);
        warn(evaluation);
        return evaluation.access().stream()
                .map(one -> new Rows.Row(one.person(), reasons ? ReasonsJson.write(one) + "\n" : AccessCsv.row(one)))
                .toList();
    }

    private List<Rows.Row> changes(Impact impact, Ledger part, Instant asOf) {
        return Histories.of(part.asOf(asOf)).all().stream()
                .flatMap(history -> impact.over(history, asOf).stream())
                .map(change -> new Rows.Row(
                        change.person(), reasons ? ChangeRows.json(change) + "\n" : ChangeRows.row(change)))
                .toList();
    }

    private void warn(Evaluation evaluation) {
        evaluation.warnings().forEach(warning -> messages.println("warning: " + warning.sentence()));
    }
}
