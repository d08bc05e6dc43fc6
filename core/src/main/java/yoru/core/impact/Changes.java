package yoru.core.impact;

import java.time.Duration;
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

    /** Less than this, added up, is no change. */
    private static final Duration WORTH_SAYING = Duration.ofMinutes(1);

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
        var less = old.minus(now);
        var more = now.minus(old);
        if (!comesToAMinute(less, more)) {
            return Optional.empty();
        }
        var any = was.isEmpty() ? is.getFirst() : was.getFirst();
        boolean wasOpen = old.contains(asOf);
        boolean isOpen = now.contains(asOf);
        Kind kind;
        if (less.isEmpty()) {
            kind = old.isEmpty() ? Kind.GAINS : Kind.LONGER;
        } else if (more.isEmpty()) {
            kind = now.isEmpty() || (wasOpen && !isOpen) ? Kind.LOSES : Kind.SHORTER;
        } else if (wasOpen != isOpen) {
            kind = wasOpen ? Kind.LOSES : Kind.GAINS;
        } else {
            kind = Kind.OTHERWISE;
        }
        return Optional.of(
                new Change(any.person(), any.target(), kind, wasOpen != isOpen, notOver(was, asOf), notOver(is, asOf)));
    }

    private static boolean comesToAMinute(Windows less, Windows more) {
        var length = Duration.ZERO;
        for (var different : List.of(less, more)) {
            for (Window window : different.asList()) {
                if (window.end().isEmpty()) {
                    return true;
                }
                length = length.plus(
                        Duration.between(window.start(), window.end().get()));
            }
        }
        return length.compareTo(WORTH_SAYING) >= 0;
    }

    private static Windows remaining(List<Access> access, Instant asOf) {
        return Windows.of(access.stream().map(Access::window).toList()).from(asOf);
    }

    private static List<Access> notOver(List<Access> access, Instant asOf) {
        return access.stream().filter(one -> !one.window().isOverAt(asOf)).toList();
    }
}
