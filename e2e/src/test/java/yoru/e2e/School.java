package yoru.e2e;

import static org.awaitility.Awaitility.await;

import com.standardwebhooks.Webhook;
import com.standardwebhooks.exceptions.EmptyWebhookSecretException;
import com.standardwebhooks.exceptions.WebhookSigningException;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.TimeUnit;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;

/**
 * The practice school as real processes: Yoru's server and the practice systems, on free ports and on databases of their
 * own.
 */
final class School {

    /** What is started. */
    enum Part {
        SERVER,
        /** Another server on the same database; started only where it is asked for. */
        SECOND,
        SHOP,
        CLASSROOM,
        CONTACTS,
        COMMUNITY,
        MAILBOX;

        boolean isPractice() {
            return this != SERVER && this != SECOND;
        }

        private String argument() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    static final String EMAIL = "demo@hollowoak.example";
    static final String PASSWORD = "hollow-oak-demo";

    private static final Path SERVER_JAR =
            Path.of("..", "server", "target", "server-" + System.getProperty("yoru.version") + ".jar");
    private static final Path SERVER_CACHE = SERVER_JAR.resolveSibling("server.aot");

    private static final HttpClient HTTP =
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(2)).build();
    private static final Duration STARTING = Duration.ofSeconds(300);
    private static Optional<School> shared = Optional.empty();

    private final String suffix = HexFormat.of().toHexDigits(new Random().nextInt());
    private final Map<Part, Integer> ports = new EnumMap<>(Part.class);
    private final Map<Part, Process> processes = new EnumMap<>(Part.class);
    private static final Set<Integer> PORTS_GIVEN = ConcurrentHashMap.newKeySet();

    private final Map<String, String> environment;
    /** What only the servers are told: where they believe that the systems are. */
    private final Map<String, String> toServers = new HashMap<>();
    /** Where its servers have their database; none = where all tests have theirs. */
    private final Optional<OwnCluster> cluster;

    private final String jit;

    private School(boolean demo, String jit) {
        this(demo, jit, Optional.empty());
    }

    private School(boolean demo, String jit, Optional<OwnCluster> cluster) {
        this.jit = jit;
        this.cluster = cluster;
        for (Part part : Part.values()) {
            ports.put(part, freePort());
            if (part != Part.SECOND) {
                sql(part, "postgres", "create database " + database(part));
            }
        }
        Runtime.getRuntime().addShutdownHook(new Thread(this::close));
        cluster.ifPresent(own -> toServers.put("YORU_PG_PORT", String.valueOf(own.port())));
        environment = new HashMap<>(Map.of(
                "YORU_PG_PORT", pgPort(),
                "YORU_DB_USER", "yoru_admin",
                "YORU_DB_PASSWORD", pgPassword(),
                "YORU_DB", database(Part.SERVER),
                "YORU_PORT", port(Part.SERVER),
                "YORU_KEY", HexFormat.of().formatHex(random(32)),
                "YORU_MAILBOX_SMTP_PORT", String.valueOf(freePort()),
                "YORU_PASSWORDCOST", "4",
                "YORU_FOLDER",
                        Path.of("target", "folders-" + suffix).toAbsolutePath().toString(),
                "SPRING_PROFILES_ACTIVE", demo ? "demo" : "default"));
        environment.put(
                "YORU_ERASEDLIST",
                Path.of("target", "erased-" + suffix).toAbsolutePath().toString());
        for (Part part : Part.values()) {
            if (part.isPractice()) {
                environment.put("YORU_" + part + "_DB", database(part));
                environment.put("YORU_" + part + "_PORT", port(part));
                environment.put("YORU_" + part + "_TOKEN", HexFormat.of().formatHex(random(16)));
                environment.put(
                        "YORU_" + part + "_SECRET",
                        "whsec_" + Base64.getEncoder().encodeToString(random(32)));
            }
        }
    }

