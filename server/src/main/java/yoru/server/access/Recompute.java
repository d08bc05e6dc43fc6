package yoru.server.access;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.access.Access;
import yoru.core.ledger.Histories;
import yoru.core.moves.Moves;
import yoru.core.moves.Turn;
import yoru.core.moves.Turns;
import yoru.core.moves.Wishes;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
import yoru.server.announcements.Announcements;
import yoru.server.deliveries.Deliveries;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.mapping.Rulebooks;
import yoru.server.mapping.Rulebooks.InForce;
import yoru.server.platform.Queue;
import yoru.server.systems.Landscapes;

/** Looks a person over: asks the engine, and has the systems told what has changed. */
@Service
public class Recompute {

    static final TaskDescriptor<Void> WAKE = TaskDescriptor.of("wake-person");

    private final LedgerReader ledger;
    private final Register register;
    private final Rulebooks rulebooks;
    private final Landscapes landscapes;
    private final Deliveries deliveries;
    private final Announcements announcements;
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
        this.openings = openings;
        this.standings = standings;
        this.journal = journal;
        this.queue = queue;
        this.clock = clock;
    }

    /**
     * One person, from all their facts. The row of the person is locked, so that two servers never do it at once, and
     * the facts are read after that.
     *
     * @param cause the fact that made it necessary, none = the hour or another rulebook
     */
    @Transactional
    public void person(long id, @Nullable Long cause) {
        var person = register.lock(id).orElseThrow();
        var current = rulebooks.current();
        var facts = ledger.concerning(person.key());
        var now = clock.instant();
        var before = standings.findByPersonId(id);
        var turn = new Turns(current.engine(), landscapes.current(), Recompute::asKept)
                .of(
                        Histories.of(facts.asOf(now)).person(person.key()),
                        facts,
                        before.stream().map(Standing::told).toList(),
                        section -> wasKnown(section, before, current),
                        now);
        keepWindows(person, turn.access());
        keepStandings(person, turn, before, current);
        note(person, turn.moves(), current.rulebook(), cause);
        deliveries.want(id, turn.wishes(), cause);
        announcements.announce(person, turn, cause);
        turn.next()
                .ifPresent(time -> queue.at(WAKE, id + "@" + time, asKept(time).plus(1, ChronoUnit.MICROS)));
    }

    /** Whether all rulebooks by which something was told knew a section. */
    private boolean wasKnown(Target.OfSection section, List<Standing> before, InForce current) {
        return before.stream()
                .map(standing -> standing.rulebook)
                .distinct()
                .allMatch(number -> number == current.number() || rulebooks.knew(number, section));
    }

    /**
     * Has a system that was off told what it missed about a person: what should be so there, what no longer should, and
     * what was on its way when it was switched off. What it was told already is not said again.
     */
    @Transactional
    public void tellAll(String connection, long id) {
        var _ = register.lock(id).orElseThrow();
        var open = standings.findByPersonId(id).stream().map(Standing::told).toList();
        var zone = rulebooks.current().rulebook().school().zone();
        deliveries.want(
                id,
                new Wishes(landscapes.current(), zone).ofSystem(connection, open, deliveries.toldOpen(connection, id)),
                null);
        deliveries.resume(connection, id);
    }

    private void keepWindows(Person person, List<Access> access) {
        var known = openings.findByPersonIdOrderByTargetAscOpensAtAsc(person.id());
        var windows = access.stream()
                .map(one -> new Opening(
                        person.id(),
                        one.target().path(),
                        asKept(one.window().start()),
                        one.window().end().map(Recompute::asKept).orElse(null),
                        one.renews()))
                .toList();
        boolean same = known.size() == windows.size();
        for (int i = 0; same && i < known.size(); i++) {
            same = known.get(i).isSameAs(windows.get(i));
        }
        if (!same) {
            openings.deleteOf(person.id());
            openings.saveAll(windows);
        }
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

    private void note(Person person, Moves moves, Rulebook rulebook, @Nullable Long cause) {
        moves.opened().stream()
                .filter(Moves.Opened::isNews)
                .forEach(it -> journal(Kind.OPENED, "Access opened", rulebook.title(it.target()), person, cause));
        moves.ended().stream()
                .filter(Moves.Ended::isNews)
                .forEach(it -> journal(Kind.ENDED, "Access ended", rulebook.title(it.target()), person, cause));
    }

    /** The database keeps microseconds; what is compared with it later must be cut off the same way. */
    private static Instant asKept(Instant instant) {
        return instant.truncatedTo(ChronoUnit.MICROS);
    }

    private void journal(Kind kind, String title, String target, Person person, @Nullable Long cause) {
        journal.write(new Journal.Line(kind, title, person.name() + " · " + target, null, person.id(), cause));
    }
}
