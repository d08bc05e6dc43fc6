package yoru.server.rehearsals;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.rehearsal.Report;
import yoru.core.rehearsal.Script;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.core.systems.Difference;
import yoru.core.systems.Difference.Has;
import yoru.core.systems.Matter;
import yoru.core.systems.Wish;
import yoru.formats.StoryDocument;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Connector;
import yoru.server.systems.Connectors;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/**
 * Takes a story through the connected systems: each is really told what it would be told, under addresses that nobody has,
 * what it then holds is compared with what was predicted, and all of it is taken back. Nothing of it is kept in Yoru, and no
 * letter is sent.
 */
@Service
class ForReal {

    /** More parts of a system's list are not read; then it is said that it was not compared. */
    private static final int MOST_PARTS = 200;

    private final Rehearsals rehearsals;
    private final Rulebooks rulebooks;
    private final Connections connections;
    private final Connectors connectors;
    private final Journal journal;
    private final SchoolSettings settings;
    private final Clock clock;
    private final JsonMapper json;

    ForReal(
            Rehearsals rehearsals,
            Rulebooks rulebooks,
            Connections connections,
            Connectors connectors,
            Journal journal,
            SchoolSettings settings,
            Clock clock,
            JsonMapper json) {
        this.rehearsals = rehearsals;
        this.rulebooks = rulebooks;
        this.connections = connections;
        this.connectors = connectors;
        this.journal = journal;
        this.settings = settings;
        this.clock = clock;
        this.json = json;
    }

    /**
     * What really happened.
     *
     * @param told each thing that a system was told, in order, with its answer
     * @param compared what each system then held beside what was predicted
     * @param left what could not be taken back
     */
    record Trip(List<RealTelling> told, List<RealHolding> compared, List<String> left) {
        boolean isAsPredicted() {
            return told.stream().allMatch(RealTelling::well)
                    && compared.stream().allMatch(it -> it.lacking.isEmpty() && it.besides.isEmpty());
        }
    }

    /** @param step of the story, from 0 on */
    record RealTelling(int step, String name, String system, String title, String says, boolean well, String answer) {}

    /**
     * @param predicted how many things the system should hold of somebody
     * @param lacking what it does not hold and should, or holds to another end
     * @param besides what it holds and should not
     * @param fault why it could not be read
     */
    record RealHolding(
            String name,
            String system,
            String title,
            int predicted,
            List<String> lacking,
            List<String> besides,
            @Nullable String fault) {}