    /** One for all tests of a run, for starting takes its time; each test brings people and cells of its own. */
    static synchronized School running() {
        if (shared.isEmpty()) {
            var school = new School(true, "1");
            school.startAll();
            shared = Optional.of(school);
        }
        return shared.get();
    }

    /** Yoru alone, before anybody has used it. */
    static School untouched() {
        var school = new School(false, "1");
        school.start(Part.SERVER);
        return school;
    }

    /** Yoru before anybody has used it, and practice systems that it does not know of, each a process of its own. */
    static School unconnected() {
        var school = new School(false, "1");
        school.environment.put("YORU_INSIDEALLOWED", "127.0.0.0/8");
        for (var part : List.of(Part.SHOP, Part.CLASSROOM)) {
            school.start(part);
        }
        school.start(Part.SERVER);
        return school;
    }

    /** Yoru alone, on a database that another school's was restored into, with the keys of that. */
    static School restored(School from, String database) {
        var school = new School(false, "1");
        school.environment.put("YORU_DB", database);
        school.environment.put("YORU_INSIDEALLOWED", "127.0.0.0/8");
        for (var same : List.of("YORU_KEY", "YORU_ERASEDLIST")) {
            school.environment.put(same, from.setting(same));
        }
        school.start(Part.SERVER);
        return school;
    }

    /** Yoru alone, on a database that was filled by another version. */
    static School on(Path dump) {
        return on(dump, Optional.empty());
    }

    static School on(Path dump, Optional<OwnCluster> cluster) {
        var school = new School(false, "1", cluster);
        school.postgres("pg_restore", school.database(Part.SERVER), "--no-owner", dump.toString());
        school.change(Part.SERVER, "update connection set state = 'OFF'"); // what it told is told to nobody here
        return school;
    }

    /** The same school on another cluster, with all systems off, as is to be done after a recovery. */
    School recoveredOn(OwnCluster recovered, Instant moment) {
        var school = new School(false, "1", Optional.of(recovered));
        school.environment.put("YORU_DB", database(Part.SERVER));
        school.environment.put("YORU_KEY", setting("YORU_KEY"));
        school.postgres(
                "psql",
                database(Part.SERVER),
                "-q",
                "-v",
                "ON_ERROR_STOP=1",
                "-v",
                "backup_at=" + moment,
                "-f",
                "../server/src/main/resources/db/after-restore.sql");
        return school;
    }

