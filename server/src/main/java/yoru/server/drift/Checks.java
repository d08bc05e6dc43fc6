package yoru.server.drift;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.core.systems.Difference;
import yoru.core.systems.Difference.Has;
import yoru.server.deliveries.Deliveries;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.Queue;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Connector;
import yoru.server.systems.Connectors;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/** Looks at what systems have, page by page, and then compares it, some hundred people at a time. */
@Service
public class Checks {

    static final TaskDescriptor<Void> CHECK = TaskDescriptor.of("check-system");

    private static final Duration AT_A_STRETCH = Duration.ofSeconds(2);
    private static final Duration REST = Duration.ofMillis(500);
    private static final Duration AFTER_TROUBLE = Duration.ofSeconds(5);
    /** A system that does not answer for so long is looked at another time. */
    private static final Duration LONGEST = Duration.ofMinutes(30);

    private static final int PEOPLE_AT_ONCE = 500;
    private static final int MOST_FOUND = 5_000_000;

    private final StateCheckTable checks;
    private final OutOfStepTable differences;
    private final Connections connections;
    private final Connectors connectors;
    private final Deliveries deliveries;
    private final Rulebooks rulebooks;
    private final Corrections corrections;
    private final Queue queue;
    private final JsonMapper json;
    private final TransactionTemplate transaction;
    private final Clock clock;

    Checks(
            StateCheckTable checks,
            OutOfStepTable differences,
            Connections connections,
            Connectors connectors,
            Deliveries deliveries,
            Rulebooks rulebooks,
            Corrections corrections,
            Queue queue,
            JsonMapper json,
            TransactionTemplate transaction,
            Clock clock) {
        this.checks = checks;
        this.differences = differences;
        this.connections = connections;
        this.connectors = connectors;
        this.deliveries = deliveries;
        this.rulebooks = rulebooks;
        this.corrections = corrections;
        this.queue = queue;
        this.json = json;
        this.transaction = transaction;
        this.clock = clock;
    }

    /** How the latest check of a system went, or how far it is. */
    public record Latest(
            Instant begunAt,
            String begunBy,
            @Nullable Instant endedAt,
            int found,
            @Nullable String fault) {}

    /** Begins a check, unless one is under way. @return whether it was begun */
    @Transactional
    public boolean begin(String connection, String by) {
        var known = connections.get(connection);
        var latest = checks.findFirstByConnectionIdOrderByIdDesc(connection);
        boolean running = latest.filter(check -> check.endedAt == null).isPresent();
        if (running || !known.isOn() || !connectors.abilities(known).contains(Ability.LISTING)) {
            return false;
        }
        var check = checks.save(new StateCheck(connection, clock.instant(), by));
        queue.now(CHECK, String.valueOf(check.id()));
        return true;
    }

    void beginAll() {
        connections.all().forEach(connection -> begin(connection.id(), "Yoru"));
    }

    @Transactional(readOnly = true)
    public Optional<Latest> latest(String connection) {
        return checks.findFirstByConnectionIdOrderByIdDesc(connection)
                .map(check -> new Latest(check.begunAt, check.begunBy, check.endedAt, check.found, check.fault));
    }

    /** @return when to go on; none = it has ended */
    Optional<Instant> goOn(long id) {
        var check = checks.findById(id).orElseThrow();
        var connection = connections.get(check.connectionId);
        if (check.endedAt != null) {
            return Optional.empty();
        }
        try {
            if (!readOn(check, connection)) {
                return Optional.of(clock.instant().plus(REST));
            }
        } catch (TroubleException e) {
            return trouble(check, e.words());
        }
        compare(check, connection);
        corrections.correctByItself(connection);
        end(check, null);
        return Optional.empty();
    }

    /** Reads for a while, then lets other work have its turn. @return whether it has come to the end */
    private boolean readOn(StateCheck check, Connection connection) {
        var rest = clock.instant().plus(AT_A_STRETCH);
        var from = Optional.ofNullable(check.place);
        do {
            var part = connectors.of(connection).list(connections.place(connection), from.orElse(null));
            keep(check, part);
            from = part.next();
        } while (from.isPresent() && clock.instant().isBefore(rest));
        return from.isEmpty();
    }

    private Optional<Instant> trouble(StateCheck check, String words) {
        if (clock.instant().isAfter(check.begunAt.plus(LONGEST))) {
            end(check, words);
            return Optional.empty();
        }
        transaction.executeWithoutResult(status -> checks.findById(check.id()).orElseThrow().fault = words);
        return Optional.of(clock.instant().plus(AFTER_TROUBLE));
    }

    /** As {@link StateCheckTable#keep} takes it. */
    record FoundRow(String person, String target, @Nullable String until, boolean dated) {}

