package yoru.cli;

import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;
import yoru.core.findings.Finding;
import yoru.core.findings.Findings;
import yoru.core.findings.Observed;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Sort;

/** Says whether a rulebook can be used, and what in it looks unfinished. */
@Command(
        name = "check",
        mixinStandardHelpOptions = true,
        description = "Checks a rulebook: faults, and what looks unfinished.",
        footer = {"", "Exit code 0; 2 = it cannot be used, one line per fault on standard error."})
final class Check implements Callable<Integer> {

    @Parameters(paramLabel = "RULEBOOK.yaml", description = "the rulebook, YAML or JSON; - is standard input")
    private String name = "";

    private final Files files;
    private final PrintStream out;

    Check(Files files, OutputStream out, PrintStream messages) {
        this.files = files;
        this.out = new PrintStream(out, true, StandardCharsets.UTF_8);
    }

    @Override
    public Integer call() {
        var rulebook = files.rulebook(name);
        out.println(Files.shown(name) + ": " + summary(rulebook));
        new Findings(rulebook)
                .check(Observed.NOTHING).stream().map(Check::sentence).forEach(out::println);
        return 0;
    }

    private static String summary(Rulebook rulebook) {
        return "no faults; %d products, %d courses, %d levels, %d tags, %d links"
                .formatted(
                        rulebook.products().size(),
                        rulebook.courses().size(),
                        rulebook.levels().size(),
                        rulebook.all(Sort.TAG).size(),
                        rulebook.links().size());
    }

    private static String sentence(Finding finding) {
        return "finding: %s: %s. %s %s".formatted(finding.subject(), finding.title(), finding.text(), finding.advice());
    }
}
