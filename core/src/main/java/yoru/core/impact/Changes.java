package yoru.core.impact;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import yoru.core.access.Access;
import yoru.core.access.Window;
import yoru.core.access.Windows;
import yoru.core.impact.Change.Kind;
import yoru.core.ledger.ByCodePoint;

/** Compares what one person has with what the same person would have. */
public final class Changes {

    private Changes() {}

    /** By target, in code point order; only what is different from {@code asOf} on. */
    public static List<Change> between(List<Access> before, List<Access> after, Instant asOf) {
        var was = byTarget(before);
        var is = byTarget(after);
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
