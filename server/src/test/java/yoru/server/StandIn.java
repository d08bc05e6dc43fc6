package yoru.server;

import static org.awaitility.Awaitility.await;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.concurrent.ConcurrentHashMap;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A practice system as a process of its own, met over the network like any other; started once for all tests. */
public final class StandIn {

    private static final Map<String, StandIn> RUNNING = new ConcurrentHashMap<>();
    private static final String TOKEN = "stand-in-token";

    private final String name;
    private final int port = freePort();
    private final int smtpPort = freePort();

    private StandIn(String name) {
        this.name = name;
        launch();
    }

    public static StandIn of(String name) {
        return RUNNING.computeIfAbsent(name, StandIn::new);
    }

    /** Starts several at once, for each takes its time. */
    public static void startAll(String... names) {
        List.of(names).forEach(StandIn::of);
        List.of(names).forEach(name -> of(name).awaitReady());
    }

    public String address() {
        return "http://127.0.0.1:" + port;
    }

    public String mailAddress() {
        return "smtp://127.0.0.1:" + smtpPort;
    }

    public String token() {
        return TOKEN;
    }

    /** Has it behave as its own page does; an empty form = well. */
    public void behave(String form) {
        var answer = TestSchool.send(HttpRequest.newBuilder(URI.create(address() + "/practice/manners"))
                .header("content-type", "application/x-www-form-urlencoded")
                .POST(HttpRequest.BodyPublishers.ofString(form))
                .build());
        if (answer.statusCode() >= 400) {
            throw new IllegalStateException(answer.body());
        }
    }

    public String get(String path) {
        return TestSchool.send(HttpRequest.newBuilder(URI.create(address() + path))
                        .header("authorization", "Bearer " + TOKEN)
                        .build())
                .body();
    }

    /** Of the practice mailbox: the letters to an address that have come, as JSON. */
    public JsonNode lettersTo(String address) {
        return JsonMapper.shared().readTree(get("/practice/letters?to=" + address.replace("@", "%40")));
    }

    private void launch() {
        try {
            Files.createDirectories(Path.of("target", "logs"));
            var jar = Path.of("..", "standins", "target", "standins-" + System.getProperty("yoru.version") + ".jar");
            if (!Files.exists(jar)) {
                throw new IllegalStateException(jar + " is missing: the stand-ins are built before these tests");
            }
            var command = new ArrayList<>(List.of(
                    Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                    "-XX:+UseSerialGC",
                    "-XX:TieredStopAtLevel=1",
                    "-Xmx256m",
                    "-jar",
                    jar.toString(),
                    name));
            var builder = new ProcessBuilder(command).redirectErrorStream(true);
            var upper = name.toUpperCase(Locale.ROOT);
            builder.environment()
                    .putAll(Map.of(
                            "YORU_PG_PORT",
                            TestDatabase.port(),
                            "YORU_DB_USER",
                            "yoru_admin",
                            "YORU_DB_PASSWORD",
                            TestDatabase.password(),
                            "YORU_" + upper + "_PORT",
                            String.valueOf(port),
                            "YORU_" + upper + "_TOKEN",
                            TOKEN,
                            "YORU_" + upper + "_SECRET",
                            TestSchool.SECRET,
                            "YORU_MAILBOX_SMTP_PORT",
                            String.valueOf(smtpPort)));
            if (!name.equals("mailbox")) {
                builder.environment().put("YORU_" + upper + "_DB", TestDatabase.make());
            }
            builder.redirectOutput(ProcessBuilder.Redirect.appendTo(
                    Path.of("target", "logs", "stand-in-" + name + ".log").toFile()));
            var process = builder.start();
            Runtime.getRuntime().addShutdownHook(new Thread(process::destroyForcibly));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Ready = it has shown its first page, for which it reads its database: what a test then asks is not the first. */
    private void awaitReady() {
        await().atMost(Duration.ofSeconds(180))
                .ignoreExceptions()
                .until(() -> TestSchool.send(HttpRequest.newBuilder(URI.create(address() + "/"))
                                        .build())
                                .statusCode()
                        == 200);
    }

    /** Below the range from which the system takes ports for outgoing connections. */
    private static int freePort() {
        var random = new Random();
        for (int tries = 0; tries < 100; tries++) {
            int port = 20_000 + random.nextInt(10_000);
            try (var socket = new ServerSocket(port, 1, InetAddress.getLoopbackAddress())) {
                return Objects.requireNonNull(socket).getLocalPort();
            } catch (IOException e) {
                // taken; another one
            }
        }
        throw new IllegalStateException("no free port was found");
    }
}
