package yoru.core.access;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import yoru.core.ledger.History;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;

/** Answers why something is closed for somebody, nearest reasons first. */
public final class WhyClosed {

    /** Something that would open it, and what is in the way. */
    public sealed interface Obstacle {

        /** A payment is missing. */
        record Suspended(Entitlement entitlement, Instant since) implements Obstacle {}

        /** It will open. */
        record NotBegun(Entitlement entitlement) implements Obstacle {}

        /** It was ordered, and the order has not come as far as the product wants. */
        record NotOpened(Order order, OrderLine line, Product product) implements Obstacle {}

        /** It was ordered, and taken back before it opened. */
        record NeverBegan(Order order, OrderLine line, Product product) implements Obstacle {}

        /** It was ordered as a gift or in seats that nobody has taken up. */
        record ForSomebodyElse(Order order, OrderLine line) implements Obstacle {}

        /** It was chosen, and the allowance has no place for it. */
        record NoPlace(String course) implements Obstacle {}

        /** It was open. */
        record Ended(Entitlement entitlement) implements Obstacle {}

        /**
         * Nothing that the person has opens it.
         *
         * @param links those that would open it for who has their source
         */
        record Nothing(List<Link> links) implements Obstacle {}
    }

    private final Engine engine;
    private final RulebookIndex index;
    private final WhyUnopened unopened;

    public WhyClosed(Engine engine) {
        this.engine = engine;
        this.index = engine.index();
        this.unopened = new WhyUnopened(engine, product -> false);
    }

    /**
     * What keeps the target closed at {@code asOf}; empty where it is open.
     *
     * @param history no fact later than {@code asOf}
     */
    public List<Obstacle> of(History history, Target target, Instant asOf) {
        var person = engine.person(history);
        var entitlements = person.entitlements().stream()
                .filter(one -> one.target().equals(target))
                .toList();
        if (entitlements.stream().anyMatch(one -> one.stretch().open().contains(asOf))) {
            return List.of();
        }
        var found = new ArrayList<Obstacle>();
        entitlements.stream()
                .filter(one -> one.stretch().isSuspendedAt(asOf))
                .forEach(one -> found.add(new Obstacle.Suspended(one, suspendedSince(one, asOf))));
        entitlements.stream()
                .filter(one -> one.stretch().span().start().isAfter(asOf))
                .sorted(Comparator.comparing(one -> one.stretch().span(), Window.BY_START))
                .forEach(one -> found.add(new Obstacle.NotBegun(one)));
        var leading = linksTo(target);
        history.orders().forEach(order -> unopened(order, leading, found));
        if (target instanceof Target.OfCourse it
                && person.allowances().at(asOf).waiting().contains(it.course())) {
            found.add(new Obstacle.NoPlace(it.course()));
        }
        entitlements.stream()
                .filter(one -> one.stretch().span().isOverAt(asOf))
                .sorted(Comparator.<Entitlement, Window>comparing(
                                one -> one.stretch().span(),
                                Comparator.comparing(it -> it.end().orElse(Instant.MAX)))
                        .reversed())
                .forEach(one -> found.add(new Obstacle.Ended(one)));
        if (found.isEmpty()) {
            found.add(new Obstacle.Nothing(index.rulebook().links().stream()
                    .filter(link -> index.targets(link).contains(target))
                    .toList()));
        }
        return found;
    }

    private static Instant suspendedSince(Entitlement entitlement, Instant asOf) {
        return entitlement.stretch().suspended().asList().stream()
                .filter(window -> window.contains(asOf))
                .map(Window::start)
                .findFirst()
                .orElse(asOf);
    }

    private void unopened(Order order, Set<Link> leading, List<Obstacle> found) {
        var held = engine.purchase(order).ofBuyer();
        for (OrderLine line : order.details().lines()) {
            var product = index.product(line.product()).orElse(null);
            if (product == null
                    || index.serving(product, line.option()).stream().noneMatch(leading::contains)
                    || held.stream().anyMatch(one -> one.line().equals(line))) {
                continue;
            }
            switch (unopened.of(order, line)) {
                case WhyUnopened.Cause.ForSomebodyElse _ -> found.add(new Obstacle.ForSomebodyElse(order, line));
                case WhyUnopened.Cause.NeverBegan _ -> found.add(new Obstacle.NeverBegan(order, line, product));
                case WhyUnopened.Cause.NotOpened _ -> found.add(new Obstacle.NotOpened(order, line, product));
                case WhyUnopened.Cause.Unknown _,
                        WhyUnopened.Cause.ThingToPost _,
                        WhyUnopened.Cause.NotMapped _,
                        WhyUnopened.Cause.BySubscription _ -> {}
            }
        }
    }

    /** All links that lead to the target, also by way of tags and levels. */
    private Set<Link> linksTo(Target target) {
        Set<Link> leading = new HashSet<>();
        var toDo = new ArrayList<Link>();
        index.rulebook().links().stream()
                .filter(link -> index.targets(link).contains(target))
                .forEach(toDo::add);
        while (!toDo.isEmpty()) {
            var link = toDo.removeLast();
            if (!leading.add(link)) {
                continue;
            }
            List<? extends Target> between = switch (link.from()) {
                case Source.OfTag it -> List.of(new Target.OfTag(it.tag()));
                case Source.OfLevel it ->
                    index.rulebook().levels().stream()
                            .filter(level -> index.includedIn(level).stream()
                                    .anyMatch(other -> other.id().equals(it.level())))
                            .map(level -> new Target.OfLevel(level.id()))
                            .toList();
                case Source.OfProduct _, Source.OfOption _, Source.OfCategory _, Source.OfCompleted _ -> List.of();
            };
            for (Target one : between) {
                index.rulebook().links().stream()
                        .filter(other -> other.to().contains(new Destination.Exactly(one)))
                        .forEach(toDo::add);
            }
        }
        return leading;
    }
}
