package yoru.core.impact;

import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Access;
import yoru.core.access.Ending;
import yoru.core.access.Engine;
import yoru.core.access.WhyClosed;
import yoru.core.access.WhyClosed.Obstacle;
import yoru.core.ledger.History;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;

/** Answers of whoever bought what another rulebook lets open more, why they gain nothing by it. */
public final class NoGain {

    /** What is in the way; the first of them that is the case for anything of it is said. */
    public enum Why {
        /** The order has not come as far as the product wants. */
        NOT_YET,
        /** A payment is missing, or it is no longer paid for. */
        UNPAID,
        /** It was ordered as a gift, or in seats of which none is the buyer's. */
        FOR_SOMEBODY_ELSE,
        /** It was paid back or cancelled. */
        TAKEN_BACK,
        /** The time that it opens for is over. */
        OVER,
        /** It was bought at a time for which the link does not apply. */
        NOT_COUNTED,
        /** They have it anyway, for at least as long. */
        HAS_IT
    }

    private record Cell(Source source, Destination destination) {

        String place() {
            return source.path() + " > " + destination.place();
        }
    }

    private final RulebookIndex index;
    private final WhyClosed whyClosed;
    private final List<Cell> opened;

    NoGain(Rulebook before, Engine after) {
        this.index = after.index();
        this.whyClosed = new WhyClosed(after);
        var known = cells(before).map(Cell::place).collect(Collectors.toSet());
        this.opened = cells(index.rulebook())
                .filter(cell -> !known.contains(cell.place()))
                .toList();
    }

    private static Stream<Cell> cells(Rulebook rulebook) {
        return rulebook.links().stream()
                .flatMap(link -> link.to().stream().map(destination -> new Cell(link.from(), destination)));
    }

    /**
     * Why one person gains nothing.
     *
     * @param history no fact later than {@code asOf}
     * @param was what they have by the rulebook in force
     * @param changes what changes for them
     * @return empty where they bought nothing of it, or gain
     */
    Optional<Why> of(History history, List<Access> was, Collection<Change> changes, Instant asOf) {
        if (opened.isEmpty()) {
            return Optional.empty();
        }
        var bought = bought(history);
        Set<Target> targets = new HashSet<>();
        opened.stream()
                .filter(cell -> bought.contains(cell.source))
                .forEach(cell -> targets.addAll(index.targets(cell.destination)));
        boolean gains = changes.stream()
                .filter(change -> targets.contains(change.target()))
                .anyMatch(change -> switch (change.kind()) {
                    case GAINS, LONGER, OTHERWISE -> true;
                    case LOSES, SHORTER -> false;
                });
        return gains
                ? Optional.empty()
                : targets.stream()
                        .map(target -> why(history, was, target, asOf))
                        .min(Comparator.naturalOrder());
    }

    /** All that the person bought, or took up of what somebody else bought. */
    private Set<Source> bought(History history) {
        Set<Source> bought = new HashSet<>();
        history.orders()
                .forEach(order -> order.details()
                        .lines()
                        .forEach(line -> bought.addAll(sources(line.product(), line.chosenOption()))));
        history.claimed()
                .forEach(order -> order.claims().forEach((seat, claim) -> {
                    if (claim.person().equals(history.person())) {
                        order.line(seat.line())
                                .ifPresent(line -> bought.addAll(sources(line.product(), line.chosenOption())));
                    }
                }));
        history.subscriptions()
                .forEach(it -> bought.addAll(
                        sources(it.details().product(), it.details().chosenOption())));
        return bought;
    }

    private List<Source> sources(String id, @Nullable String option) {
        Optional<Product> product = index.product(id);
        return product.stream()
                .flatMap(it -> RulebookIndex.sourcesOf(it, Optional.ofNullable(option)))
                .toList();
    }

    private Why why(History history, List<Access> was, Target target, Instant asOf) {
        boolean hasIt = was.stream()
                .anyMatch(one -> one.target().equals(target) && !one.window().isOverAt(asOf));
        if (hasIt) {
            return Why.HAS_IT;
        }
        return whyClosed.of(history, target, asOf).stream()
                .map(NoGain::why)
                .min(Comparator.naturalOrder())
                .orElse(Why.HAS_IT);
    }

    private static Why why(Obstacle obstacle) {
        return switch (obstacle) {
            case Obstacle.Suspended _ -> Why.UNPAID;
            case Obstacle.NotBegun _, Obstacle.NotOpened _ -> Why.NOT_YET;
            case Obstacle.NeverBegan _ -> Why.TAKEN_BACK;
            case Obstacle.ForSomebodyElse _ -> Why.FOR_SOMEBODY_ELSE;
            case Obstacle.NoPlace _, Obstacle.Nothing _ -> Why.NOT_COUNTED;
            case Obstacle.Ended it -> why(it.entitlement().ending());
        };
    }

    private static Why why(@Nullable Ending ending) {
        if (ending == null) {
            return Why.OVER;
        }
        return switch (ending.cause()) {
            case Ending.Cause.Refunded _, Ending.Cause.Cancelled _ -> Why.TAKEN_BACK;
            case Ending.Cause.Unpaid _ -> Why.UNPAID;
            case Ending.Cause.Elapsed _,
                    Ending.Cause.Capped _,
                    Ending.Cause.GivenUntil _,
                    Ending.Cause.TakenBack _,
                    Ending.Cause.LastCycle _,
                    Ending.Cause.EndedBy _,
                    Ending.Cause.PlaceLost _,
                    Ending.Cause.WithLevel _ -> Why.OVER;
        };
    }
}
