package yoru.server;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Executors;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * A classroom over real HTTP that does as it is told, or misbehaves as it is told. It also plays the shop's catalogue,
 * contacts and a listener.
 */
public final class StubClassroom {

    private static final String CONTACTS = """
            {"tags": [{"id": "bought-honey", "title": "Bought honey"}, {"id": "guest", "title": "Guest"}], "lists": []}""";

    private static final JsonMapper JSON = JsonMapper.builder().build();

    /** One request to the enrolment API. */
    public record Told(String course, String learner, JsonNode wanted, String idempotencyKey, String authorization) {

        public String state() {
            return wanted.path("state").asString();
        }
    }

    /** Any other request. */
    public record Call(String path, String body, Map<String, List<String>> headers) {}

    /** How it answers one learner's requests. */
    public interface Manner {
        void answer(HttpExchange exchange, String state) throws IOException;
    }

    public static final Manner OBEDIENT =
            (exchange, state) -> say(exchange, 200, "{\"state\":\"%s\"}".formatted(state));
    public static final Manner NONSENSE = (exchange, state) -> say(exchange, 200, "<html>It works!</html>");
    public static final Manner BROKEN_OFF = (exchange, state) -> exchange.close();

    /** What else it is asked. */
    public enum Asked {
        WHAT_IT_SHOWS,
        WHO_HAS_WHAT
    }

    private final HttpServer server;
    private final List<Told> told = new CopyOnWriteArrayList<>();
    private final Map<String, Manner> manners = new ConcurrentHashMap<>();
    private final Map<String, Set<String>> inside = new ConcurrentHashMap<>();
    private final List<Call> calls = new CopyOnWriteArrayList<>();
    private volatile String products = TestSchool.PRODUCTS;
    private final Map<String, JsonNode> shown = new ConcurrentHashMap<>();
    private final Map<Asked, Runnable> meanwhile = new ConcurrentHashMap<>();
    private final Set<String> failing = ConcurrentHashMap.newKeySet();

    public StubClassroom() {
        try {
            server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 50);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        server.setExecutor(Executors.newVirtualThreadPerTaskExecutor());
        server.createContext("/classroom/api/enrolments/", this::enrolment);
        server.createContext("/classroom/catalogue", exchange -> say(exchange, 200, TestSchool.COURSES));
        server.createContext("/classroom/api/enrolments", this::listing);
        server.createContext("/contacts/catalogue", exchange -> say(exchange, 200, CONTACTS));
        server.createContext("/contacts/api/contacts", this::note);
        server.createContext("/listener", this::note);
        server.createContext("/shop/catalogue", exchange -> say(exchange, 200, products));
        server.createContext(
                "/shop/methods",
                exchange -> say(exchange, 200, "{\"methods\": [{\"id\": \"m-1\", \"label\": \"card ending 4242\"}]}"));
        server.createContext("/shop/charges", this::charge);
        server.createContext("/classroom/api/doors", this::showing);
        server.createContext("/shop/after", this::showing);
        server.start();
    }

    /** The shop's catalogue. */
    public String products() {
        return products;
    }

    public void sell(String catalogue) {
        products = catalogue;
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

    public boolean has(String learner, String course) {
        return inside.getOrDefault(learner, Set.of()).contains(course);
    }

    /** By hand, behind Yoru's back. */
    public void letIn(String learner, String course) {
        inside.computeIfAbsent(learner, it -> ConcurrentHashMap.newKeySet()).add(course);
    }

    public void forget(String learner) {
        inside.remove(learner);
    }

    public List<Call> calls(String path) {
        return calls.stream().filter(call -> call.path.equals(path)).toList();
    }

    public void failOnce(String path) {
        failing.add(path);
    }

    /** What it shows at a place, as it was told. */
    public Optional<JsonNode> shows(String place) {
        return Optional.ofNullable(shown.get(place));
    }

    /** By hand, behind Yoru's back. */
    public void show(String place, String says) {
        shown.put(place, JSON.readTree(says));
    }

    /** The next time that it is asked, this happens between its looking and its answer. */
    public void meanwhile(Asked what, Runnable happens) {
        meanwhile.put(what, happens);
    }

    private void sayAfterAll(HttpExchange exchange, Asked what, String answer) throws IOException {
        Optional.ofNullable(meanwhile.remove(what)).ifPresent(Runnable::run);
        say(exchange, 200, answer);
    }

    private void showing(HttpExchange exchange) throws IOException {
        boolean isShop = exchange.getRequestURI().getPath().startsWith("/shop");
        var query = exchange.getRequestURI().getQuery();
        if (query == null) {
            var rows = shown.entrySet().stream()
                    .filter(entry -> isShop == entry.getKey().matches("(product|option)/.*"))
                    .map(entry -> "{\"of\": \"%s\", \"says\": %s}".formatted(entry.getKey(), entry.getValue()))
                    .toList();
            sayAfterAll(exchange, Asked.WHAT_IT_SHOWS, "{\"shown\": [" + String.join(",", rows) + "]}");
            return;
        }
        var place = query.substring("of=".length());
        if (exchange.getRequestMethod().equals("DELETE")) {
            shown.remove(place);
        } else {
            shown.put(place, JSON.readTree(exchange.getRequestBody().readAllBytes()));
        }
        say(exchange, 200, "{}");
    }

    private void listing(HttpExchange exchange) throws IOException {
        var rows = new ArrayList<String>();
        inside.forEach((learner, courses) ->
                courses.forEach(course -> rows.add("{\"learner\": \"%s\", \"course\": \"%s\", \"state\": \"open\"%s}"
                        .formatted(learner, course, untilOf(learner, course)))));
        sayAfterAll(exchange, Asked.WHO_HAS_WHAT, "{\"enrolments\": [" + String.join(",", rows) + "]}");
    }

    private String untilOf(String learner, String course) {
        return about(learner).reversed().stream()
                .filter(one -> one.course.equals(course) && one.wanted.hasNonNull("until"))
                .findFirst()
                .map(one -> ", \"until\": \"" + one.wanted.path("until").asString() + "\"")
                .orElse("");
    }

    /** It behaves as the buyer is told to. */
    private void charge(HttpExchange exchange) throws IOException {
        var body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
        var key = exchange.getRequestHeaders().get("Idempotency-Key");
        calls.add(new Call("/shop/charges", body, Map.of("idempotency-key", key)));
        var buyer = JsonMapper.shared().readTree(body).path("email").asString();
        manners.getOrDefault("charging " + buyer, (on, id) -> say(on, 200, "{\"id\": \"%s\"}".formatted(id)))
                .answer(exchange, "charge of " + key.getFirst());
    }

    private void note(HttpExchange exchange) throws IOException {
        var body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
        Map<String, List<String>> headers = new HashMap<>();
        exchange.getRequestHeaders().forEach((name, values) -> headers.put(name.toLowerCase(Locale.ROOT), values));
        var path = exchange.getRequestURI().getRawPath();
        calls.add(new Call(path, body, headers));
        if (failing.remove(path)) {
            say(exchange, 500, "{}");
        } else {
            say(exchange, 200, body.isEmpty() ? "{}" : body);
        }
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
        var manner = manners.getOrDefault(learner, OBEDIENT);
        if (manner == OBEDIENT) {
            if (one.state().equals("open")) {
                letIn(learner, one.course());
            } else {
                inside.getOrDefault(learner, Set.of()).remove(one.course());
            }
        }
        manner.answer(exchange, one.state());
    }
}
