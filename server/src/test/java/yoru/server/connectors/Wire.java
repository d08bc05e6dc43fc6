package yoru.server.connectors;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;

/** Passes on what is said to a system, and remembers what asks it to change something. */
final class Wire implements AutoCloseable {

    private static final Set<String> ITS_OWN =
            Set.of("host", "connection", "content-length", "upgrade", "http2-settings", "expect");

    private final String to;
    private final HttpServer server;
    private final HttpClient client = HttpClient.newHttpClient();
    private final List<String> changes = new CopyOnWriteArrayList<>();

    Wire(String to) throws IOException {
        this.to = to;
        this.server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.createContext("/", this::pass);
        server.start();
    }

    String address() {
        return "http://127.0.0.1:" + server.getAddress().getPort();
    }

    /** The method, the address and the body of each. */
    List<String> changes() {
        return changes;
    }

    private void pass(HttpExchange exchange) throws IOException {
        var body = exchange.getRequestBody().readAllBytes();
        var path = exchange.getRequestURI().toString();
        if (!exchange.getRequestMethod().equals("GET")) {
            changes.add(exchange.getRequestMethod() + " " + address() + path + " "
                    + new String(body, StandardCharsets.UTF_8));
        }
        var request = HttpRequest.newBuilder(URI.create(to + path))
                .method(exchange.getRequestMethod(), HttpRequest.BodyPublishers.ofByteArray(body));
        exchange.getRequestHeaders().forEach((name, values) -> {
            if (!ITS_OWN.contains(name.toLowerCase(Locale.ROOT))) {
                values.forEach(value -> request.header(name, value));
            }
        });
        try (exchange) {
            var answer = client.send(request.build(), BodyHandlers.ofByteArray());
            answer.headers()
                    .firstValue("content-type")
                    .ifPresent(type -> exchange.getResponseHeaders().add("content-type", type));
            exchange.sendResponseHeaders(answer.statusCode(), answer.body().length == 0 ? -1 : answer.body().length);
            exchange.getResponseBody().write(answer.body());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    @Override
    public void close() {
        server.stop(0);
        client.close();
    }
}
