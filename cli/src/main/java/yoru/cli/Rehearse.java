package yoru.cli;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yoru.core.rehearsal.Rehearsal;
import yoru.core.rehearsal.Report;
import yoru.core.rehearsal.ReportText;
import yoru.core.rehearsal.Surroundings;
import yoru.core.rulebook.Rulebook;
import yoru.formats.ReportJson;
import yoru.formats.StoryDocument;
import yoru.formats.SystemsDocument;

/** Runs stories, and says of each step what comes of it and whether that is as expected. */
@Command(
        name = "rehearse",
        mixinStandardHelpOptions = true,
        sortOptions = false,
        description = "Runs stories of invented people under a rulebook. Nothing is kept, and nobody is told anything.",
        footer = {
            "",
            "Exit code 0 when everything is as expected; 1 when something is not; 2 = input that cannot be used, one",
            "line per fault on standard error (the other stories still run; the highest code counts)."
        })
final class Rehearse implements Callable<Integer> {

    private static final int NOT_AS_EXPECTED = 1;

    @Parameters(
            arity = "0..*",
            paramLabel = "STORY.yaml",
            description = "the stories, YAML or JSON; - is standard input")
    private List<String> stories = List.of();

    @Option(names = "--rulebook", paramLabel = "R.yaml", description = "the rulebook, YAML or JSON")
    private @Nullable String rulebookName;

    @Option(
            names = "--systems",
            paramLabel = "S.yaml",
            description = "what is connected (default: one system of each kind, called so, that lists everything)")
    private @Nullable String systemsName;

    @Option(names = "--json", description = "writes JSON Lines, one story a line, instead of text")
    private boolean json;

    @Option(
            names = "--record",
            paramLabel = "EMAIL",
            description = "writes the history of somebody in a running Yoru as a story, without their name and address")
    private @Nullable String recorded;

    @Mixin
    private final Server server = new Server();

    private final Files files;
    private final OutputStream out;
    private final PrintStream messages;

    Rehearse(Files files, OutputStream out, PrintStream messages) {
        this.files = files;
        this.out = out;
        this.messages = messages;
    }

    @Override
    public Integer call() throws IOException {
        var to = new PrintStream(out, false, StandardCharsets.UTF_8);
        try {
            return recorded == null ? run(to) : record(to, recorded);
        } finally {
            to.flush();
        }
    }

    private int record(PrintStream to, String email) {
        if (!stories.isEmpty() || rulebookName != null) {
            throw new UnusableException(List.of("--record stands alone: it writes a story and runs none"));
        }
        server.signIn();
        to.print(
                server.get("/api/rehearsals/recorded/file?person=" + URLEncoder.encode(email, StandardCharsets.UTF_8)));
        return 0;
    }

    private int run(PrintStream to) {
        if (rulebookName == null || stories.isEmpty()) {
            throw new UnusableException(List.of("needed are at least one story, and --rulebook"));
        }
        if (Stream.concat(stories.stream(), Stream.of(rulebookName, systemsName == null ? "" : systemsName))
                        .filter(Files::isStandardInput)
                        .count()
                > 1) {
            throw new UnusableException(List.of("only one of the files can be standard input"));
        }
        var rulebook = files.rulebook(rulebookName);
        var rehearsal = new Rehearsal(rulebook, surroundings(rulebook));
        int worst = 0;
        int held = 0;
        int failed = 0;
        for (String name : stories) {
            try {
                var report = told(name, rehearsal);
                print(report, rulebook, to);
                held += report.holds() ? 1 : 0;
                failed += report.holds() ? 0 : 1;
                worst = Math.max(worst, report.holds() ? 0 : NOT_AS_EXPECTED);
            } catch (UnusableException e) {
                to.flush();
                e.lines().forEach(messages::println);
                worst = Main.UNUSABLE;
            }
        }
        if (!json) {
            int left = stories.size() - held - failed;
            to.println("%d %s as expected".formatted(held, held == 1 ? "story" : "stories")
                    + (failed == 0 ? "" : ", %d NOT".formatted(failed))
                    + (left == 0 ? "" : ", %d could not be run".formatted(left)));
        }
        return worst;
    }

    private void print(Report report, Rulebook rulebook, PrintStream to) {
        if (json) {
            to.println(ReportJson.write(report));
        } else {
            ReportText.of(report, rulebook.school().zone()).forEach(to::println);
            to.println();
        }
    }

    private Surroundings surroundings(Rulebook rulebook) {
        return systemsName == null
                ? SystemsDocument.oneOfEach(rulebook)
                : files.document(systemsName, text -> SystemsDocument.read(text, rulebook));
    }

    private Report told(String name, Rehearsal rehearsal) {
        var report = rehearsal.of(files.document(name, StoryDocument::read));
        if (!report.faults().isEmpty()) {
            throw Files.unusable(name, StoryDocument.faults(report.faults()));
        }
        return report;
    }
}
