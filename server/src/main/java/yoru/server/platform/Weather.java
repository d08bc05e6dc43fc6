package yoru.server.platform;

import java.io.IOException;
import java.sql.SQLException;
import java.util.Objects;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Stream;

/** What comes and goes by itself: that something outside is away for a while. It is answered and logged in a line. */
final class Weather {

    /** SQLSTATE classes: connection, resources, operator intervention (it is being shut down). */
    private static final Set<String> AWAY = Set.of("08", "53", "57");

    private Weather() {}

    static boolean isBehind(Throwable e) {
        return isDatabaseAway(e) || anyBehind(e, cause -> cause instanceof IOException || isClosed(cause));
    }

    /** Hibernate, of itself, while this server ends or after a connection has broken. */
    private static boolean isClosed(Throwable e) {
        return e instanceof IllegalStateException
                && String.valueOf(e.getMessage()).endsWith("is closed");
    }

    /** A pool that has no connection, or whose connection broke, says so without an SQLSTATE; PostgreSQL always has one. */
    static boolean isDatabaseAway(Throwable e) {
        return anyBehind(
                e, cause -> (cause instanceof SQLException sql && sql.getSQLState() == null) || isOf(AWAY, cause));
    }

    /** Whether the database said so, with one of these classes of SQLSTATE. */
    static boolean saidByTheDatabase(Set<String> classes, Throwable e) {
        return anyBehind(e, cause -> isOf(classes, cause));
    }

    private static boolean anyBehind(Throwable e, Predicate<Throwable> is) {
        return Stream.iterate(e, Objects::nonNull, Throwable::getCause).anyMatch(is);
    }

    private static boolean isOf(Set<String> classes, Throwable e) {
        return e instanceof SQLException sql
                && sql.getSQLState() != null
                && classes.contains(sql.getSQLState().substring(0, 2));
    }
}
