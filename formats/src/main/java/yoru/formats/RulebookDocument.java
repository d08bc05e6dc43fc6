package yoru.formats;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.followup.Loops;
import yoru.core.rulebook.Dependencies;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Terms;

/** The rulebook as a document, {@code yoru: rulebook/1}, in YAML or JSON. */
public final class RulebookDocument {

    static final String FORMAT = "rulebook/1";

    private RulebookDocument() {}

    /** @throws UnreadableException naming the place of every fault */
    public static Rulebook read(String document) {
        return read(DocumentText.read(document));
    }

    /** @throws UnreadableException naming the place of every fault */
    public static Rulebook read(JsonNode document) {
        var faults = new ArrayList<>(DocumentSchema.RULEBOOK.faults(document));
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
        return DocumentText.yaml(write(rulebook));
    }

    /**
     * Terms alone, as in a link.
     *
     * @throws UnreadableException naming the place of every fault
     */
    public static Terms terms(JsonNode node) {
        var faults = new ArrayList<>(DocumentSchema.TERMS.faults(node));
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
}
