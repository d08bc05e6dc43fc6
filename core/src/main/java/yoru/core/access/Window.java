package yoru.core.access;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A half-open stretch of time, [start, end).
 *
 * @param endOrNone none = no end
 */
public record Window(Instant start, @Nullable Instant endOrNone) {

    static final Comparator<Window> BY_START = Comparator.comparing(Window::start);

    public Optional<Instant> end() {
        return Optional.ofNullable(endOrNone);
    }

    public boolean isEmpty() {
        return endOrNone != null && !endOrNone.isAfter(start);
    }

    public boolean contains(Instant instant) {
        return !instant.isBefore(start) && (endOrNone == null || instant.isBefore(endOrNone));
    }

    /** Overlaps the other or begins or ends where it does. */
    boolean touches(Window other) {
        return !startsAfterEndOf(other) && !other.startsAfterEndOf(this);
    }

    private boolean startsAfterEndOf(Window other) {
        return other.endOrNone != null && start.isAfter(other.endOrNone);
    }

    private Window joined(Window other) {
        var from = start.isBefore(other.start) ? start : other.start;
        return new Window(from, later(endOrNone, other.endOrNone));
    }

    private static @Nullable Instant later(@Nullable Instant a, @Nullable Instant b) {
        if (a == null || b == null) {
            return null;
        }
        return a.isAfter(b) ? a : b;
    }

    /** The maximal windows that the given ones cover together, in time order; touching windows are one. */
    public static List<Window> union(List<Window> windows) {
        var maximal = new ArrayList<Window>();
        windows.stream().filter(window -> !window.isEmpty()).sorted(BY_START).forEach(window -> {
            if (!maximal.isEmpty() && maximal.getLast().touches(window)) {
                maximal.set(maximal.size() - 1, maximal.getLast().joined(window));
            } else {
                maximal.add(window);
            }
        });
        return List.copyOf(maximal);
    }

    /** What of the windows lies at or after the instant. */
    public static List<Window> from(Instant instant, List<Window> windows) {
        return windows.stream()
                .map(window -> window.start.isBefore(instant) ? new Window(instant, window.endOrNone) : window)
                .filter(window -> !window.isEmpty())
                .toList();
    }
}
