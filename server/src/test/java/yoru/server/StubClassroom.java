package yoru.server;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Executors;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A classroom over real HTTP that does as it is told, or misbehaves as it is told. It also plays the shop's catalogue. */
public final class StubClassroom {

    private static final JsonMapper JSON = JsonMapper.builder().build();

    /** One request to the enrolment API. */
    public record Told(String course, String learner, JsonNode wanted, String idempotencyKey, String authorization) {

        public String state() {
            return wanted.path("state").asString();
        }
    }

    /** How it answers one learner's requests. */
    public interface Manner {
        void answer(HttpExchange exchange, String state) throws IOException;
    }

    public static final Manner OBEDIENT =
            (exchange, state) -> say(exchange, 200, "{\"state\":\"%s\"}".formatted(state));
    public static final Manner NONSENSE = (exchange, state) -> say(exchange, 200, "<html>It works!</html>");
    public static final Manner BROKEN_OFF = (exchange, state) -> exchange.close();

    private final HttpServer server;
    private final List<Told> told = new CopyOnWriteArrayList<>();
    private final Map<String, Manner> manners = new ConcurrentHashMap<>();

    public StubClassroom() {
        try {
            server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 50);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        server.setExecutor(Executors.newVirtualThreadPerTaskExecutor());
        server.createContext("/classroom/api/enrolments/", this::enrolment);
        server.createContext("/classroom/catalogue", exchange -> say(exchange, 200, TestSchool.COURSES));
        server.createContext("/shop/catalogue", exchange -> say(exchange, 200, TestSchool.PRODUCTS));
        server.start();
    }

    public String address() {
        return "http://127.0.0.1:" + server.getAddress().getPort();
    }

    public void behave(String learner, Manner manner) {
        manners.put(learner, manner);
    }

    /** What it was told about a learner, in order. */
    public List<Told> about(String learner) {
        return told.stream().filter(one -> one.learner.equals(learner)).toList();
    }

    static void say(HttpExchange exchange, int status, String body) throws IOException {
        var bytes = body.getBytes(StandardCharsets.UTF_8);
        exchange.getResponseHeaders().add("content-type", "application/json");
        exchange.sendResponseHeaders(status, bytes.length);
        try (var out = exchange.getResponseBody()) {
            out.write(bytes);
        }
    }

    private void enrolment(HttpExchange exchange) throws IOException {
        var path = exchange.getRequestURI().getRawPath().split("/");
        var learner = URLDecoder.decode(path[path.length - 1], StandardCharsets.UTF_8);
        var wanted = JSON.readTree(exchange.getRequestBody().readAllBytes());
        var headers = exchange.getRequestHeaders();
        var one = new Told(
                path[path.length - 2],
                learner,
                wanted,
                headers.getFirst("Idempotency-Key"),
                headers.getFirst("Authorization"));
        told.add(one);
        manners.getOrDefault(learner, OBEDIENT).answer(exchange, one.state());
    }
}
