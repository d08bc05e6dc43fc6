package yoru.server.access;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.ledger.Histories;
import yoru.core.moves.Moves;
import yoru.core.moves.Turn;
import yoru.core.moves.Turns;
import yoru.core.moves.Wishes;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
import yoru.server.announcements.Announcements;
import yoru.server.announcements.Announcements.Turned;
import yoru.server.deliveries.Deliveries;
import yoru.server.followups.CarryingOut;
import yoru.server.followups.Deciding;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.Queue;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.rulebooks.Rulebooks.InForce;
import yoru.server.systems.Landscapes;

/** Looks a person over: asks the engine, and has the systems told what has changed. */
@Service
public class Recompute {

    /** So many in one transaction that nobody waits for long. */
    static final int AT_A_TIME = 100;

    static final TaskDescriptor<Void> WAKE = TaskDescriptor.of("wake-person");

    private final LedgerReader ledger;
    private final Register register;
    private final Rulebooks rulebooks;
    private final Landscapes landscapes;
    private final Deliveries deliveries;
    private final Announcements announcements;
    private final Deciding followups;
    private final CarryingOut carrying;
    private final OpeningTable openings;
    private final StandingTable standings;
    private final Journal journal;
    private final Queue queue;
    private final Clock clock;

    Recompute(
            LedgerReader ledger,
            Register register,
            Rulebooks rulebooks,
            Landscapes landscapes,
            Deliveries deliveries,
            Announcements announcements,
            Deciding followups,
            CarryingOut carrying,
            OpeningTable openings,
            StandingTable standings,
            Journal journal,
            Queue queue,
            Clock clock) {
        this.ledger = ledger;
        this.register = register;
        this.rulebooks = rulebooks;
        this.landscapes = landscapes;
        this.deliveries = deliveries;
        this.announcements = announcements;
        this.followups = followups;
        this.carrying = carrying;
        this.openings = openings;
        this.standings = standings;
        this.journal = journal;
        this.queue = queue;
        this.clock = clock;
    }

    /**
     * One person, from all their facts.
     *
     * @param cause the fact that made it necessary, none = the hour or another rulebook
     */
    @Transactional
    public void person(long id, @Nullable Long cause) {
        lookOver(List.of(register.lock(id).orElseThrow()), cause == null ? Map.of() : Map.of(id, cause));
    }

    /**
     * Many at once.
     *
     * @param causes the facts that made it necessary, by person; none = the hour or another rulebook
     * @return those whom somebody else was at, and who were left out
     */
    @Transactional
    public List<Long> people(Collection<Long> ids, Map<Long, Long> causes) {
        var free = register.lockFree(ids);
        lookOver(free, causes);
        return busy(ids, free);
    }

    private static List<Long> busy(Collection<Long> ids, List<Person> free) {
        var found = free.stream().map(Person::id).collect(Collectors.toSet());
        return ids.stream().filter(id -> !found.contains(id)).toList();
    }

    /**
     * The rows of the people are locked, so that two servers never look over one of them at once, and their facts are read
     * after that.
     */
    private void lookOver(List<Person> people, Map<Long, Long> causes) {
        var ids = people.stream().map(Person::id).toList();
        var current = rulebooks.current();
        var landscape = landscapes.current();
        var now = clock.instant();
        var decision = followups.decide(
                people, ledger.concerning(people.stream().map(Person::key).toList()), current, landscape, now);
        var facts = decision.ledger();
        var turns = new Turns(current.engine(), landscape, Recompute::asKept);
        var histories = Histories.of(facts.asOf(now));
        var toCome = Turns.toCome(facts, now);
        var standing = standings.findByPersonIdIn(ids).stream().collect(Collectors.groupingBy(it -> it.personId));
        var turned = new ArrayList<Turned>();
        for (Person person : people) {
            var before = standing.getOrDefault(person.id(), List.of());
            var turn = turns.of(
                    histories.person(person.key()),
                    Stream.concat(
                                    toCome.stream(),
                                    Stream.ofNullable(decision.next().get(person.key())))
                            .toList(),
                    before.stream().map(Standing::told).toList(),
                    section -> wasKnown(section, before, current),
                    now);
            keepStandings(person, turn, before, current);
            turned.add(new Turned(person, turn, causes.get(person.id())));
        }
        keepWindows(ids, turned);
        journal.writeAll(
                turned.stream().flatMap(it -> lines(it, current.rulebook())).toList());
        deliveries.want(turned.stream()
                .map(it -> new Deliveries.Wanted(it.person().id(), it.turn().wishes(), it.cause()))
                .toList());
        announcements.announce(turned.stream()
                .map(it -> new Turned(it.person(), unwritten(it, decision), it.cause()))
                .toList());
        carrying.goOn(ids, true);
        wake(turned);
    }

    /** Without the news of which a follow-up writes. */
    private static Turn unwritten(Turned turned, Deciding.Decision decision) {
        var written = decision.written().getOrDefault(turned.person().key(), Set.of());
        return written.isEmpty()
                ? turned.turn()
                : turned.turn().without(news -> written.stream().anyMatch(it -> news.isAbout(it.thing(), it.order())));
    }

