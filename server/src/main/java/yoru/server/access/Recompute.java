package yoru.server.access;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.access.Access;
import yoru.core.access.HowLong;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Histories;
import yoru.core.moves.Moves;
import yoru.core.moves.Told;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Target;
import yoru.server.announcements.Announcements;
import yoru.server.deliveries.Deliveries;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.LedgerService;
import yoru.server.ledger.Person;
import yoru.server.mapping.Rulebooks;
import yoru.server.mapping.Rulebooks.InForce;
import yoru.server.platform.Queue;

/** Looks a person over: asks the engine, and has the systems told what has changed. */
@Service
public class Recompute {

    static final TaskDescriptor<Void> WAKE = TaskDescriptor.of("wake-person");

    private final LedgerService ledger;
    private final Rulebooks rulebooks;
    private final Deliveries deliveries;
    private final Announcements announcements;
    private final OpeningTable openings;
    private final StandingTable standings;
    private final Journal journal;
    private final Queue queue;
    private final Clock clock;

    Recompute(
            LedgerService ledger,
            Rulebooks rulebooks,
            Deliveries deliveries,
            Announcements announcements,
            OpeningTable openings,
            StandingTable standings,
            Journal journal,
            Queue queue,
            Clock clock) {
        this.ledger = ledger;
        this.rulebooks = rulebooks;
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
        var person = ledger.lock(id).orElseThrow();
        var current = rulebooks.current();
        var facts = ledger.concerning(person.key());
        var now = clock.instant();
        var history = Histories.of(facts.asOf(now)).person(person.key());
        var access = current.engine().access(history, now);
        keepWindows(person, access);
        tell(person, access, current, cause);
        wake(person, access, facts.facts(), now);
    }

    /**
     * Has a system that was off told what it missed about a person: what should be so there, what no longer should, and
     * what was on its way when it was switched off. What it was told already is not said again.
     */
    @Transactional
    public void tellAll(String connection, long id) {
        var _ = ledger.lock(id).orElseThrow();
        var open = standings.findByPersonId(id);
        var targets = open.stream().map(Standing::target).collect(Collectors.toSet());
        for (Target told : deliveries.toldOpen(connection, id)) {
            if (!targets.contains(told)) {
                deliveries.want(connection, new Deliveries.Wanted(id, told, false, HowLong.ALWAYS, null));
            }
        }
        open.forEach(standing -> deliveries.want(
                connection, new Deliveries.Wanted(id, standing.target(), true, standing.howLong(), null)));
        deliveries.wantNextEnd(connection, id, nextEnd(open.stream().map(Standing::howLong)));
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

    private void tell(Person person, List<Access> access, InForce current, @Nullable Long cause) {
        var rulebook = current.rulebook();
        Map<Target, Standing> before = new LinkedHashMap<>();
        standings.findByPersonId(person.id()).forEach(standing -> before.put(standing.target(), standing));
        var moves = Moves.of(
                before.values().stream().map(Standing::told).toList(),
                access,
                Recompute::asKept,
                section -> before.values().stream()
                        .map(standing -> standing.rulebook)
                        .distinct()
                        .allMatch(number -> number == current.number() || rulebooks.knew(number, section)),
                section -> current.engine().index().knows(new Destination.Exactly(section)));
        for (Moves.Opened it : moves.opened()) {
            var howLong = lastingAsKept(it.howLong());
            standings.save(new Standing(person.id(), it.target(), howLong, current.number()));
            want(person, it.target(), true, howLong, cause);
            if (it.isNews()) {
                journal(Kind.OPENED, "Access opened", rulebook.title(it.target()), person, cause);
            }
        }
        for (Told it : moves.changed()) {
            Objects.requireNonNull(before.get(it.target())).lasts(it.howLong());
            want(person, it.target(), true, it.howLong(), cause);
        }
        for (Moves.Ended it : moves.ended()) {
            standings.delete(Objects.requireNonNull(before.remove(it.target())));
            want(person, it.target(), false, HowLong.ALWAYS, cause);
            if (it.isNews()) {
                journal(Kind.ENDED, "Access ended", rulebook.title(it.target()), person, cause);
            }
        }
        before.values().forEach(standing -> {
            standing.rulebook = current.number();
            if (standing.target() instanceof Target.OfTag) {
                // somebody may have taken it off in a system
                want(person, standing.target(), true, standing.howLong(), cause);
            }
        });
        deliveries.wantNextEnd(
                person.id(),
                nextEnd(access.stream().filter(one -> one.state().isOpen()).map(HowLong::of)),
                cause);
        announcements.announce(person, moves, cause);
    }

    private void want(Person person, Target target, boolean open, HowLong howLong, @Nullable Long cause) {
        deliveries.want(new Deliveries.Wanted(person.id(), target, open, howLong, cause));
    }

    /** The day, as the school counts days, on which the first of these ends that a payment will not move on. */
    private Optional<LocalDate> nextEnd(Stream<HowLong> lasting) {
        return lasting.flatMap(it -> it.realEnd().stream())
                .min(Instant::compareTo)
                .map(end -> LocalDate.ofInstant(
                        end, rulebooks.current().rulebook().school().zone()));
    }

    /** At the next moment when something begins or ends, or when a fact with a time to come begins to count. */
    private void wake(Person person, List<Access> access, List<Fact> facts, Instant now) {
        var boundaries = access.stream()
                .flatMap(one -> Stream.concat(Stream.of(one.window().start()), one.window().end().stream()));
        Stream.concat(boundaries, facts.stream().map(Fact::time))
                .filter(time -> time.isAfter(now))
                .min(Instant::compareTo)
                .ifPresent(time ->
                        queue.at(WAKE, person.id() + "@" + time, asKept(time).plus(1, ChronoUnit.MICROS)));
    }

    /** The database keeps microseconds; what is compared with it later must be cut off the same way. */
    private static Instant asKept(Instant instant) {
        return instant.truncatedTo(ChronoUnit.MICROS);
    }

    private static HowLong lastingAsKept(HowLong howLong) {
        var end = howLong.endOrNone();
        return HowLong.until(end == null ? null : asKept(end), howLong.renews());
    }

    private void journal(Kind kind, String title, String target, Person person, @Nullable Long cause) {
        journal.write(new Journal.Line(kind, title, person.name() + " · " + target, null, person.id(), cause));
    }
}
