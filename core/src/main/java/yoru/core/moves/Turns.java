package yoru.core.moves;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.access.HowLong;
import yoru.core.ledger.Fact;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Target;
import yoru.core.systems.Landscape;

/** Decides what becomes of people, by one rulebook and in one landscape. */
public final class Turns {

    private final Engine engine;
    private final Wishes wishes;
    private final UnaryOperator<Instant> asKept;

    /** @param asKept cuts an instant off as what was told is kept */
    public Turns(Engine engine, Landscape landscape, UnaryOperator<Instant> asKept) {
        this.engine = engine;
        this.wishes = new Wishes(landscape, engine.index().rulebook().school().zone());
        this.asKept = asKept;
    }

    /**
     * What becomes of one person.
     *
     * @param history as of now
     * @param toCome when facts that can concern them happen that are known and lie in the future
     * @param told what was open for them when the systems were last told
     * @param wasKnown the sections that the rulebooks knew by which it was told
     */
    public Turn of(
            History history,
            Collection<Instant> toCome,
            Collection<Told> told,
            Predicate<Target.OfSection> wasKnown,
            Instant now) {
        var access = engine.access(history, now);
        var moves = Moves.of(
                told, access, asKept, wasKnown, section -> engine.index().knows(new Destination.Exactly(section)));
        var open = open(access);
        return new Turn(access, moves, open, wishes.after(moves, open), moves.news(now), next(access, toCome, now));
    }

    private List<Told> open(List<Access> access) {
        return access.stream()
                .filter(one -> one.state().isOpen())
                .map(one -> new Told(one.target(), HowLong.of(one).kept(asKept)))
                .toList();
    }

    /** The times of those facts that still lie in the future. */
    public static List<Instant> toCome(Ledger ledger, Instant now) {
        return ledger.facts().stream()
                .map(Fact::time)
                .filter(time -> time.isAfter(now))
                .toList();
    }

    private static Optional<Instant> next(List<Access> access, Collection<Instant> toCome, Instant now) {
        var boundaries = access.stream()
                .flatMap(one -> Stream.concat(Stream.of(one.window().start()), one.window().end().stream()));
        return Stream.concat(boundaries, toCome.stream())
                .filter(time -> time.isAfter(now))
                .min(Instant::compareTo);
    }
}
