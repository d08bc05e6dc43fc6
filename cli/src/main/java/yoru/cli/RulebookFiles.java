package yoru.cli;

import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;
import yoru.core.impact.DifferenceInWords;

/** What can be done with rulebooks that lie in files. */
@Command(name = "rulebook", mixinStandardHelpOptions = true, description = "Compares rulebooks in files.")
final class RulebookFiles {

    /** Says what one does otherwise than the other. */
    @Command(
            name = "diff",
            mixinStandardHelpOptions = true,
            description = "Says in words what the second rulebook does otherwise than the first.",
            footer = {"", "Exit code 0 = nothing, 1 = something; 2 = one of them cannot be used."})
    static final class Diff implements Callable<Integer> {

        @Parameters(index = "0", paramLabel = "BEFORE.yaml", description = "YAML or JSON; - is standard input")
        private String before = "";

        @Parameters(index = "1", paramLabel = "AFTER.yaml", description = "YAML or JSON; - is standard input")
        private String after = "";

        private final Files files;
        private final PrintStream out;

        Diff(Files files, OutputStream out) {
            this.files = files;
            this.out = new PrintStream(out, true, StandardCharsets.UTF_8);
        }

        @Override
        public Integer call() {
            var lines = DifferenceInWords.of(files.rulebook(before), files.rulebook(after));
            lines.forEach(out::println);
            return lines.isEmpty() ? 0 : 1;
        }
    }
}
