package yoru.server.platform;

import java.io.IOException;
import java.sql.SQLException;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.dao.QueryTimeoutException;
import org.springframework.dao.TransientDataAccessException;
import org.springframework.transaction.CannotCreateTransactionException;

/** What comes and goes by itself: that something outside is away for a while. It is answered and logged in a line. */
final class Weather {

    /** SQLSTATE classes: connection, resources, operator intervention (it is being shut down), closed or locked meanwhile. */
    private static final Set<String> AWAY = Set.of("08", "53", "55", "57");

    /** How Spring says that it is away, or too busy to begin anything. */
    private static final List<Class<? extends RuntimeException>> SAID_BY_SPRING = List.of(
            CannotCreateTransactionException.class,
            DataAccessResourceFailureException.class,
            TransientDataAccessException.class,
            QueryTimeoutException.class);

    private Weather() {}

    static boolean isBehind(Throwable e) {
        return isDatabaseAway(e) || anyBehind(e, IOException.class::isInstance);
    }

    /** Hibernate, of itself, while this server ends or after a connection has broken. */
    private static boolean isClosed(Throwable e) {
        return e instanceof IllegalStateException
                && String.valueOf(e.getMessage()).endsWith("is closed");
    }

    /** Or too busy to begin anything. Whoever sends the same again is on the safe side. */
    static boolean isDatabaseAway(Throwable e) {
        return anyBehind(
                e,
                cause -> SAID_BY_SPRING.stream().anyMatch(it -> it.isInstance(cause))
                        || isClosed(cause)
                        || isWithoutState(cause)
                        || isOf(AWAY, cause));
    }

    /** A pool that has no connection, or whose connection broke, says so without an SQLSTATE; PostgreSQL always has one. */
    private static boolean isWithoutState(Throwable e) {
        return e instanceof SQLException sql && sql.getSQLState() == null;
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
