package yoru.formats;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.snakeyaml.engine.v2.api.LoadSettings;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import tools.jackson.dataformat.yaml.YAMLFactory;
import tools.jackson.dataformat.yaml.YAMLMapper;
import yoru.core.followup.Loops;
import yoru.core.rulebook.Dependencies;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Terms;

/** The rulebook as a document, {@code yoru: rulebook/1}, in YAML or JSON. */
public final class RulebookDocument {

    static final String FORMAT = "rulebook/1";

    /** A hundred thousand links are some ten megabytes; the parser's own limit is three. */
    private static final int LARGEST = 64 << 20;

    private static final YAMLMapper YAML = YAMLMapper.builder(YAMLFactory.builder()
                    .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
                    .loadSettings(
                            LoadSettings.builder().setCodePointLimit(LARGEST).build())
                    .build())
            .build();
    private static final JsonMapper JSON = JsonMapper.builder(JsonFactory.builder()
                    .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
                    .build())
            .build();

    private RulebookDocument() {}

    /** @throws UnreadableException naming the place of every fault */
    public static Rulebook read(String document) {
        try {
            return read(tree(document));
        } catch (JacksonException e) {
            var at = e.getLocation();
            var place = at == null || at.getLineNr() < 1 ? "" : "line " + at.getLineNr();
            throw new UnreadableException(
                    List.of(new Fault(place, "not YAML or JSON: " + firstLine(e.getOriginalMessage()))));
        }
    }

    /** JSON may be indented with tabs, which YAML forbids; what only begins like JSON can still be YAML. */
    private static JsonNode tree(String document) {
        if (document.stripLeading().startsWith("{")) {
            try {
                return JSON.readTree(document);
            } catch (JacksonException e) {
                // said below, if YAML has something to say too
            }
        }
        return YAML.readTree(document);
    }

    /** @throws UnreadableException naming the place of every fault */
    public static Rulebook read(JsonNode document) {
        var faults = new ArrayList<>(RulebookSchema.DOCUMENT.faults(document));
        boolean whole = faults.isEmpty();
        faults.addAll(RulebookReferences.faults(document));
        if (!whole) {
            throw new UnreadableException(faults);
        }
        return acyclic(new RulebookReader(faults).rulebook(document), faults);
    }

    /**
     * A rulebook made of parts that were read one by one: whether everything that it names is there is seen here, and
     * whether something depends on itself.
     *
     * @throws UnreadableException naming the place of every fault
     */
    static Rulebook consistent(Rulebook rulebook) {
        return acyclic(rulebook, new ArrayList<>(RulebookReferences.faults(write(rulebook))));
    }

    private static Rulebook acyclic(Rulebook rulebook, List<Fault> faults) {
        for (Dependencies.Cycle cycle : Dependencies.of(rulebook).cycles()) {
            faults.add(new Fault("links", words(cycle, rulebook)));
        }
        if (!faults.isEmpty()) {
            throw new UnreadableException(faults);
        }
        new Loops(new RulebookIndex(rulebook))
                .all()
                .forEach(circle -> faults.add(new Fault("followups", words(circle))));
        if (!faults.isEmpty()) {
            throw new UnreadableException(faults);
        }
        return rulebook;
    }

    private static String words(List<Followup> circle) {
        return circle.stream().map(one -> "`" + one.id() + "`").collect(Collectors.joining(" leads to "))
                + " leads to `" + circle.getFirst().id() + "` again; what they give must not come back to them";
    }

    /** The same document as JSON; what is left out has its default. */
    public static ObjectNode write(Rulebook rulebook) {
        return RulebookWriter.write(rulebook);
    }

    public static String yaml(Rulebook rulebook) {
        return YAML.writeValueAsString(write(rulebook));
    }

    /**
     * Terms alone, as in a link.
     *
     * @throws UnreadableException naming the place of every fault
     */
    public static Terms terms(JsonNode node) {
        var faults = new ArrayList<>(RulebookSchema.TERMS.faults(node));
        if (!faults.isEmpty()) {
            throw new UnreadableException(faults);
        }
        var terms = new RulebookReader(faults).terms(new Fields(node, "terms", faults));
        if (!faults.isEmpty()) {
            throw new UnreadableException(faults);
        }
        return terms;
    }

    public static ObjectNode write(Terms terms) {
        return RulebookWriter.write(terms);
    }

    private static String words(Dependencies.Cycle cycle, Rulebook rulebook) {
        var first = cycle.members().getFirst();
        return cycle.members().stream().map(node -> node.words(rulebook)).collect(Collectors.joining(" leads to "))
                + " leads to " + first.words(rulebook) + " again (links "
                + String.join(", ", cycle.links()) + "); levels and tags must not depend on themselves";
    }

    private static String firstLine(String text) {
        return text.lines().findFirst().orElse("");
    }
}
