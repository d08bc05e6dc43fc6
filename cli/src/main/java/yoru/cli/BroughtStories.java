package yoru.cli;

import java.io.PrintStream;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.rehearsal.Script;
import yoru.formats.StoryDocument;

/** Stories brought along with a rulebook, beside those that a running Yoru keeps already. */
final class BroughtStories {

    private static final String JSON = "application/json";

    private final Server server;
    private final Map<String, Script> scripts = new LinkedHashMap<>();

    /** @throws UnusableException naming every fault of every file */
    BroughtStories(Server server, Files files, List<String> names) {
        this.server = server;
        var faults = new ArrayList<String>();
        for (String name : names) {
            try {
                scripts.put(name, files.document(name, StoryDocument::read));
            } catch (UnusableException e) {
                faults.addAll(e.lines());
            }
        }
        if (!faults.isEmpty()) {
            throw new UnusableException(faults);
        }
    }

    /**
     * Runs them, and those that are kept under other ids, under a draft, and says how they come out.
     *
     * @return what is not as expected, a line each
     */
    List<String> run(ObjectNode draft, PrintStream out) {
        var not = new ArrayList<String>();
        int held = 0;
        var kept = Server.json(server.post("/api/mapping/rehearsals", JSON, draft.toString()));
        for (JsonNode outcome : kept.path("rehearsals")) {
            if (scripts.values().stream()
                    .anyMatch(script -> script.id().equals(outcome.path("id").asString()))) {
                continue;
            }
            outcome.path("faults").forEach(fault -> not.add(line(outcome, fault.asString())));
            outcome.path("not")
                    .forEach(one -> not.add(line(outcome, one.path("sentence").asString())));
            held += outcome.path("holds").asBoolean() ? 1 : 0;
        }
        for (Map.Entry<String, Script> brought : scripts.entrySet()) {
            var wanted = JsonMapper.shared().createObjectNode();
            wanted.set("draft", draft);
            wanted.set("story", StoryDocument.write(brought.getValue()));
            try {
                var report = Server.json(server.post("/api/mapping/rehearsal", JSON, wanted.toString()));
                held += report.path("holds").asBoolean() ? 1 : 0;
                report.path("steps")
                        .forEach(step -> step.path("expected").forEach(expected -> {
                            if (!expected.path("holds").asBoolean()) {
                                not.add(line(report, expected.path("sentence").asString()));
                            }
                        }));
            } catch (UnusableException e) {
                e.lines().forEach(fault -> not.add(Files.shown(brought.getKey()) + ", " + fault));
            }
        }
        if (held > 0 || !not.isEmpty()) {
            out.println("%d %s as expected".formatted(held, held == 1 ? "rehearsal" : "rehearsals")
                    + (not.isEmpty() ? "" : "; NOT as expected:"));
            not.forEach(one -> out.println("  " + one));
        }
        return not;
    }

    /** Has the running Yoru keep them; those of the same id are written over. */
    void keep() {
        scripts.values()
                .forEach(script -> server.post("/api/rehearsals/file", "application/yaml", StoryDocument.yaml(script)));
    }

    private static String line(JsonNode story, String said) {
        return story.path("title").asString() + ": " + said;
    }
}
