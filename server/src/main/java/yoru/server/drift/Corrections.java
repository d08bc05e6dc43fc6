package yoru.server.drift;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.Period;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Target;
import yoru.core.systems.Difference.Kind;
import yoru.server.deliveries.Deliveries;
import yoru.server.journal.Journal;
import yoru.server.ledger.FactKeeper;
import yoru.server.ledger.Origin;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.ProblemException;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;

/** Puts differences right: in the system, or by taking over what the system has. */
@Service
public class Corrections {

    /** What a connection may set: the kinds that are corrected as soon as they are found, separated by commas. */
    public static final String BY_ITSELF = "correct";

    private static final int SHOWN = 300;

    private final OutOfStepTable differences;
    private final StateCheckTable checks;
    private final Deliveries deliveries;
    private final Register register;
    private final FactKeeper keeper;
    private final Connections connections;
    private final Rulebooks rulebooks;
    private final Journal journal;
    private final Clock clock;

    Corrections(
            OutOfStepTable differences,
            StateCheckTable checks,
            Deliveries deliveries,
            Register register,
            FactKeeper keeper,
            Connections connections,
            Rulebooks rulebooks,
            Journal journal,
            Clock clock) {
        this.differences = differences;
        this.checks = checks;
        this.deliveries = deliveries;
        this.register = register;
        this.keeper = keeper;
        this.connections = connections;
        this.rulebooks = rulebooks;
        this.journal = journal;
        this.clock = clock;
    }

    /** A difference, as it is shown. */
    public record OutOfStepShown(
            long id,
            String person,
            @Nullable Long personId,
            String name,
            String target,
            String title,
            Kind kind,
            @Nullable Instant wantedUntil,
            @Nullable Instant foundUntil,
            Instant noticedAt) {}

    /** @param target the only one that is asked about; none = all */
    @Transactional(readOnly = true)
    public List<OutOfStepShown> list(String connection, Collection<Kind> kinds, @Nullable String target) {
        var rulebook = rulebooks.overTodaysCatalogue().rulebook();
        var limit = Limit.of(SHOWN);
        var found = target == null
                ? differences.findByConnectionIdAndKindInOrderByKindAscTargetAscPersonKeyAsc(connection, kinds, limit)
                : differences.findByConnectionIdAndTargetAndKindInOrderByKindAscPersonKeyAsc(
                        connection, target, kinds, limit);
        var known = people(found);
        return found.stream()
                .map(it -> {
                    var person = Optional.ofNullable(known.get(it.personKey));
                    return new OutOfStepShown(
                            it.id(),
                            it.personKey,
                            person.map(Person::id).orElse(null),
                            person.map(Person::name).orElse(it.personKey),
                            it.target,
                            rulebook.title(it.target()),
                            it.kind,
                            it.wantedUntil,
                            it.foundUntil,
                            it.noticedAt);
                })
                .toList();
    }

    /**
     * People who are in a course without a reason.
     *
     * @param names of the first of them
     */
    public record Within(String connection, String course, List<String> names, int people) {}

    /** Whoever a classroom has in a course, and Yoru knows no reason. */
    @Transactional(readOnly = true)
    public List<Within> withoutReason() {
        var rows = differences.withoutReason();
        var known = register.people(
                rows.stream().flatMap(row -> row.getFirst().lines()).collect(Collectors.toSet()));
        return rows.stream()
                .flatMap(row -> Target.read(row.getTarget()) instanceof Target.OfCourse course
                        ? Stream.of(
                                new Within(row.getConnection(), course.course(), names(row, known), row.getPeople()))
                        : Stream.empty())
                .toList();
    }

    private static List<String> names(OutOfStepTable.InCourse row, Map<String, Person> known) {
        return row.getFirst()
                .lines()
                .map(key ->
                        Optional.ofNullable(known.get(key)).map(Person::name).orElse(key))
                .toList();
    }

    /** Those that are named; or all of a kind. */
    public record Choice(@Nullable List<Long> ids, @Nullable Kind kind) {}

    /**
     * What came of it.
     *
     * @param differences how many were settled
     * @param overtaken how many were left, for the system has been told about them since it was looked at
     */
    public record Settled(int differences, int overtaken) {}

    /** Has the system told what Yoru wants there. */
    @Transactional
    public Settled correct(String connection, Choice choice, String operator) {
        return settle("Put right", connection, chosen(connection, choice), operator, this::correct);
    }

    private interface Settling {
        void of(Connection connection, OutOfStep difference, @Nullable Person person);
    }

