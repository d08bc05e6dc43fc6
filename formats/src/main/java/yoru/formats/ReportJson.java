package yoru.formats;

import java.time.Instant;
import java.util.List;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.rehearsal.Doing;
import yoru.core.rehearsal.Report;
import yoru.core.rehearsal.Script;

/** What came of a story, as JSON. */
public final class ReportJson {

    private ReportJson() {}

    /** All of it; times are UTC. */
    public static ObjectNode write(Report report) {
        var node = JsonMapper.shared().createObjectNode();
        node.put("story", report.script().id()).put("title", report.script().title());
        node.put("holds", report.holds());
        var steps = node.putArray("steps");
        var guests = guests(report.script());
        report.steps().forEach(step -> write(step, guests, steps.addObject()));
        return node;
    }

    /** Which of the orders of a story are placed without an account. */
    private static List<Boolean> guests(Script script) {
        return script.scenes().stream()
                .filter(scene -> scene.doing() instanceof Doing.Buys)
                .map(scene -> ((Doing.Buys) scene.doing()).as() == Doing.As.GUEST)
                .toList();
    }

    /** As {@code order.placed} says it, of an order of the story: {@code o0002} is the second. */
    private static JsonNode fact(Fact fact, List<Boolean> guests) {
        var event = JsonMapper.shared().readTree(FactWriter.write(fact));
        if (fact.happening() instanceof Happening.OrderPlaced it
                && guests.get(Integer.parseInt(it.order().substring(1)) - 1)) {
            ((ObjectNode) event.get("data")).put("guest", true);
        }
        return event;
    }

    private static void write(Report.Step step, List<Boolean> guests, ObjectNode node) {
        node.put("place", step.place()).put("at", time(step.at())).put("does", step.does());
        var facts = node.putArray("facts");
        step.facts().forEach(fact -> facts.add(fact(fact, guests)));
        RulebookWriter.texts(node, "remarks", step.remarks());
        RulebookWriter.texts(node, "meets", step.meets());
        var passages = node.putArray("passages");
        for (Report.Passage passage : step.passages()) {
            var its = passages.addObject().put("at", time(passage.at()));
            var people = its.putArray("people");
            passage.people().forEach(came -> write(came, people.addObject()));
        }
        var people = node.putArray("people");
        step.people().forEach(standing -> write(standing, people.addObject()));
        var expected = node.putArray("expected");
        step.expected()
                .forEach(it -> expected.addObject().put("holds", it.holds()).put("sentence", it.sentence()));
    }

    private static void write(Report.Came came, ObjectNode node) {
        node.put("person", came.person());
        var moved = node.putArray("moved");
        for (Report.Moved one : came.moved()) {
            var its = moved.addObject()
                    .put("target", one.target().path())
                    .put("title", one.title())
                    .put("move", Fields.word(one.move()));
            if (!one.howLong().isEmpty()) {
                its.put("howLong", one.howLong());
            }
            its.put("why", one.why());
        }
        var followups = node.putArray("followups");
        for (Report.Done one : came.followups()) {
            followups
                    .addObject()
                    .put("at", time(one.at()))
                    .put("followup", one.followup())
                    .put("step", one.step())
                    .put("does", one.does());
        }
        told(came.told(), node.putArray("told"));
        var letters = node.putArray("letters");
        for (Report.Letter one : came.letters()) {
            var its = letters.addObject()
                    .put("to", one.to())
                    .put("subject", one.subject())
                    .put("text", one.text());
            if (one.followup() != null) {
                its.put("followup", one.followup());
            }
        }
    }

    private static void write(Report.Standing standing, ObjectNode node) {
        node.put("person", standing.person());
        if (standing.joinedInto() != null) {
            node.put("joinedInto", standing.joinedInto());
        }
        var open = node.putArray("open");
        for (Report.Open one : standing.open()) {
            open.addObject()
                    .put("target", one.target().path())
                    .put("title", one.title())
                    .put("howLong", one.howLong())
                    .put("why", one.why());
        }
        told(standing.held(), node.putArray("held"));
    }

    private static void told(List<Report.Told> told, ArrayNode node) {
        for (Report.Told one : told) {
            var its = node.addObject().put("system", one.system());
            RulebookWriter.texts(its, "says", one.says());
        }
    }

    private static String time(Instant time) {
        return time.toString();
    }
}
