package yoru.core.access;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Holding.Held;
import yoru.core.ledger.ByCodePoint;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Grant;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Happening.CourseCompleted;
import yoru.core.ledger.History;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.ledger.Subscription;
import yoru.core.rulebook.Dependencies.Node;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;
import yoru.core.rulebook.Terms.OnRefund;
import yoru.core.time.SchoolCalendar;

/** Computes what one person is entitled to: from holdings over links to levels and tags, and on from those. */
final class PersonAccess {

    private final RulebookIndex index;
    private final SchoolCalendar calendar;
    private final Links links;
    private final History history;
    private final Function<Order, Purchase> purchases;
    private final LevelsAndTags held;
    private final List<Entitlement> entitlements = new ArrayList<>();
    private final Map<Level, List<Held>> levels = new LinkedHashMap<>();
    private final Allowances allowances;
    private @Nullable PaidFor paidFor;

    /** @param purchases looks at an order; the same order may be asked for by several people */
    PersonAccess(
            RulebookIndex index,
            SchoolCalendar calendar,
            Links links,
            History history,
            Function<Order, Purchase> purchases) {
        this.index = index;
        this.calendar = calendar;
        this.links = links;
        this.history = history;
        this.purchases = purchases;
        this.held = new LevelsAndTags(index, history.person());
        held.outsideLevels(history.levels());
        held.outsideTags(history.tags());
        held.all().forEach(this::fromOutside);
        history.grants().forEach(this::give);
        bought();
        finished();
        if (!held.isEmpty()) {
            index.order().forEach(this::passOn);
        }
        this.allowances = new Allowances(index, levels, history.choices());
        entitlements.addAll(allowances.entitlements(history.person()));
        if (!history.lists().isEmpty()) {
            leave();
        }
    }

    /** Whoever left a list is not put back, whatever gives it, until they ask for it. */
    private void leave() {
        var left = LeftLists.of(history.lists());
        entitlements.replaceAll(
                it -> left.of(it.target()).map(windows -> it.without(windows)).orElse(it));
        entitlements.removeIf(it -> it.stretch().isNothing());
    }

    /** All of them, each once, also those that are suspended throughout. */
    List<Entitlement> entitlements() {
        return entitlements;
    }

    Allowances allowances() {
        return allowances;
    }

    private void fromOutside(Held one) {
        if (!one.span().isEmpty()) {
            entitlements.add(new Entitlement(
                    history.person(),
                    one.what(),
                    Stretch.whole(one.span()),
                    new Reason.FromOutside(one.startedBy()),
                    one.ending()));
        }
    }

    private void give(Grant grant) {
        var given = grant.given();
        var elapsed = grant.details()
                .length()
                .map(length -> new Ending(calendar.plus(given.time(), length), new Ending.Cause.Elapsed(length)))
                .orElse(null);
        var until = grant.details()
                .until()
                .map(at -> new Ending(at, new Ending.Cause.GivenUntil()))
                .orElse(null);
        var ended = grant.ended()
                .map(by -> new Ending(by.time(), new Ending.Cause.EndedBy(by)))
                .orElse(null);
        var ending = Ending.earlier(ended, Ending.earlier(elapsed, until));
        var targets = new LinkedHashSet<Target>();
        for (Destination destination : grant.details().to()) {
            targets.addAll(index.targets(destination));
        }
        var follows = grant.details().follows().orElse(null);
        if (follows == null) {
            give(grant, targets, Stretch.whole(span(given.time(), ending)), ending);
            return;
        }
        for (Holding holding : followed(follows)) {
            var its = Ending.earlier(ending, holding.end(Terms.DEFAULT));
            var span = span(Window.later(given.time(), holding.start()), its);
            give(grant, targets, Stretch.of(span, holding.suspended(), holding.takenOut(), holding.grace()), its);
        }
    }

    private static Window span(Instant start, @Nullable Ending ending) {
        return new Window(start, ending == null ? null : ending.at());
    }

    private void give(Grant grant, Set<Target> targets, Stretch stretch, @Nullable Ending ending) {
        if (stretch.span().isEmpty()) {
            return;
        }
        var reason = new Reason.ByHand(grant);
        keep(targets.stream()
                .map(target -> new Entitlement(history.person(), target, stretch, reason, ending))
                .toList());
    }

    /** What a grant that follows something paid for lasts as long as; nothing where the person has no such thing. */
    private List<? extends Holding> followed(Happening.Followed follows) {
        return switch (follows) {
            case Happening.Followed.OfSubscription it ->
                Optional.ofNullable(paidFor().subscriptions.get(it.subscription())).stream()
                        .flatMap(subscription -> index
                                .product(subscription.details().product())
                                .stream()
                                .flatMap(
                                        product -> SubscriptionRuns.of(subscription, product, calendar, true).stream()))
                        .toList();
            case Happening.Followed.OfLine it ->
                Optional.ofNullable(paidFor().orders.get(it.order())).stream()
                        .flatMap(order -> purchases.apply(order).ofBuyer().stream())
                        .filter(holding -> holding.line().line().equals(it.line()))
                        .toList();
        };
    }

    /** What the person pays for, by id. */
    private record PaidFor(Map<String, Subscription> subscriptions, Map<String, Order> orders) {}