    private Settled settle(String what, String connection, List<OutOfStep> chosen, String operator, Settling settling) {
        var known = connections.get(connection);
        var people = people(chosen);
        var settled = chosen.stream()
                .filter(it -> !isOvertaken(it, people.get(it.personKey)))
                .toList();
        settled.forEach(it -> settling.of(known, it, people.get(it.personKey)));
        differences.deleteAll(chosen);
        if (!settled.isEmpty()) {
            note(what, known, settled, operator);
        }
        return new Settled(settled.size(), chosen.size() - settled.size());
    }

    /** What is told after somebody has looked may be the very thing that is seen to be missing, or too much. */
    private boolean isOvertaken(OutOfStep difference, @Nullable Person person) {
        var begunAt = checks.findById(difference.checkId).orElseThrow().begunAt;
        return person != null
                && deliveries.isToldSince(difference.connectionId, person.id(), difference.target(), begunAt);
    }

    @Transactional
    void correctByItself(Connection connection) {
        var set = connections.settings(connection).getOrDefault(BY_ITSELF, "");
        for (Kind kind : Kind.values()) {
            if (Arrays.asList(set.split(",")).contains(kind.name())) {
                correct(connection.id(), new Choice(null, kind), "Yoru");
            }
        }
    }

    private void correct(Connection connection, OutOfStep difference, @Nullable Person person) {
        if (difference.kind == Kind.MISSING && difference.target() instanceof Target.OfList list) {
            // whoever is no longer on it has left it, and is not put back
            keep(connection, difference, new Happening.ListLeft(list.list()));
            return;
        }
        switch (difference.kind) {
            case MISSING, DIFFERENT -> {
                if (person != null) {
                    deliveries.tellAgain(connection.id(), person.id(), difference.target());
                }
            }
            case EXTRA -> {
                var known = person == null ? register.know(difference.personKey) : person;
                deliveries.takeAway(connection.id(), known.id(), difference.target());
            }
        }
    }

    /**
     * Takes over what a system has, as given by hand. Only what is too much there can be taken over.
     *
     * @param why in the operator's words
     */
    @Transactional
    public Settled adopt(String connection, Choice choice, String why, String operator) {
        var chosen = chosen(connection, choice);
        if (chosen.stream().anyMatch(it -> it.kind != Kind.EXTRA)) {
            throw new ProblemException(
                    HttpStatus.UNPROCESSABLE_CONTENT,
                    "This cannot be taken over",
                    "Only what a system has and Yoru does not know can be taken over. Nothing was changed.");
        }
        return settle(
                "Taken over",
                connection,
                chosen,
                operator,
                (known, difference, _) -> keep(known, difference, grant(known, difference, why, operator)));
    }

    private void keep(Connection connection, OutOfStep difference, Happening happening) {
        var fact = new Fact(
                new FactId("/yoru", UUID.randomUUID().toString()), difference.personKey, clock.instant(), happening);
        keeper.keep(new Origin.OfSystem(connection.id()), fact);
    }

    private Happening grant(Connection connection, OutOfStep difference, String why, String operator) {
        var id = UUID.randomUUID().toString();
        var reason = "found in %s and taken over by %s%s"
                .formatted(connection.title(), operator, why.isBlank() ? "" : ": " + why.strip());
        // an end in the middle of a day becomes one at the same hour as now, on the day after
        var length = difference.foundUntil == null
                ? null
                : Period.ofDays((int) Duration.between(clock.instant(), difference.foundUntil)
                                .toDays()
                        + 1);
        return new Happening.GrantGiven(id, List.of(Destination.to(difference.target())), length, reason);
    }

    private Map<String, Person> people(List<OutOfStep> some) {
        return register.people(some.stream().map(it -> it.personKey).collect(Collectors.toSet()));
    }

    /** As they are once nobody else changes anything about their people. */
    private List<OutOfStep> chosen(String connection, Choice choice) {
        register.lockKnown(
                found(connection, choice).stream().map(it -> it.personKey).collect(Collectors.toSet()));
        return found(connection, choice);
    }

    private List<OutOfStep> found(String connection, Choice choice) {
        var chosen = new ArrayList<OutOfStep>();
        if (choice.ids != null) {
            chosen.addAll(differences.findByConnectionIdAndIdIn(connection, choice.ids));
        } else if (choice.kind != null) {
            chosen.addAll(differences.findByConnectionIdAndKind(connection, choice.kind));
        }
        return chosen;
    }

    private void note(String what, Connection connection, List<OutOfStep> differences, String operator) {
        var first = differences.getFirst();
        journal.write(new Journal.Line(
                yoru.server.journal.Kind.OPERATOR,
                what,
                connection.title() + ": " + first.personKey + ", " + first.target
                        + (differences.size() > 1 ? " and " + (differences.size() - 1) + " more" : ""),
                operator,
                null,
                null));
    }
}
