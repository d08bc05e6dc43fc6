package yoru.cli;

import java.io.IOException;
import java.io.InputStream;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;
import yoru.core.rulebook.Rulebook;

/** What is computed from: a rulebook, a ledger and a time. */
final class Inputs {

    @Option(
            names = "--rulebook",
            required = true,
            paramLabel = "R.yaml",
            description = "the rulebook, YAML or JSON; - is standard input")
    private String rulebookName = "";

    @Option(
            names = "--ledger",
            required = true,
            paramLabel = "L.jsonl",
            description = "the facts, CloudEvents in JSON, one a line, in any order; - is standard input")
    private String ledgerName = "";

    @Option(
            names = "--as-of",
            required = true,
            paramLabel = "TIME",
            description = "facts later than this do not count; such as 2026-03-01T00:00:00Z")
    private String asOfText = "";

    /** What was read; the ledger is closed by whoever reads it. */
    record Given(Rulebook rulebook, @Nullable Rulebook other, LedgerFile ledger, Instant asOf) {}

    /**
     * Reads all of it.
     *
     * @param otherName of another rulebook beside it; none = there is none
     * @throws UnusableException with what is wrong with any of it
     */
    Given read(Files files, @Nullable String otherName) throws IOException {
        var asOf = asOf();
        if (Files.isStandardInput(rulebookName) && Files.isStandardInput(ledgerName)) {
            throw new UnusableException(List.of("standard input can be the rulebook or the ledger, not both"));
        }
        var unusable = new ArrayList<String>();
        var rulebook = rulebook(files, rulebookName, unusable);
        var other = otherName == null ? null : rulebook(files, otherName, unusable);
        var ledger = ledger(files, unusable);
        if (rulebook == null || ledger == null || !unusable.isEmpty()) {
            if (ledger != null) {
                ledger.close();
            }
            throw new UnusableException(unusable);
        }
        return new Given(rulebook, other, ledger, asOf);
    }

    private static @Nullable Rulebook rulebook(Files files, String name, List<String> unusable) {
        try {
            return files.rulebook(name);
        } catch (UnusableException e) {
            unusable.addAll(e.lines());
            return null;
        }
    }

    private @Nullable LedgerFile ledger(Files files, List<String> unusable) throws IOException {
        try (InputStream in = files.open(ledgerName)) {
            return LedgerFile.read(ledgerName, in);
        } catch (UnusableException e) {
            unusable.addAll(e.lines());
            return null;
        }
    }

    private Instant asOf() {
        try {
            return OffsetDateTime.parse(asOfText).toInstant();
        } catch (DateTimeException e) {
            throw new UnusableException(List.of(
                    "--as-of: `" + asOfText + "` is no time with its offset; allowed: such as 2026-03-01T00:00:00Z"));
        }
    }
}
