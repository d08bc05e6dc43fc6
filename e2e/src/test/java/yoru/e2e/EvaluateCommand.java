package yoru.e2e;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;

/** {@code ./yoru evaluate} as a process of its own. */
final class EvaluateCommand {

    private EvaluateCommand() {}

    /** The rows with their heading, as CSV. */
    static List<String> run(Path rulebook, Path ledger, Instant asOf) throws InterruptedException {
        var cli = Path.of("..", "cli", "target");
        var jar = cli.resolve("cli-" + System.getProperty("yoru.version") + ".jar");
        var command = List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-cp",
                jar + ":" + cli.resolve("lib") + "/*",
                "yoru.cli.Main",
                "evaluate",
                "--rulebook",
                rulebook.toString(),
                "--ledger",
                ledger.toString(),
                "--as-of",
                asOf.toString());
        try {
            var process = new ProcessBuilder(command)
                    .redirectError(Path.of("target", "logs", "evaluate.log").toFile())
                    .start();
            var rows = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .toList();
            if (process.waitFor() != 0) {
                throw new IllegalStateException("evaluate failed; see e2e/target/logs/evaluate.log");
            }
            return rows;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
