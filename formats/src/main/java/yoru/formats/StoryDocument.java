package yoru.formats;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.rehearsal.Script;
import yoru.core.rehearsal.Unusable;

/** A rehearsal as a document, {@code yoru: story/1}, in YAML or JSON. */
public final class StoryDocument {

    static final String FORMAT = "story/1";

    private StoryDocument() {}

    /** @throws UnreadableException naming the place of every fault; whether ids are known is seen where it is run */
    public static Script read(String document) {
        return read(DocumentText.read(document));
    }

    /** @throws UnreadableException naming the place of every fault */
    public static Script read(JsonNode document) {
        var faults = new ArrayList<>(DocumentSchema.STORY.faults(document));
        if (!faults.isEmpty()) {
            throw new UnreadableException(faults);
        }
        var script = StoryReader.script(new Fields(document, "", faults));
        if (!faults.isEmpty()) {
            throw new UnreadableException(faults);
        }
        return script;
    }

    /** Why a story cannot be run, with what may have been meant. */
    public static List<Fault> faults(Collection<Unusable> unusable) {
        return unusable.stream()
                .map(it -> new Fault(
                        it.place(), it.problem() + (it.given().isEmpty() ? "" : Nearest.to(it.given(), it.known()))))
                .toList();
    }

    /** The same document as JSON; what is left out has its default. */
    public static ObjectNode write(Script script) {
        return StoryWriter.write(script);
    }

    public static String yaml(Script script) {
        return DocumentText.yaml(write(script));
    }
}
