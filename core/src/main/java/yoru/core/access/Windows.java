package yoru.core.access;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A set of instants: windows that neither overlap nor touch, in time order.
 *
 * <p>All of its operations take time in proportion to the windows there are.
 */
public final class Windows {

    public static final Windows NONE = new Windows(List.of());

    private final List<Window> windows;

    private Windows(List<Window> windows) {
        this.windows = windows;
    }

    /** What the given windows cover together. */
    public static Windows of(Collection<Window> covered) {
        if (covered.isEmpty()) {
            return NONE;
        }
        if (covered.size() == 1) {
            var only = covered.iterator().next();
            return only.isEmpty() ? NONE : new Windows(List.of(only));
        }
        var sorted = covered.stream()
                .filter(window -> !window.isEmpty())
                .sorted(Window.BY_START)
                .toList();
        var maximal = new ArrayList<Window>();
        for (Window window : sorted) {
            Window last = maximal.isEmpty() ? null : maximal.getLast();
            if (last == null || isAfter(window.start(), last.endOrNone())) {
                maximal.add(window);
            } else {
                maximal.set(maximal.size() - 1, new Window(last.start(), later(last.endOrNone(), window.endOrNone())));
            }
        }
        return new Windows(maximal);
    }

    public static Windows of(Window... covered) {
        return of(List.of(covered));
    }

    public List<Window> asList() {
        return Collections.unmodifiableList(windows);
    }

    public boolean isEmpty() {
        return windows.isEmpty();
    }

    public boolean contains(Instant instant) {
        int at = firstEndingAfter(instant);
        return at < windows.size() && windows.get(at).contains(instant);
    }

    public Windows plus(Windows others) {
        if (isEmpty() || others.isEmpty()) {
            return isEmpty() ? others : this;
        }
        return of(Stream.concat(windows.stream(), others.windows.stream()).toList());
    }

    /** What of these lies in the window. */
    public Windows within(Window bounds) {
        if (isEmpty()) {
            return this;
        }
        var inside = new ArrayList<Window>();
        for (int at = firstEndingAfter(bounds.start()); at < windows.size(); at++) {
            Window common = windows.get(at).within(bounds);
            if (common.isEmpty()) {
                break;
            }
            inside.add(common);
        }
        return new Windows(inside);
    }

    /** What of these lies in none of the others. */
    public Windows minus(Windows others) {
        if (isEmpty() || others.isEmpty()) {
            return this;
        }
        var left = new ArrayList<Window>();
        for (Window window : windows) {
            Instant from = window.start();
            boolean more = true;
            for (int at = others.firstEndingAfter(from); more && at < others.windows.size(); at++) {
                Window taken = others.windows.get(at);
                if (!isAfterOrNone(window.endOrNone(), taken.start())) {
                    break;
                }
                if (taken.start().isAfter(from)) {
                    left.add(new Window(from, taken.start()));
                }
                more = taken.endOrNone() != null && isAfterOrNone(window.endOrNone(), taken.endOrNone());
                from = taken.endOrNone() == null ? from : taken.endOrNone();
            }
            if (more) {
                left.add(new Window(from, window.endOrNone()));
            }
        }
        return new Windows(left);
    }

    /** What of these lies at or after the instant. */
    public Windows from(Instant instant) {
        return within(new Window(instant, null));
    }

    @Override
    public boolean equals(@Nullable Object other) {
        return other instanceof Windows it && it.windows.equals(windows);
    }

    @Override
    public int hashCode() {
        return windows.hashCode();
    }

    @Override
    public String toString() {
        return windows.toString();
    }

    /** The place of the first window that is not over at the instant. */
    private int firstEndingAfter(Instant instant) {
        int low = 0;
        int high = windows.size();
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (windows.get(middle).isOverAt(instant)) {
                low = middle + 1;
            } else {
                high = middle;
            }
        }
        return low;
    }

    private static boolean isAfter(Instant start, @Nullable Instant endOrNone) {
        return endOrNone != null && start.isAfter(endOrNone);
    }

    private static boolean isAfterOrNone(@Nullable Instant endOrNone, Instant instant) {
        return endOrNone == null || endOrNone.isAfter(instant);
    }

    private static @Nullable Instant later(@Nullable Instant a, @Nullable Instant b) {
        return a == null || b == null ? null : Window.later(a, b);
    }
}