    /** One of PostgreSQL's programs, over a database of a server's. */
    private void postgres(String program, String database, String... arguments) {
        var command = new ArrayList<>(List.of(
                Path.of(fromEnvironment("YORU_PG_BIN"), program).toString(),
                "-h",
                "127.0.0.1",
                "-p",
                portOfDatabase(Part.SERVER),
                "-U",
                "yoru_admin",
                "-d",
                database));
        command.addAll(List.of(arguments));
        try {
            var builder = new ProcessBuilder(command).redirectErrorStream(true);
            builder.environment().put("PGPASSWORD", pgPassword());
            said(builder);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** That it does not start so, and what it says then. */
    String refusesToStart(Map<String, String> more) throws IOException {
        launch(List.of(Part.SERVER), more);
        try {
            if (processes.get(Part.SERVER).waitFor(STARTING.toSeconds(), TimeUnit.SECONDS)) {
                return Files.readString(log(Part.SERVER));
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        throw new IllegalStateException("it has started");
    }

    /** What a server, or a practice system, writes; two servers write into one. */
    Path log(Part part) {
        return Path.of("target", "logs", database(part) + ".log");
    }

    /** Has the project's own command do something with a database of this school's. */
    String command(String database, String... words) throws IOException, InterruptedException {
        List<String> all = new ArrayList<>(List.of(Path.of("..", "yoru").toString()));
        all.addAll(List.of(words));
        var builder = new ProcessBuilder(all).redirectErrorStream(true);
        builder.environment()
                .putAll(Map.of(
                        "YORU_PG_PORT",
                        pgPort(),
                        "YORU_PG_ADMIN",
                        pgPassword(),
                        "YORU_DB",
                        database,
                        "YORU_BACKUP_PASSPHRASE",
                        "seven lids of smoke"));
        return said(builder);
    }

    private static String said(ProcessBuilder builder) throws IOException, InterruptedException {
        var process = builder.start();
        var said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        if (process.waitFor() != 0) {
            throw new IllegalStateException(said);
        }
        return said;
    }

    /** One of its own, in which everything is tried again soon, for bad weather. */
    static School impatient() {
        var school = new School(true, "1");
        school.tryAgainSoon();
        school.startAll();
        return school;
    }

    /**
     * One for the worst weather: impatient, with two servers on a cluster of their own, every practice system a process of
     * its own, and a wire to each.
     */
    static School inPieces(OwnCluster cluster, Map<Part, Wire> wires, String jit) {
        var school = new School(true, jit, Optional.of(cluster));
        school.tryAgainSoon();
        school.environment.put("MAILBOX_KEPT", "200000");
        for (Part part : List.of(Part.CLASSROOM, Part.CONTACTS, Part.COMMUNITY, Part.SHOP)) {
            var wire = Wire.to(school.ports.get(part));
            wires.put(part, wire);
            school.toServers.put("YORU_" + part + "_PORT", String.valueOf(wire.port()));
        }
        practice().forEach(part -> school.launch(List.of(part)));
        practice().forEach(school::awaitReady);
        school.start(Part.SERVER);
        school.start(Part.SECOND);
        return school;
    }

    /** One with two servers, which others reach by way of a proxy. */
    static School behind(String proxy) {
        var school = new School(true, "1");
        school.environment.putAll(Map.of("YORU_PUBLIC_ADDRESS", proxy, "YORU_PROXIES", "127.0.0.1"));
        school.startAll();
        school.start(Part.SECOND);
        return school;
    }

    private void tryAgainSoon() {
        environment.putAll(Map.of(
                "YORU_DELIVERY_FIRSTPAUSE", "300ms",
                "YORU_DELIVERY_LONGESTPAUSE", "2s",
                "YORU_DELIVERY_RESTAFTERFAILURES", "500ms",
                "YORU_DELIVERY_TIMEOUT", "2s"));
    }

    /** One of its own, whose shop sells and whose classroom teaches more: an insert for each. */
    static School with(String products, String courses) {
        return new School(true, "1").startedWith(products, courses);
    }

    /** The same with the compilers as in earnest, for measuring. */
    static School forMeasuring(String products, String courses) {
        return new School(true, "4").startedWith(products, courses);
    }

    private School startedWith(String products, String courses) {
        launchPractice();
        change(Part.SHOP, products);
        change(Part.CLASSROOM, courses);
        start(Part.SERVER);
        return this;
    }

    /** One of its own, with the compilers as in earnest, for measuring. */
    static School forMeasuring() {
        var school = new School(true, "4");
        school.startAll();
        return school;
    }

    private void startAll() {
        launchPractice();
        start(Part.SERVER);
    }

    private static List<Part> practice() {
        return Arrays.stream(Part.values()).filter(Part::isPractice).toList();
    }

    private void launchPractice() {
        launch(practice().stream().filter(part -> part != Part.CLASSROOM).toList());
        launch(List.of(Part.CLASSROOM)); // ended and started again by itself
        practice().forEach(this::awaitReady);
    }

    String address(Part part) {
        return "http://127.0.0.1:" + ports.get(part);
    }

    int portOf(Part part) {
        return ports.get(part);
    }

    String server() {
        return address(Part.SERVER);
    }

    String setting(String name) {
        return Objects.requireNonNull(environment.get(name));
    }

    void start(Part part) {
        launch(List.of(part));
        awaitReady(part);
    }

    /** With more of an environment than it has otherwise. */
    void startWith(Part part, Map<String, String> more) {
        launch(List.of(part), more);
        awaitReady(part);
    }

    /** In one process. */
    private void launch(List<Part> parts) {
        launch(parts, Map.of());
    }

    private void launch(List<Part> parts, Map<String, String> more) {
        var part = parts.getFirst();
        try {
            Files.createDirectories(Path.of("target", "logs"));
            if (!part.isPractice()) {
                leaveCache();
            }
            var builder = new ProcessBuilder(command(parts));
            builder.environment().putAll(environment);
            if (part.isPractice()) {
                builder.environment().remove("SPRING_PROFILES_ACTIVE");
            } else {
                builder.environment().putAll(toServers);
            }
            builder.environment().putAll(more);
            if (part == Part.SECOND) {
                builder.environment().put("YORU_PORT", port(part));
            }
            builder.redirectErrorStream(true);
            builder.redirectOutput(ProcessBuilder.Redirect.appendTo(log(part).toFile()));
            var process = builder.start();
            parts.forEach(one -> processes.put(one, process));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    boolean isReady(Part part) {
        return statusOf(URI.create(address(part) + (part.isPractice() ? "/practice/manners" : "/actuator/health")))
                == 200;
    }

    void awaitReady(Part part) {
        await().atMost(STARTING).pollInterval(Duration.ofMillis(200)).until(() -> {
            if (!processes.get(part).isAlive()) {
                throw new IllegalStateException(part + " ended while starting; see e2e/target/logs");
            }
            return isReady(part);
        });
    }

    private static int statusOf(URI address) {
        try {
            return HTTP.send(
                            HttpRequest.newBuilder(address)
                                    .timeout(Duration.ofSeconds(3))
                                    .build(),
                            BodyHandlers.discarding())
                    .statusCode();
        } catch (IOException e) {
            return 0;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return 0;
        }
    }

    /** Ends it as an operator would. */
    void stop(Part part) {
        end(own(part), false);
    }

    /** Ends it at once, with SIGKILL: nothing is put in order. */
    void kill(Part part) {
        end(own(part), true);
    }

    /** Has it hold its breath (SIGSTOP) or go on (SIGCONT): it takes connections, but answers nothing. */
    void freeze(Part part, boolean frozen) {
        try {
            new ProcessBuilder("kill", frozen ? "-STOP" : "-CONT", String.valueOf(pid(part)))
                    .start()
                    .waitFor();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    long pid(Part part) {
        return own(part).pid();
    }

    private Process own(Part part) {
        var process = processes.get(part);
        if (processes.values().stream().filter(process::equals).count() > 1) {
            throw new IllegalArgumentException(part + " shares its process with others");
        }
        return process;
    }

    private static void end(Process process, boolean atOnce) {
        try {
            if (atOnce) {
                process.destroyForcibly();
            } else {
                process.destroy();
            }
            if (!process.waitFor(30, TimeUnit.SECONDS)) {
                process.destroyForcibly().waitFor();
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** Has the shop tell 18 months of past, as the demo does. */
    void replayHistory() {
        try {
            HTTP.send(
                    HttpRequest.newBuilder(URI.create(address(Part.SHOP) + "/practice/history"))
                            .header("Authorization", "Bearer " + setting("YORU_SHOP_TOKEN"))
                            .POST(HttpRequest.BodyPublishers.noBody())
                            .build(),
                    BodyHandlers.discarding());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        await().atMost(Duration.ofMinutes(5))
                .until(() -> count(Part.SHOP, "select count(*) from outbox where sent_at is null") == 0 && quiet());
    }

    /** Has a practice system behave, as its own page does; a form without fields = well. */
    void behave(Part part, String form) {
        try {
            var answer = send(HttpRequest.newBuilder(URI.create(address(part) + "/practice/manners"))
                    .header("content-type", "application/x-www-form-urlencoded")
                    .POST(HttpRequest.BodyPublishers.ofString(form))
                    .build());
            if (answer.statusCode() >= 400) {
                throw new IllegalStateException(answer.body());
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** The letters to an address, or to all that it is a part of, as JSON. */
    String letters(String to) throws IOException, InterruptedException {
        return send(HttpRequest.newBuilder(
                                URI.create(address(Part.MAILBOX) + "/practice/letters?to=" + to.replace("@", "%40")))
                        .build())
                .body();
    }

    /** Where the letter that has come to somebody of the team lets them choose a password. */
    String whereToChooseAPassword(String email) {
        var link = Pattern.compile(Pattern.quote(server()) + "/password#[\\w-]+");
        return await().atMost(Duration.ofSeconds(30))
                .until(
                        () -> link.matcher(letters(email))
                                .results()
                                .map(MatchResult::group)
                                .findFirst(),
                        Optional::isPresent)
                .orElseThrow();
    }

    /** The code for making the owner's account, as the server has printed it. */
    String firstCode() throws IOException {
        var log = Files.readString(log(Part.SERVER));
        return Pattern.compile("/first with the code (\\w+)")
                .matcher(log)
                .results()
                .map(found -> found.group(1))
                .findFirst()
                .orElseThrow();
    }

    /** Whether nothing waits to be done. */
    boolean quiet() {
        return count(Part.SERVER, """
                select count(*) from scheduled_tasks
                where task_name in ('person-after-fact', 'after-facts', 'tell', 'after-publish', 'fill-system', 'check-system', 'after-step', 'follow-ups-go-on') and execution_time <= now()""") == 0;
    }

    /** Reports an event as the shop does, signed, to one of the servers. */
    HttpResponse<String> report(Part server, String id, String event) throws IOException, InterruptedException {
        return report(server, Part.SHOP, id, event);
    }

    HttpResponse<String> report(Part server, Part by, String id, String event)
            throws IOException, InterruptedException {
        return send(reportTo(address(server), by, id, event));
    }

    HttpRequest reportTo(String address, Part by, String id, String event) {
        long at = Instant.now().getEpochSecond();
        return HttpRequest.newBuilder(URI.create(address + "/hooks/practice-" + by.argument()))
                .timeout(Duration.ofSeconds(20))
                .header("webhook-id", id)
                .header("webhook-timestamp", String.valueOf(at))
                .header("webhook-signature", sign(by, id, at, event))
                .POST(HttpRequest.BodyPublishers.ofString(event))
                .build();
    }

    private String sign(Part by, String id, long at, String event) {
        try {
            return new Webhook(setting("YORU_" + by + "_SECRET")).sign(id, at, event);
        } catch (EmptyWebhookSecretException | WebhookSigningException e) {
            throw new IllegalStateException(e);
        }
    }

    HttpResponse<String> send(HttpRequest request) throws IOException, InterruptedException {
        return HTTP.send(request, BodyHandlers.ofString());
    }

    long count(Part part, String sql, Object... parameters) {
        return Long.parseLong(rows(part, sql, parameters).getFirst());
    }

    /** The first column of every row. */
    List<String> rows(Part part, String sql, Object... parameters) {
        try (var connection = connect(part, used(part));
                var statement = connection.prepareStatement(sql)) {
            for (int at = 0; at < parameters.length; at++) {
                statement.setObject(at + 1, parameters[at]);
            }
            var rows = new ArrayList<String>();
            try (var result = statement.executeQuery()) {
                while (result.next()) {
                    rows.add(result.getString(1));
                }
            }
            return rows;
        } catch (SQLException e) {
            throw new IllegalStateException(sql, e);
        }
    }

    void change(Part part, String sql) {
        sql(part, used(part), sql);
    }

    String database(Part part) {
        return "e2e_" + (part == Part.SECOND ? Part.SERVER : part).name().toLowerCase(Locale.ROOT) + "_" + suffix;
    }

    /** Another school's where that was brought back. */
    private String used(Part part) {
        return part == Part.SERVER || part == Part.SECOND ? setting("YORU_DB") : database(part);
    }

    void close() {
        processes.values().forEach(process -> end(process, true));
        for (Part part : Part.values()) {
            sql(part, "postgres", "drop database if exists " + database(part) + " with (force)");
        }
    }

    private List<String> command(List<Part> parts) {
        var version = System.getProperty("yoru.version");
        var command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:+UseSerialGC",
                "-XX:TieredStopAtLevel=" + jit,
                parts.contains(Part.MAILBOX) ? "-Xmx1g" : "-Xmx512m", // letters are kept in memory
                "--enable-native-access=ALL-UNNAMED"));
        if (parts.getFirst().isPractice()) {
            command.addAll(List.of("-jar", "../standins/target/standins-" + version + ".jar"));
            parts.forEach(part -> command.add(part.argument()));
        } else {
            command.addAll(List.of(
                    "-Dspring.aot.enabled=true",
                    "-XX:AOTCache=" + SERVER_CACHE,
                    "-Xlog:aot*=off",
                    "-jar",
                    SERVER_JAR.toString()));
        }
        return command;
    }

    /** Starts the server once for all that follow: what the JVM works out then it need not work out again. */
    private void leaveCache() {
        try {
            if (Files.exists(SERVER_CACHE)
                    && Files.getLastModifiedTime(SERVER_CACHE).compareTo(Files.getLastModifiedTime(SERVER_JAR)) > 0) {
                return;
            }
            var command = new ArrayList<>(command(List.of(Part.SERVER)));
            command.replaceAll(
                    word -> word.startsWith("-XX:AOTCache=") ? "-XX:AOTCacheOutput=" + SERVER_CACHE + ".new" : word);
            command.add(1, "-Dspring.context.exit=onRefresh");
            var builder = new ProcessBuilder(command)
                    .redirectErrorStream(true)
                    .redirectOutput(Path.of("target", "logs", "first-start.log").toFile());
            builder.environment().putAll(environment);
            builder.start().waitFor();
            Files.move(Path.of(SERVER_CACHE + ".new"), SERVER_CACHE, StandardCopyOption.REPLACE_EXISTING);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private String port(Part part) {
        return String.valueOf(ports.get(part));
    }

    static String pgPort() {
        return fromEnvironment("YORU_TEST_PG_PORT");
    }

    static String pgPassword() {
        return fromEnvironment("YORU_TEST_PG_ADMIN");
    }

    static String fromEnvironment(String name) {
        return Objects.requireNonNull(System.getenv(name), name + " is not set: ./yoru test sets it");
    }

    private Connection connect(Part part, String database) throws SQLException {
        return DriverManager.getConnection(
                "jdbc:postgresql://127.0.0.1:" + portOfDatabase(part) + "/" + database, "yoru_admin", pgPassword());
    }

    private String portOfDatabase(Part part) {
        return part.isPractice()
                ? pgPort()
                : cluster.map(own -> String.valueOf(own.port())).orElseGet(School::pgPort);
    }

    private void sql(Part part, String database, String sql) {
        try (var connection = connect(part, database);
                var statement = connection.createStatement()) {
            statement.execute(sql);
        } catch (SQLException e) {
            throw new IllegalStateException(sql, e);
        }
    }

    /**
     * Free, and given to nobody else, who may not be there yet; below the range from which the system takes ports for outgoing
     * connections, or one of those could take it first.
     */
    static int freePort() {
        var random = new Random();
        for (int tries = 0; tries < 100; tries++) {
            int port = 20_000 + random.nextInt(10_000);
            if (!PORTS_GIVEN.add(port)) {
                continue;
            }
            try (var _ = new ServerSocket(port, 1, InetAddress.getLoopbackAddress())) {
                return port;
            } catch (IOException e) {
                // taken; another one
            }
        }
        throw new IllegalStateException("no free port was found");
    }

    private static byte[] random(int length) {
        var bytes = new byte[length];
        new java.security.SecureRandom().nextBytes(bytes);
        return bytes;
    }
}
