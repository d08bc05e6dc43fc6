package yoru.core.impact;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.access.Window;
import yoru.core.access.Windows;
import yoru.core.impact.Change.Kind;
import yoru.core.ledger.ByCodePoint;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.Mention;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.ledger.Subscription;
import yoru.core.rulebook.Rulebook;

/** Compares two rulebooks over the same ledger. */
public final class Impact {

    private final Engine before;
    private final Engine after;
    private final Concern concern;

    public Impact(Rulebook before, Rulebook after) {
        this.before = new Engine(before);
        this.after = new Engine(after);
        this.concern = Concern.of(before, after);
    }

    /** Whom the difference can concern; nobody else need be looked at. */
    public Concern concern() {
        return concern;
    }

    /** What changes for whom, by person and target, in code point order. */
    public List<Change> over(Ledger ledger, Instant asOf) {
        var changes = new ArrayList<Change>();
        for (History history : Histories.of(ledger.asOf(asOf)).all()) {
            changes.addAll(over(history, asOf));
        }
        return changes;
    }

    /** What changes for one person, by target. */
    public List<Change> over(History history, Instant asOf) {
        if (!concerns(history)) {
            return List.of();
        }
        var was = byTarget(before.access(history, asOf));
        var is = byTarget(after.access(history, asOf));
        var targets = new TreeSet<String>(ByCodePoint.ORDER);
        targets.addAll(was.keySet());
        targets.addAll(is.keySet());
        var changes = new ArrayList<Change>();
        for (String target : targets) {
            compare(was.getOrDefault(target, List.of()), is.getOrDefault(target, List.of()), asOf)
                    .ifPresent(changes::add);
        }
        return changes;
    }

    private boolean concerns(History history) {
        return concern.everybody()
                || (!concern.isNothing()
                        && (history.orders().stream().anyMatch(this::concerns)
                                || history.claimed().stream().anyMatch(this::concerns)
                                || history.subscriptions().stream()
                                        .map(Subscription::started)
                                        .anyMatch(this::concerns)
                                || history.levels().stream().anyMatch(this::concerns)
                                || history.tags().stream().anyMatch(this::concerns)
                                || history.completed().stream().anyMatch(this::concerns)
                                || history.choices().stream().anyMatch(this::concerns)
                                || (!history.grants().isEmpty()
                                        && concern.mentions().contains(new Mention.OfGrant()))));
    }

    private boolean concerns(Order order) {
        return order.details().lines().stream()
                .map(OrderLine::product)
                .anyMatch(product -> concern.mentions().contains(new Mention.OfProduct(product)));
    }

    private boolean concerns(Fact fact) {
        return Mention.in(fact.happening()).stream().anyMatch(concern.mentions()::contains);
    }

    private static Map<String, List<Access>> byTarget(List<Access> access) {
        Map<String, List<Access>> byTarget = new TreeMap<>(ByCodePoint.ORDER);
        for (Access one : access) {
            byTarget.computeIfAbsent(one.target().path(), target -> new ArrayList<>(1))
                    .add(one);
        }
        return byTarget;
    }

    private static Optional<Change> compare(List<Access> was, List<Access> is, Instant asOf) {
        var old = remaining(was, asOf);
        var now = remaining(is, asOf);
        if (old.equals(now)) {
            return Optional.empty();
        }
        var any = was.isEmpty() ? is.getFirst() : was.getFirst();
        return Optional.of(new Change(
                any.person(),
                any.target(),
                kind(old.asList(), now.asList()),
                old.contains(asOf) != now.contains(asOf),
                notOver(was, asOf),
                notOver(is, asOf)));
    }

    private static Windows remaining(List<Access> access, Instant asOf) {
        return Windows.of(access.stream().map(Access::window).toList()).from(asOf);
    }

    private static List<Access> notOver(List<Access> access, Instant asOf) {
        return access.stream().filter(one -> !one.window().isOverAt(asOf)).toList();
    }

    private static Kind kind(List<Window> old, List<Window> now) {
        if (old.isEmpty()) {
            return Kind.GAINS;
        }
        if (now.isEmpty()) {
            return Kind.LOSES;
        }
        var oldEnd = old.getLast().end().orElse(Instant.MAX);
        var newEnd = now.getLast().end().orElse(Instant.MAX);
        int order = newEnd.compareTo(oldEnd);
        return order == 0 ? Kind.OTHERWISE : order > 0 ? Kind.LONGER : Kind.SHORTER;
    }
}
