package yoru.server.platform;

import java.util.List;
import java.util.stream.Gatherer;
import java.util.stream.Gatherers;

/** Many values, in portions. */
public final class Portions {

    private static final int AT_ONCE = 1_000;

    private Portions() {}

    /** Portions that fit well into one statement; PostgreSQL takes no more than 65,535 values. */
    public static <T> Gatherer<T, ?, List<T>> ofAStatement() {
        return Gatherers.windowFixed(AT_ONCE);
    }
}