    /** @param wanted ids of the systems that are told; they are on, or being tried */
    Trip run(JsonNode document, Set<String> wanted, String by) {
        var systems = told(wanted);
        var script = invented(StoryDocument.read(document));
        var report =
                rehearsals.run(StoryDocument.write(script), rulebooks.current().rulebook(), wanted);
        var starts = script.starts().atZone(settings.school().zone()).toInstant();
        if (starts.isBefore(clock.instant())) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "It lies in the past",
                    "Systems let nobody in until a time that is over. Let the story start in the future; nothing was told.");
        }
        var trip = new Underway(script, systems).all(report);
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                "Rehearsed for real: " + script.title(),
                (trip.isAsPredicted() ? "every system as predicted" : "not every system as predicted")
                        + (trip.left.isEmpty() ? "" : "; left behind: " + String.join(", ", trip.left)),
                by,
                null,
                null));
        return trip;
    }

    private List<Connection> told(Set<String> wanted) {
        var systems = connections.all().stream()
                .filter(it -> wanted.contains(it.id()) && it.state() != Connection.State.OFF)
                .toList();
        if (systems.isEmpty() || systems.size() < wanted.size()) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "It cannot be told to all of them",
                    systems.isEmpty()
                            ? "Choose at least one system that is on or being tried. Nothing was told."
                            : "One of the systems was switched off or taken away meanwhile. Nothing was told.");
        }
        return systems;
    }

    /** The same story, of people whose addresses are new each time and lead nowhere (RFC 2606). */
    private static Script invented(Script script) {
        var run = UUID.randomUUID().toString().substring(0, 8);
        return new Script(
                script.id(),
                script.title(),
                script.starts(),
                script.people().stream()
                        .map(it -> new Script.Player(
                                it.id(),
                                it.name(),
                                it.id().replaceAll("[^A-Za-z0-9-]", "-") + "-" + run + "@story.invalid"))
                        .toList(),
                script.scenes());
    }

    /** One going through. */
    private final class Underway {

        private final Cast cast;
        private final Map<String, Connection> systems = new LinkedHashMap<>();
        private final List<RealTelling> told = new ArrayList<>();
        /** What each system was told last of each matter, by person. */
        private final Map<String, Map<String, Map<Matter, Wish>>> held = new LinkedHashMap<>();

        private int revision;

        Underway(Script script, List<Connection> wanted) {
            cast = new Cast(script, json);
            wanted.forEach(it -> systems.put(it.id(), it));
        }

        Trip all(Report report) {
            for (int at = 0; at < report.steps().size(); at++) {
                for (Report.Passage passage : report.steps().get(at).passages()) {
                    for (Report.Came came : passage.people()) {
                        for (Report.Wanted wanted : came.wanted()) {
                            tell(at, came.person(), wanted);
                        }
                    }
                }
            }
            var compared = compare();
            return new Trip(List.copyOf(told), compared, takeBack());
        }

        private void tell(int step, String person, Report.Wanted wanted) {
            var wish = wanted.wish();
            var system = systems.get(wish.system());
            if (system == null) {
                return;
            }
            var answer = say(system, person, wish);
            told.add(new RealTelling(
                    step, cast.name(person), system.id(), system.title(), wanted.says(), answer.well, answer.text));
            held.computeIfAbsent(person, key -> new LinkedHashMap<>())
                    .computeIfAbsent(wish.system(), key -> new LinkedHashMap<>())
                    .put(wish.matter(), wish);
        }

        private record Answer(boolean well, String text) {}

        private Answer say(Connection system, String person, Wish wish) {
            var connector = connectors.of(system);
            revision++;
            var statement = cast.statement(person, wish, revision);
            try {
                return new Answer(true, connector.tell(connections.place(system), statement));
            } catch (TroubleException e) {
                return new Answer(false, e.words() + ". " + e.trouble().advice());
            }
        }

        private List<RealHolding> compare() {
            var compared = new ArrayList<RealHolding>();
            for (Connection system : systems.values()) {
                var connector = connectors.of(system);
                if (!connector.abilities().contains(Ability.LISTING)
                        || held.values().stream().noneMatch(of -> of.containsKey(system.id()))) {
                    continue;
                }
                try {
                    var found = found(system, connector);
                    held.forEach((person, of) -> {
                        if (of.containsKey(system.id())) {
                            compared.add(compare(system, person, of.get(system.id()), found));
                        }
                    });
                } catch (TroubleException e) {
                    compared.add(new RealHolding("", system.id(), system.title(), 0, List.of(), List.of(), e.words()));
                }
            }
            return compared;
        }

        private RealHolding compare(
                Connection system, String person, Map<Matter, Wish> wishes, Map<String, Map<Target, Has>> found) {
            Map<Target, Has> wanted = new HashMap<>();
            var now = clock.instant();
            wishes.forEach((matter, wish) -> {
                if (matter instanceof Matter.Access it && wish.isOpen() && isAhead(wish, now)) {
                    wanted.put(it.target(), new Has(wish.howLong().endOrNone(), true));
                }
            });
            var differences =
                    Difference.between(wanted, found.getOrDefault(cast.address(person), Map.of()), target -> true);
            return new RealHolding(
                    cast.name(person),
                    system.id(),
                    system.title(),
                    wanted.size(),
                    differences.stream()
                            .filter(it -> it.kind() != Difference.Kind.EXTRA)
                            .map(it -> it.target().path())
                            .toList(),
                    differences.stream()
                            .filter(it -> it.kind() == Difference.Kind.EXTRA)
                            .map(it -> it.target().path())
                            .toList(),
                    null);
        }

        private static boolean isAhead(Wish wish, Instant now) {
            var end = wish.howLong().endOrNone();
            return end == null || end.isAfter(now);
        }

        /** What the system holds of the people of the story. */
        private Map<String, Map<Target, Has>> found(Connection system, Connector connector) {
            Map<String, Map<Target, Has>> found = new HashMap<>();
            var place = connections.place(system);
            String from = null;
            for (int parts = 0; parts < MOST_PARTS; parts++) {
                var part = connector.list(place, from);
                part.found().stream()
                        .filter(it -> cast.has(it.person()))
                        .forEach(it -> found.computeIfAbsent(it.person(), key -> new HashMap<>())
                                .put(it.target(), new Has(it.until(), it.dated())));
                from = part.rest();
                if (from == null) {
                    return found;
                }
            }
            throw new TroubleException(
                    Trouble.NOT_CONFIRMED, "lists more than is read here, so what it holds was not compared");
        }

        /** The last things first. */
        private List<String> takeBack() {
            var left = new TreeMap<String, String>();
            held.forEach((person, bySystem) -> bySystem.forEach((id, wishes) -> {
                var system = Objects.requireNonNull(systems.get(id));
                var name = cast.name(person);
                wishes.values().stream().toList().reversed().forEach(wish -> {
                    switch (wish.matter()) {
                        case Matter.Account _ ->
                            left.put("account " + id + name, "the account of " + name + " in " + system.title());
                        case Matter.Access _, Matter.Field _ -> {
                            if (wish.isOfNothing()) {
                                return;
                            }
                            var answer = say(
                                    system,
                                    person,
                                    wish.matter() instanceof Matter.Field it
                                            ? Wish.field(id, it.name(), "")
                                            : Wish.closed(id, wish.matter()));
                            if (!answer.well) {
                                left.put(
                                        id + wish.matter().path() + name,
                                        "%s of %s in %s: %s"
                                                .formatted(wish.matter().path(), name, system.title(), answer.text));
                            }
                        }
                        case Matter.Letter _, Matter.Event _, Matter.Code _ -> {}
                    }
                });
            }));
            return List.copyOf(left.values());
        }
    }
}
