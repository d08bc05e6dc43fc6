package yoru.core.followup;

import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Followup.Condition;
import yoru.core.rulebook.Followup.Step;
import yoru.core.rulebook.Followup.When;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;

/**
 * Of which targets it must be known at every instant whether they are open: those whose opening, end or coming end a
 * follow-up waits for, and those of which it asks whether they were ever open. Of all others it is asked where it matters.
 */
final class Watched {

    /** A follow-up that waits for something to be about to end. */
    record Waits(Followup followup, When.Ending when) {}

    private final Rulebook rulebook;
    private final Map<Occasion.Kind, List<Followup>> waiting;
    private final Set<Target> targets;
    private final Engine engine;
    private final Map<String, Set<Target>> awaited;
    private final List<Waits> endings;

    private Watched(Rulebook rulebook, Set<Target> targets, Engine engine, Map<String, Set<Target>> awaited) {
        this.rulebook = rulebook;
        this.waiting = rulebook.followups().stream().collect(Collectors.groupingBy(it -> Occasion.Kind.of(it.when())));
        this.targets = targets;
        this.engine = engine;
        this.awaited = awaited;
        this.endings = rulebook.followups().stream()
                .filter(followup -> followup.when() instanceof When.Ending)
                .map(followup -> new Waits(followup, (When.Ending) followup.when()))
                .toList();
    }

    static Watched of(Engine engine) {
        var rulebook = engine.index().rulebook();
        Set<Target> targets = new HashSet<>();
        Map<String, Set<Target>> awaited = new HashMap<>();
        for (Followup followup : rulebook.followups()) {
            awaited.put(followup.id(), awaited(followup.when(), rulebook));
            of(followup, rulebook).forEach(targets::add);
        }
        return new Watched(rulebook, targets, targets.isEmpty() ? engine : engine.concerning(targets), awaited);
    }

    /** The same, with what follow-ups watched as they were served. */
    Watched with(Stream<Followup> served, Engine whole) {
        var more = new HashSet<>(targets);
        return served.flatMap(followup -> of(followup, rulebook))
                                .filter(more::add)
                                .count()
                        == 0
                ? this
                : new Watched(rulebook, more, whole, awaited);
    }

    /** The follow-ups that wait for something of a kind, in the rulebook's order. */
    List<Followup> waitingFor(Occasion.Kind kind) {
        return waiting.getOrDefault(kind, List.of());
    }

    /** The follow-ups that wait for something to be about to end. */
    List<Waits> endings() {
        return endings;
    }

    /** When a window begins, ends, or is about to end for a follow-up that waits for it. */
    void turns(Access window, Consumer<Instant> turn) {
        turn.accept(window.window().start());
        var end = window.window().endOrNone();
        if (end != null) {
            turn.accept(end);
            for (Waits it : endings) {
                if (awaited(it.followup).contains(window.target())) {
                    reachedAt(window, it.when).ifPresent(turn);
                }
            }
        }
    }

    /** From when on it is about to end; never where no end is known, or a payment would move it. */
    Optional<Instant> reachedAt(Access window, When.Ending when) {
        return window.renews()
                ? Optional.empty()
                : window.window().end().map(end -> engine.calendar().minus(end, when.before()));
    }

    /**
     * Whether a fact can change how these targets stand.
     *
     * @param known with the fact, and none that is given as long as something is paid for
     */
    boolean matters(Fact fact, Histories known) {
        return switch (fact.happening()) {
            case Happening.OfOrder it ->
                known.order(it.order())
                        .filter(order -> order.details().lines().stream()
                                .map(OrderLine::product)
                                .anyMatch(engine.index()::serves))
                        .isPresent();
            case Happening.OfSubscription it ->
                known.subscription(it.subscription())
                        .filter(one -> engine.index().serves(one.details().product()))
                        .isPresent();
            case Happening.CourseCompleted it ->
                !engine.index().from(new Source.OfCompleted(it.course())).isEmpty();
            case Happening.OfTag it ->
                targets.contains(new Target.OfTag(it.tag()))
                        || !engine.index().from(new Source.OfTag(it.tag())).isEmpty();
            case Happening.OfGrant _,
                    Happening.OfLevel _,
                    Happening.OfList _,
                    Happening.CourseChosen _,
                    Happening.CourseReleased _,
                    Happening.OfPerson _ -> true;
            case Happening.AccountMade _, Happening.OfFollowup _, Happening.Unknown _ -> false;
        };
    }

    boolean isEmpty() {
        return targets.isEmpty();
    }

    boolean contains(Target target) {
        return targets.contains(target);
    }

    /** What the follow-up waits for; empty where it waits for something else to happen. */
    Set<Target> awaited(Followup followup) {
        return awaited.getOrDefault(followup.id(), Set.of());
    }

    /** How these targets stand for a person at any time, as long as nothing more is known. */
    Function<Instant, List<Access>> access(History history) {
        if (targets.isEmpty()) {
            return now -> List.of();
        }
        var access = engine.accessOver(history);
        return now -> {
            var all = access.apply(now);
            all.removeIf(one -> !targets.contains(one.target()));
            return all;
        };
    }

    private static Stream<Target> of(Followup followup, Rulebook rulebook) {
        var conditions = Stream.of(
                        followup.only().stream(),
                        followup.whilst().stream(),
                        followup.allSteps().flatMap(Watched::conditionsOf))
                .flatMap(all -> all);
        return Stream.concat(
                awaited(followup.when(), rulebook).stream(), conditions.flatMap(one -> askedOf(one, rulebook)));
    }

    private static Set<Target> awaited(When when, Rulebook rulebook) {
        return switch (when) {
            case When.Opened it -> Targets.of(it.targets(), rulebook);
            case When.Ended it -> Targets.of(it.targets(), rulebook);
            case When.Ending it -> Targets.of(it.targets(), rulebook);
            case When.OfOrder _, When.Claimed _, When.OfSubscription _, When.Completed _, When.Account _ -> Set.of();
        };
    }

    private static Stream<Condition> conditionsOf(Step step) {
        return step instanceof Step.If it ? it.of().stream() : Stream.empty();
    }

    private static Stream<Target> askedOf(Condition condition, Rulebook rulebook) {
        return switch (condition) {
            case Condition.Had it -> Targets.of(it.targets(), rulebook).stream();
            case Condition.Any it -> it.of().stream().flatMap(one -> askedOf(one, rulebook));
            case Condition.Not it -> askedOf(it.of(), rulebook);
            case Condition.Has _, Condition.Bought _, Condition.Amount _, Condition.OfChannel _, Condition.Field _ ->
                Stream.empty();
        };
    }
}
