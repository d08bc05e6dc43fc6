package yoru.server.setup;

import java.time.Clock;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.core.systems.Matter;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Connector;
import yoru.server.systems.Connectors;
import yoru.server.systems.Listed;
import yoru.server.systems.Listed.ItemKind;
import yoru.server.systems.Place;
import yoru.server.systems.Statement;
import yoru.server.systems.SystemKind;
import yoru.server.systems.TroubleException;

/**
 * Sends one sample to a system, end to end, for a person who does not exist, and takes it back: it is seen at which hop
 * it stops.
 */
@Component
class TryOnce {

    private static final Set<ItemKind> OPENED = EnumSet.of(ItemKind.COURSE, ItemKind.GROUP, ItemKind.TAG);

    private final Connections connections;
    private final Connectors connectors;
    private final SampleSale sampleSale;
    private final JsonMapper json;
    private final Clock clock;

    TryOnce(Connections connections, Connectors connectors, SampleSale sampleSale, JsonMapper json, Clock clock) {
        this.connections = connections;
        this.connectors = connectors;
        this.sampleSale = sampleSale;
        this.json = json;
        this.clock = clock;
    }

    /** One hop, and what came of it. */
    record Hop(String title, String text, Outcome outcome) {}

    enum Outcome {
        WELL,
        FAILED,
        /** Not come to. */
        LEFT_OUT
    }

    /** What a hop does; it says in words what came of it. */
    private interface Act {
        String now();
    }

    private record Step(String title, Act act) {}

    /**
     * @param operator to whom a letter is sent, where it is a system for letters
     * @param wanted what is bought, where it is a shop
     */
    List<Hop> run(Connection connection, String operator, SampleSale.Wanted wanted) {
        var place = connections.place(connection);
        var connector = connectors.of(connection);
        var hops = new ArrayList<Hop>();
        var steps = steps(connector, place, operator);
        for (int at = 0; at < steps.size(); at++) {
            var step = steps.get(at);
            try {
                hops.add(new Hop(step.title, step.act.now(), Outcome.WELL));
            } catch (TroubleException e) {
                hops.add(new Hop(step.title, e.words() + ". " + e.trouble().advice(), Outcome.FAILED));
                steps.subList(at + 1, steps.size())
                        .forEach(left -> hops.add(new Hop(left.title, "not come to", Outcome.LEFT_OUT)));
                break;
            }
        }
        boolean well = hops.stream().allMatch(hop -> hop.outcome == Outcome.WELL);
        if (connection.kind() == SystemKind.SHOP && well) {
            hops.addAll(sampleSale.follow(connection, wanted));
        }
        return hops;
    }

    private List<Step> steps(Connector connector, Place place, String operator) {
        var steps = new ArrayList<Step>();
        var can = connector.abilities();
        steps.add(new Step(
                "Reached and let in",
                () -> "it showed " + connector.sample(place).what()));
        if (can.contains(Ability.CATALOGUE)) {
            steps.add(new Step(
                    "Lists what it has", () -> connector.catalogue(place).size() + " things listed"));
        }
        long now = clock.millis();
        var somebody = "try-" + now + "@yoru.example";
        if (can.contains(Ability.MESSAGES)) {
            var letter = json.valueToTree(Map.of(
                    "subject", "Yoru can send letters",
                    "text", "This letter was sent to try the mailbox out.\n",
                    "html", "<p>This letter was sent to try the mailbox out.</p>"));
            var statement = new Statement(
                    operator, operator, new Matter.Letter("try"), true, null, false, 1, "yoru-try-" + now, letter);
            steps.add(new Step("A letter to you", () -> connector.tell(place, statement) + ", to " + operator));
        }
        if (can.contains(Ability.ACCOUNTS)) {
            steps.add(new Step(
                    "An account for somebody invented",
                    () -> connector.tell(place, statement(somebody, new Matter.Account(), true, now, 1)) + ": "
                            + somebody));
        }
        if (can.contains(Ability.ENROLMENT) || can.contains(Ability.GROUPS) || can.contains(Ability.TAGS)) {
            steps.add(new Step("Something is opened for them", () -> tell(connector, place, somebody, true, now)));
            steps.add(new Step("It is taken back", () -> tell(connector, place, somebody, false, now)));
        }
        return steps;
    }

    private String tell(Connector connector, Place place, String somebody, boolean open, long now) {
        var target = connector.abilities().contains(Ability.CATALOGUE)
                ? first(connector.catalogue(place))
                : Optional.<Target>of(new Target.OfCourse("try"));
        return target.map(
                        it -> connector.tell(place, statement(somebody, new Matter.Access(it), open, now, open ? 1 : 2))
                                + ": " + it.path())
                .orElse("left out, for it lists nothing that can be opened");
    }

    /** The first of the kinds that can be taken back without a trace. */
    private static Optional<Target> first(List<Listed> listed) {
        return listed.stream()
                .filter(it -> OPENED.contains(it.kind()))
                .flatMap(it -> it.thing().asTarget().stream())
                .findFirst();
    }

    private static Statement statement(String person, Matter matter, boolean open, long now, int revision) {
        return new Statement(
                person,
                "Somebody invented",
                matter,
                open,
                null,
                false,
                revision,
                "yoru-try-" + now + "-" + revision,
                null);
    }
}
