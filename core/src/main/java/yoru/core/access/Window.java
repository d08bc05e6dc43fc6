package yoru.core.access;

import java.time.Instant;
import java.util.Comparator;
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

    /** Whether it is over at the instant. */
    public boolean isOverAt(Instant instant) {
        return endOrNone != null && !endOrNone.isAfter(instant);
    }

    /** What the two have in common; empty where that is nothing. */
    Window within(Window other) {
        return new Window(later(start, other.start), earlier(endOrNone, other.endOrNone));
    }

    public static Instant later(Instant a, Instant b) {
        return a.isAfter(b) ? a : b;
    }

    /** Of two ends, either of which may be none. */
    static @Nullable Instant earlier(@Nullable Instant a, @Nullable Instant b) {
        if (a == null || b == null) {
            return a == null ? b : a;
        }
        return a.isBefore(b) ? a : b;
    }
}