    private void wake(List<Turned> turned) {
        Map<String, Instant> times = new LinkedHashMap<>();
        turned.forEach(it -> it.turn()
                .next()
                .ifPresent(time ->
                        times.put(it.person().id() + "@" + time, asKept(time).plus(1, ChronoUnit.MICROS))));
        queue.at(WAKE, times);
    }

    /** Whether all rulebooks by which something was told knew a section. */
    private boolean wasKnown(Target.OfSection section, List<Standing> before, InForce current) {
        return before.stream()
                .map(standing -> standing.rulebook)
                .distinct()
                .allMatch(number -> number == current.number() || rulebooks.knew(number, section));
    }

    /**
     * Has a system that was off told what it missed about people: what should be so there, what no longer should, and what
     * was on its way when it was switched off. What it was told already is not said again.
     *
     * @return those whom somebody else was at, and who were left out
     */
    @Transactional
    public List<Long> tellAll(String connection, Collection<Long> ids) {
        var free = register.lockFree(ids);
        tellAll(connection, free);
        return busy(ids, free);
    }

    /** The same of one. */
    @Transactional
    public void tellAll(String connection, long id) {
        tellAll(connection, List.of(register.lock(id).orElseThrow()));
    }

    private void tellAll(String connection, List<Person> people) {
        var ids = people.stream().map(Person::id).toList();
        var standing = standings.findByPersonIdIn(ids).stream().collect(Collectors.groupingBy(it -> it.personId));
        var wishes = new Wishes(
                landscapes.current(), rulebooks.current().rulebook().school().zone());
        var toldOpen = deliveries.toldOpen(connection, ids);
        deliveries.want(people.stream()
                .map(person -> new Deliveries.Wanted(
                        person.id(),
                        wishes.ofSystem(
                                connection,
                                standing.getOrDefault(person.id(), List.of()).stream()
                                        .map(Standing::told)
                                        .toList(),
                                toldOpen.getOrDefault(person.id(), List.of())),
                        null))
                .toList());
        deliveries.resume(connection, ids);
    }

    private void keepWindows(Collection<Long> ids, List<Turned> turned) {
        var known = openings.findByPersonIdInOrderByTargetAscOpensAtAsc(ids).stream()
                .collect(Collectors.groupingBy(it -> it.personId));
        var outdated = new ArrayList<Long>();
        var windows = new ArrayList<Opening>();
        for (Turned it : turned) {
            long id = it.person().id();
            var now = it.turn().access().stream()
                    .map(one -> new Opening(
                            id,
                            one.target().path(),
                            asKept(one.window().start()),
                            one.window().end().map(Recompute::asKept).orElse(null),
                            one.renews()))
                    .toList();
            var before = known.getOrDefault(id, List.of());
            if (!areSame(before, now)) {
                outdated.add(id);
                windows.addAll(now);
            }
        }
        if (!outdated.isEmpty()) {
            openings.deleteOf(outdated);
            openings.saveAll(windows);
        }
    }

    private static boolean areSame(List<Opening> before, List<Opening> now) {
        boolean same = before.size() == now.size();
        for (int i = 0; same && i < before.size(); i++) {
            same = before.get(i).isSameAs(now.get(i));
        }
        return same;
    }

    private void keepStandings(Person person, Turn turn, List<Standing> before, InForce current) {
        Map<Target, Standing> known = new LinkedHashMap<>();
        before.forEach(standing -> known.put(standing.target(), standing));
        turn.moves().ended().forEach(it -> standings.delete(Objects.requireNonNull(known.remove(it.target()))));
        turn.moves()
                .changed()
                .forEach(it -> Objects.requireNonNull(known.get(it.target())).lasts(it.howLong()));
        known.values().forEach(standing -> standing.rulebook = current.number());
        turn.moves()
                .opened()
                .forEach(it -> standings.save(new Standing(person.id(), it.target(), it.howLong(), current.number())));
    }

    private static Stream<Journal.Line> lines(Turned turned, Rulebook rulebook) {
        var moves = turned.turn().moves();
        return Stream.concat(
                moves.opened().stream()
                        .filter(Moves.Opened::isNews)
                        .map(it -> line(Kind.OPENED, "Access opened", rulebook.title(it.target()), turned)),
                moves.ended().stream()
                        .filter(Moves.Ended::isNews)
                        .map(it -> line(Kind.ENDED, "Access ended", rulebook.title(it.target()), turned)));
    }

    private static Journal.Line line(Kind kind, String title, String target, Turned turned) {
        var person = turned.person();
        return new Journal.Line(kind, title, person.name() + " · " + target, null, person.id(), turned.cause());
    }

    /** The database keeps microseconds; what is compared with it later must be cut off the same way. */
    private static Instant asKept(Instant instant) {
        return instant.truncatedTo(ChronoUnit.MICROS);
    }
}
