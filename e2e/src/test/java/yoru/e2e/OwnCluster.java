package yoru.e2e;

import static org.awaitility.Awaitility.await;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;

/**
 * A PostgreSQL cluster of a test's own, which it may stop in the middle of anything. What was committed is written as in
 * earnest, but for the disk's own cache: the machine itself does not lose power here.
 */
final class OwnCluster {

    private static final String SAID = "server.log";
    private static final String BALLAST = "ballast";
    private static final String ARCHIVE = "archive";

    private final Path place;
    private final String data;
    private final int port;
    private final boolean mounted;
    private final String settings;

    private OwnCluster(Path place, String data, int port, boolean mounted, String settings) {
        this.place = place;
        this.data = data;
        this.port = port;
        this.mounted = mounted;
        this.settings = settings;
    }

    /** Made and started; where this is allowed on a file system of its own, which can be filled up. */
    static OwnCluster made(int port) {
        return made(port, "");
    }

    /** One that keeps all of its log apart, for recovering to a point in time. */
    static OwnCluster archiving(int port) {
        return made(port, " -c archive_mode=on -c archive_command='cp %p ../" + ARCHIVE + "/%f'");
    }

    private static OwnCluster made(int port, String settings) {
        try {
            var place = Files.createTempDirectory(Path.of("/var/tmp"), "yoru-chaos-");
            boolean mounted = isRoot()
                    && run(List.of("mount", "-t", "tmpfs", "-o", "size=3g", "yoru-chaos", place.toString())) == 0;
            if (isRoot()) {
                must(List.of("chown", "postgres", place.toString()));
            }
            var password = Files.writeString(place.resolve("password"), School.pgPassword());
            if (isRoot()) {
                must(List.of("chown", "postgres", password.toString()));
            }
            var cluster = new OwnCluster(place, "data", port, mounted, settings);
            must(as(List.of("mkdir", place.resolve(ARCHIVE).toString())));
            cluster.postgres(
                    "initdb",
                    "-D",
                    cluster.data(),
                    "-U",
                    "yoru_admin",
                    "--auth=scram-sha-256",
                    "--pwfile=" + password,
                    "-E",
                    "UTF8",
                    "--locale=C.UTF-8");
            Runtime.getRuntime().addShutdownHook(new Thread(cluster::remove));
            cluster.start();
            return cluster;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    int port() {
        return port;
    }

    /** Whether its disk can be filled up: that needs a file system of its own, and the right to mount one. */
    boolean canBeFull() {
        return mounted;
    }

    void start() {
        try {
            tryToStart();
        } catch (IllegalStateException e) {
            throw new IllegalStateException(e.getMessage() + "\n" + said(), e);
        }
    }

    private String said() {
        try {
            return Files.readString(place.resolve(SAID));
        } catch (IOException e) {
            return "without a word";
        }
    }

    private void tryToStart() {
        postgres(
                "pg_ctl",
                "-D",
                data(),
                "-w",
                "-t",
                "60",
                "-l",
                place.resolve(SAID).toString(),
                "-o",
                "-p " + port
                        + " -c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c fsync=off -c max_connections=200 -c max_wal_size=256MB"
                        + settings,
                "start");
    }

    /** As if it were killed: nothing is put in order. */
    void stopAtOnce() {
        postgres("pg_ctl", "-D", data(), "-m", "immediate", "-w", "stop");
    }

    void fill() {
        run(as(List.of("dd", "if=/dev/zero", "of=" + place.resolve(BALLAST), "bs=1M")));
    }

    /** It may have given up meanwhile, as PostgreSQL does where it cannot write its log. */
    void makeRoom() {
        must(List.of("rm", "-f", place.resolve(BALLAST).toString()));
        if (run(as(List.of(program("pg_ctl"), "-D", data(), "status"))) != 0) {
            start();
        }
    }

    private void remove() {
        run(as(List.of(program("pg_ctl"), "-D", data(), "-m", "immediate", "-w", "stop")));
        if (mounted) {
            must(List.of("umount", place.toString()));
        }
        must(List.of("rm", "-rf", place.toString()));
    }

    /** Its files as they are now, and all that is needed beside the log to go on from there. */
    void backUp() {
        postgres(
                "pg_basebackup",
                "--checkpoint=fast",
                "-h",
                "127.0.0.1",
                "-p",
                String.valueOf(port),
                "-U",
                "yoru_admin",
                "-D",
                base());
    }

    /** Another one, from what was backed up and the log kept since, as it was at a moment (PostgreSQL 15, chapter 26.3). */
    OwnCluster recoveredTo(Instant moment, int anotherPort) {
        var recovered = new OwnCluster(
                place,
                "base",
                anotherPort,
                false,
                " -c restore_command='cp ../%s/%%f %%p' -c recovery_target_time='%s' -c recovery_target_action=promote"
                        .formatted(ARCHIVE, moment.toString().replace("Z", "+00"))); // it takes no letter for a zone
        must(as(List.of("touch", base() + "/recovery.signal")));
        Runtime.getRuntime().addShutdownHook(new Thread(recovered::stopAtOnce));
        recovered.start();
        await().atMost(Duration.ofMinutes(1)).until(() -> !recovered.isInRecovery());
        return recovered;
    }

    /** It answers questions before it has caught up, and takes nothing then. */
    private boolean isInRecovery() throws SQLException {
        try (var connection = DriverManager.getConnection(
                        "jdbc:postgresql://127.0.0.1:" + port + "/postgres", "yoru_admin", School.pgPassword());
                var statement = connection.createStatement();
                var row = statement.executeQuery("select pg_is_in_recovery()")) {
            row.next();
            return row.getBoolean(1);
        }
    }

    private String base() {
        return place.resolve("base").toString();
    }

    private String data() {
        return place.resolve(data).toString();
    }

    private void postgres(String program, String... arguments) {
        must(as(Stream.concat(Stream.of(program(program)), Stream.of(arguments)).toList()));
    }

    private static String program(String name) {
        return Path.of(School.fromEnvironment("YORU_PG_BIN"), name).toString();
    }

    /** PostgreSQL refuses to run as root. */
    private static List<String> as(List<String> command) {
        if (!isRoot()) {
            return command;
        }
        var all = new ArrayList<>(List.of("runuser", "-u", "postgres", "--"));
        all.addAll(command);
        return all;
    }

    private static boolean isRoot() {
        return "root".equals(System.getProperty("user.name"));
    }

    private static void must(List<String> command) {
        if (run(command) != 0) {
            throw new IllegalStateException(command + " failed; see e2e/target/logs/chaos-postgres.log");
        }
    }

    private static int run(List<String> command) {
        try {
            var log = Files.createDirectories(Path.of("target", "logs")).resolve("chaos-postgres.log");
            var builder = new ProcessBuilder(command)
                    .directory(Path.of("/").toFile())
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.appendTo(
                            log.toAbsolutePath().toFile()));
            builder.environment().put("PGPASSWORD", School.pgPassword());
            var process = builder.start();
            return process.waitFor(90, TimeUnit.SECONDS) ? process.exitValue() : -1;
        } catch (IOException e) {
            return -1; // there is no such program
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return -1;
        }
    }
}
