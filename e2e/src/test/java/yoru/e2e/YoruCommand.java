package yoru.e2e;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import yoru.e2e.School.Part;

/** {@code ./yoru evaluate} as a process of its own. */
final class YoruCommand {

    private YoruCommand() {}

    /** Who has what by a school's whole ledger, with follow-ups: the rows with their heading, as CSV. */
    static List<String> evaluate(School school, String rulebook, Instant asOf)
            throws InterruptedException, IOException {
        var folder = Files.createTempDirectory(Path.of("target"), "evaluated-");
        var ledger = Files.write(
                folder.resolve("ledger.jsonl"), school.rows(Part.SERVER, "select body::text from fact order by seq"));
        return run(
                "evaluate",
                "--rulebook",
                Files.writeString(folder.resolve("rulebook.yaml"), rulebook).toString(),
                "--ledger",
                ledger.toString(),
                "--as-of",
                asOf.toString(),
                "--with-followups");
    }

    /** What a command says, line by line. */
    static List<String> run(String... arguments) throws InterruptedException {
        var cli = Path.of("..", "cli", "target");
        var jar = cli.resolve("cli-" + System.getProperty("yoru.version") + ".jar");
        var java = Path.of(System.getProperty("java.home"), "bin", "java").toString();
        var command = new ArrayList<>(List.of(java, "-cp", jar + ":" + cli.resolve("lib") + "/*", "yoru.cli.Main"));
        command.addAll(List.of(arguments));
        try {
            var process = new ProcessBuilder(command)
                    .redirectError(Path.of("target", "logs", "command.log").toFile())
                    .start();
            var lines = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .toList();
            if (process.waitFor() != 0) {
                throw new IllegalStateException(command + " failed; see e2e/target/logs/command.log");
            }
            return lines;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
