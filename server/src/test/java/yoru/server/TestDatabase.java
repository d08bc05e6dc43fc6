package yoru.server;

import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.Objects;
import java.util.UUID;

/** A database of its own on the PostgreSQL that {@code ./yoru test} starts; dropped when the tests have run. */
public final class TestDatabase {

    private TestDatabase() {}

    /** @return its name */
    public static String make() {
        var name = "yoru_test_" + UUID.randomUUID().toString().replace("-", "");
        asAdmin("create database " + name);
        Runtime.getRuntime().addShutdownHook(new Thread(() -> asAdmin("drop database " + name + " with (force)")));
        return name;
    }

    public static String port() {
        return fromEnvironment("YORU_TEST_PG_PORT");
    }

    public static String password() {
        return fromEnvironment("YORU_TEST_PG_ADMIN");
    }

    private static void asAdmin(String sql) {
        var address = "jdbc:postgresql://127.0.0.1:" + port() + "/postgres";
        try (var connection = DriverManager.getConnection(address, "yoru_admin", password());
                var statement = connection.createStatement()) {
            statement.execute(sql);
        } catch (SQLException e) {
            throw new IllegalStateException(sql, e);
        }
    }

    private static String fromEnvironment(String name) {
        return Objects.requireNonNull(
                System.getenv(name), name + " is not set: these tests need the PostgreSQL that ./yoru test starts");
    }
}