    private PaidFor paidFor() {
        if (paidFor == null) {
            paidFor = new PaidFor(new HashMap<>(), new HashMap<>());
            for (Subscription one : history.subscriptions()) {
                paidFor.subscriptions.put(one.id(), one);
            }
            for (Order one : history.orders()) {
                paidFor.orders.put(one.id(), one);
            }
        }
        return paidFor;
    }

    private void bought() {
        var served = new Served();
        for (Order order : history.orders()) {
            if (opens(order)) {
                purchases.apply(order).ofBuyer().forEach(holding -> serve(holding, served));
            }
        }
        for (Order order : history.claimed()) {
            if (opens(order)) {
                purchases.apply(order).ofClaimant(history.person()).forEach(holding -> serve(holding, served));
            }
        }
        for (Subscription subscription : history.subscriptions()) {
            index.product(subscription.details().product()).ifPresent(product -> serve(subscription, product, served));
        }
        served.links.forEach(link -> run(link, served.by(link)));
    }

    /** Whether a link starts from anything that was bought in it. */
    private boolean opens(Order order) {
        for (OrderLine line : order.details().lines()) {
            if (index.serves(line.product())) {
                return true;
            }
        }
        return false;
    }

    private void serve(Holding.Bought holding, Served served) {
        for (Link link : index.serving(holding.product(), holding.line().option())) {
            served.by(link).add(holding);
        }
    }

    private void serve(Subscription subscription, Product product, Served served) {
        Map<OnRefund, List<Holding.Subscribed>> runs = new HashMap<>();
        for (Link link : index.serving(product, subscription.details().option())) {
            served.by(link)
                    .addAll(runs.computeIfAbsent(
                            link.terms().refund(),
                            refund -> SubscriptionRuns.of(subscription, product, calendar, refund == OnRefund.END)));
        }
    }

    /** What each link has to serve, links in the order in which they were come upon. */
    private static final class Served {

        private final List<Link> links = new ArrayList<>();
        private final Map<String, List<Holding>> byLink = new HashMap<>();

        List<Holding> by(Link link) {
            return byLink.computeIfAbsent(link.id(), id -> {
                links.add(link);
                return new ArrayList<>(1);
            });
        }
    }

    private void finished() {
        Set<String> seen = new HashSet<>();
        for (Fact fact : history.completed()) {
            if (fact.happening() instanceof CourseCompleted it && seen.add(it.course())) {
                var holding = new Holding.Finished(it.course(), history.person(), fact);
                index.from(new Source.OfCompleted(it.course())).forEach(link -> run(link, List.of(holding)));
            }
        }
    }

    /** Runs the links from a tag or from the levels of a ladder, of which by now everything is known. */
    private void passOn(Node node) {
        switch (node) {
            case Node.Tag it -> runAll(new Source.OfTag(it.tag()), held.of(new Target.OfTag(it.tag())));
            case Node.Alone it -> {
                var holdings = held.of(new Target.OfLevel(it.level()));
                index.level(it.level()).ifPresent(level -> levels.put(level, holdings));
                runAll(new Source.OfLevel(it.level()), holdings);
            }
            case Node.OnLadder it -> passOnLadder(it.ladder());
        }
    }

    private void passOnLadder(String ladder) {
        var seen = held.onLadder(ladder);
        if (seen.values().stream().allMatch(List::isEmpty)) {
            return;
        }
        levels.putAll(seen);
        Map<Level, List<Held>> serving = new LinkedHashMap<>();
        seen.forEach((level, holdings) -> {
            for (Level served : index.includedIn(level)) {
                serving.computeIfAbsent(served, it -> new ArrayList<>()).addAll(holdings);
            }
        });
        serving.forEach((level, holdings) -> runAll(new Source.OfLevel(level.id()), holdings));
    }

    private void runAll(Source source, List<Held> holdings) {
        if (!holdings.isEmpty()) {
            index.from(source).forEach(link -> run(link, holdings));
        }
    }

    private void run(Link link, List<? extends Holding> holdings) {
        var given = new ArrayList<Entitlement>();
        links.through(link, holdings, given);
        keep(given);
    }

    /** An entitlement to a level or a tag is also a holding of it, with all its holes. */
    private void keep(List<Entitlement> given) {
        entitlements.addAll(given);
        for (Entitlement one : given) {
            if (one.target() instanceof Target.OfLevel || one.target() instanceof Target.OfTag) {
                var stretch = one.stretch();
                held.add(new Held(
                        one.target(),
                        history.person(),
                        stretch.span().start(),
                        one.reason().startedBy(),
                        one.ending(),
                        stretch.suspended(),
                        stretch.takenOut(),
                        stretch.grace(),
                        one));
            }
        }
    }

    /** The maximal windows by target, as they stand at {@code asOf}. */
    List<Access> access(Instant asOf) {
        Map<Target, List<Entitlement>> byTarget = new HashMap<>();
        for (Entitlement entitlement : entitlements) {
            byTarget.computeIfAbsent(entitlement.target(), target -> new ArrayList<>(1))
                    .add(entitlement);
        }
        record Row(String path, List<Entitlement> entitlements) {}
        var access = new ArrayList<Access>();
        byTarget.entrySet().stream()
                .map(entry -> new Row(entry.getKey().path(), entry.getValue()))
                .sorted((a, b) -> ByCodePoint.ORDER.compare(a.path, b.path))
                .forEach(row -> access.addAll(Maximal.of(row.entitlements, asOf)));
        return access;
    }
}