    private void keep(StateCheck check, Connector.Part part) {
        transaction.executeWithoutResult(status -> {
            var now = clock.instant();
            var open = part.found().stream()
                    .filter(found -> found.until() == null || found.until().isAfter(now))
                    .map(found -> new FoundRow(
                            found.person(),
                            found.target().path(),
                            found.until() == null ? null : found.until().toString(),
                            found.dated()))
                    .toList();
            checks.keep(check.id(), json.writeValueAsString(open));
            var kept = checks.findById(check.id()).orElseThrow();
            boolean lost = part.next().filter(next -> next.equals(kept.place)).isPresent();
            if (lost || kept.found > MOST_FOUND) {
                throw new TroubleException(Trouble.UNREADABLE, "tells who has what without ever coming to an end");
            }
            kept.place = part.next().orElse(null);
            kept.found += part.found().size();
            kept.fault = null;
        });
    }

    private void compare(StateCheck check, Connection connection) {
        var governed = governed();
        var after = "";
        Optional<String> to;
        do {
            var from = after;
            to = checks.boundary(check.id(), connection.id(), from, PEOPLE_AT_ONCE);
            var until = to.orElse(null);
            transaction.executeWithoutResult(status -> compare(check, connection, from, until, governed));
            after = to.orElse(after);
        } while (to.isPresent());
        transaction.executeWithoutResult(status -> {
            differences.deleteOlder(connection.id(), check.id());
            checks.forget(check.id());
        });
    }

    private void compare(
            StateCheck check, Connection connection, String after, @Nullable String to, Predicate<Target> governed) {
        var now = clock.instant();
        Map<String, Map<Target, Has>> found = new HashMap<>();
        for (var row : checks.found(check.id(), after, to)) {
            if (row.getUntil() != null && !row.getUntil().isAfter(now)) {
                continue; // over by now
            }
            found.computeIfAbsent(row.getPerson(), person -> new HashMap<>())
                    .put(Target.read(row.getTarget()), new Has(row.getUntil(), row.getDated()));
        }
        Map<String, Map<Target, Has>> wanted = new HashMap<>();
        Map<String, Set<Target>> onTheWay = new HashMap<>();
        Map<String, Set<Target>> told = new HashMap<>();
        for (var row : deliveries.told(connection.id(), after, to)) {
            told.computeIfAbsent(row.person(), person -> new HashSet<>()).add(row.target());
            if (!row.isSettled(check.begunAt)) { // what was listed may be from before or after
                onTheWay.computeIfAbsent(row.person(), person -> new HashSet<>())
                        .add(row.target());
            } else if (row.open() && (row.until() == null || row.until().isAfter(now))) {
                wanted.computeIfAbsent(row.person(), person -> new HashMap<>())
                        .put(row.target(), new Has(row.until(), true));
            }
        }
        Map<String, OutOfStep> known = new TreeMap<>();
        differences
                .between(connection.id(), after, to)
                .forEach(difference -> known.put(difference.personKey + " " + difference.target, difference));
        var people = new TreeSet<>(found.keySet());
        people.addAll(wanted.keySet());
        for (String person : people) {
            var ours = told.getOrDefault(person, Set.of());
            var later = onTheWay.getOrDefault(person, Set.of());
            Difference.between(
                            wanted.getOrDefault(person, Map.of()),
                            found.getOrDefault(person, Map.of()),
                            target -> governed.test(target) || ours.contains(target))
                    .stream()
                    .filter(difference -> !later.contains(difference.target()))
                    .forEach(difference -> {
                        var row = known.get(person + " " + difference.target().path());
                        if (row == null) {
                            differences.save(new OutOfStep(connection.id(), person, difference, now, check.id()));
                        } else {
                            row.is(difference, check.id());
                        }
                    });
        }
    }

    /** Whatever a link leads to is Yoru's to decide about. */
    private Predicate<Target> governed() {
        var rulebook = rulebooks.overTodaysCatalogue().rulebook();
        var index = new RulebookIndex(rulebook);
        var targets = new HashSet<Target>();
        rulebook.links().forEach(link -> targets.addAll(index.targets(link)));
        return targets::contains;
    }

    private void end(StateCheck check, @Nullable String fault) {
        transaction.executeWithoutResult(status -> {
            var ended = checks.findById(check.id()).orElseThrow();
            ended.endedAt = clock.instant();
            ended.fault = fault;
        });
    }

    /** The people of whom a system has something that Yoru does not want there, or the reverse, by kind. */
    @Transactional(readOnly = true)
    public List<Count> counts() {
        return differences.counts().stream()
                .map(row -> new Count(row.getConnection(), row.getKind(), row.getMany(), row.getPeople()))
                .toList();
    }

    /** How many differences of a kind a system has, and for how many people. */
    public record Count(String connection, Difference.Kind kind, int many, int people) {}

    @EventListener
    void on(PersonForgotten forgotten) {
        var keys = forgotten.forgetting().keys();
        checks.forgetPeople(keys);
        differences.forget(keys);
    }
}
