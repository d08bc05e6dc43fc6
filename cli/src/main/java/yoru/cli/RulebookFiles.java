package yoru.cli;

import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.impact.DifferenceInWords;
import yoru.formats.RulebookDocument;

/** What can be done with rulebooks that lie in files. */
@Command(
        name = "rulebook",
        mixinStandardHelpOptions = true,
        description = "Compares rulebooks in files, and brings them from and to a running Yoru.")
final class RulebookFiles {

    private static final String JSON = "application/json";

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

    /** Writes the rulebook of a running Yoru. */
    @Command(
            name = "export",
            mixinStandardHelpOptions = true,
            description = "Writes the rulebook in force as YAML to standard output, always in the same order.",
            footer = {"", "Exit code 0; 2 = it cannot be had, with why on standard error."})
    static final class Export implements Callable<Integer> {

        @Mixin
        private final Server server = new Server();

        @Option(names = "--version-number", paramLabel = "N", description = "as it was published under this number")
        private @Nullable Integer version;

        private final PrintStream out;

        Export(OutputStream out) {
            this.out = new PrintStream(out, true, StandardCharsets.UTF_8);
        }

        @Override
        public Integer call() {
            server.signIn();
            out.print(server.get("/api/mapping/rulebook" + (version == null ? "" : "?version=" + version)));
            return 0;
        }
    }

    /** Brings a rulebook to a running Yoru: what it would change, and where that is wanted, publishing it. */
    @Command(
            name = "import",
            mixinStandardHelpOptions = true,
            description =
                    "Says what a rulebook would change in a running Yoru, and for how many people. Publishes it only with --publish.",
            footer = {"", "Exit code 0; 2 = it cannot be used, or was not published, with why on standard error."})
    static final class Import implements Callable<Integer> {

        @Mixin
        private final Server server = new Server();

        @Parameters(paramLabel = "RULEBOOK.yaml", description = "YAML or JSON; - is standard input")
        private String name = "";

        @Option(names = "--publish", description = "puts it in force")
        private boolean publish;

        @Option(names = "--note", paramLabel = "TEXT", description = "what it is for; kept in the history")
        private String note = "";

        @Option(
                names = "--story",
                paramLabel = "STORY.yaml",
                description = "a story to run under it, once for each; with --publish it is kept")
        private List<String> stories = List.of();

        @Option(
                names = "--despite",
                paramLabel = "WHY",
                description = "why it is published although rehearsals are not as expected; kept in the history")
        private String despite = "";

        private final Files files;
        private final PrintStream out;

        Import(Files files, OutputStream out) {
            this.files = files;
            this.out = new PrintStream(out, true, StandardCharsets.UTF_8);
        }

        @Override
        public Integer call() {
            var rulebook = files.rulebook(name);
            var brought = new BroughtStories(server, files, stories);
            server.signIn();
            int base = Server.json(server.get("/api/mapping")).path("version").asInt();
            var draft = Server.json(
                    server.post("/api/mapping/rulebook", "application/yaml", RulebookDocument.yaml(rulebook)));
            var wanted = JsonMapper.shared().createObjectNode();
            wanted.putArray("changes"); // the document says everything
            wanted.set("document", draft.path("document"));
            if (draft.path("cells").isEmpty() && draft.path("things").isEmpty()) {
                out.println("It says what is in force already.");
                brought.run(wanted, out);
                if (publish) {
                    brought.keep();
                }
                return 0;
            }
            var now = RulebookDocument.read(server.get("/api/mapping/rulebook"));
            DifferenceInWords.of(
                            now, RulebookDocument.read(draft.path("document").stringValue()))
                    .forEach(out::println);
            var consequence = Server.json(server.post("/api/mapping/consequence", JSON, wanted.toString()));
            out.println("%d gain access, %d lose access, %d have less time, %d have more time, %d at other times"
                    .formatted(
                            people(consequence, "gain"),
                            people(consequence, "lose"),
                            people(consequence, "shorter"),
                            people(consequence, "longer"),
                            people(consequence, "otherwise")));
            var not = brought.run(wanted, out);
            if (!publish) {
                out.println("Nothing is published; --publish does.");
                return 0;
            }
            if (!not.isEmpty() && despite.isBlank()) {
                throw new UnusableException(
                        List.of(
                                "not published: not every rehearsal is as expected; say why it is all the same with --despite"));
            }
            wanted.put("base", base).put("note", note).put("despite", despite);
            var published = Server.json(server.post("/api/mapping/publish", JSON, wanted.toString()));
            out.println("Rulebook " + published.path("number").asInt() + " is in force.");
            brought.keep();
            return 0;
        }

        private static int people(JsonNode consequence, String figure) {
            return consequence.path(figure).path("people").asInt();
        }
    }
}
