package yoru.cli;

import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.time.Duration;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A running Yoru, and as whom one speaks to it. */
final class Server {

    private static final Duration PATIENCE = Duration.ofMinutes(10);

    @Option(
            names = "--server",
            paramLabel = "ADDRESS",
            defaultValue = "${env:YORU_SERVER:-http://127.0.0.1:8410}",
            description = "where Yoru runs (default: $YORU_SERVER, or http://127.0.0.1:8410)")
    private URI address = URI.create("http://127.0.0.1:8410");

    @Option(
            names = "--email",
            paramLabel = "ADDRESS",
            defaultValue = "${env:YORU_EMAIL}",
            description = "who signs in (default: $YORU_EMAIL); the password is read from $YORU_PASSWORD")
    private @Nullable String email;

    private final CookieManager cookies = new CookieManager();
    private final HttpClient http =
            HttpClient.newBuilder().cookieHandler(cookies).build();

    /** Signs in; with the demo's own account where nobody is named and the server is a demo. */
    void signIn() {
        var session = json(get("/api/session"));
        var demo = session.path("demoSignIn");
        var name = Objects.requireNonNullElse(email, demo.path("email").asString(""));
        var password = email == null
                ? demo.path("password").asString("")
                : Objects.requireNonNullElse(System.getenv("YORU_PASSWORD"), "");
        if (name.isEmpty() || password.isEmpty()) {
            throw new UnusableException(
                    List.of("nobody to sign in as; name one with --email, and set YORU_PASSWORD to the password"));
        }
        post(
                "/api/session",
                "application/json",
                JsonMapper.shared()
                        .createObjectNode()
                        .put("email", name)
                        .put("password", password)
                        .toString());
    }

    String get(String path) {
        return send(HttpRequest.newBuilder(at(path)));
    }

    String post(String path, String type, String body) {
        var token = cookies.getCookieStore().getCookies().stream()
                .filter(cookie -> cookie.getName().endsWith("XSRF-TOKEN"))
                .map(HttpCookie::getValue)
                .findFirst()
                .orElse("");
        return send(HttpRequest.newBuilder(at(path))
                .header("content-type", type)
                .header("X-XSRF-TOKEN", token)
                .POST(BodyPublishers.ofString(body)));
    }

    static JsonNode json(String body) {
        try {
            return JsonMapper.shared().readTree(body);
        } catch (JacksonException e) {
            throw new UnusableException(List.of("the server's answer is no JSON; is it Yoru?"));
        }
    }

    private URI at(String path) {
        return address.resolve(path);
    }

    private String send(HttpRequest.Builder request) {
        try {
            var answer = http.send(request.timeout(PATIENCE).build(), BodyHandlers.ofString());
            if (answer.statusCode() >= 400) {
                throw new UnusableException(problem(answer));
            }
            return answer.body();
        } catch (IOException e) {
            throw new UnusableException(List.of("no answer from " + address + "; is Yoru running there?"));
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new UnusableException(List.of("interrupted"));
        }
    }

    /** A line for each fault, where the problem names them (RFC 9457). */
    private static List<String> problem(HttpResponse<String> answer) {
        var problem = answer.body().startsWith("{")
                ? json(answer.body())
                : JsonMapper.shared().createObjectNode();
        var errors = problem.path("errors");
        return errors.isEmpty()
                ? List.of(problem.path("title").asString("HTTP " + answer.statusCode()) + ": "
                        + problem.path("detail").asString(""))
                : errors.valueStream()
                        .map(error -> error.path("field").asString("") + ": "
                                + error.path("problem").asString(""))
                        .toList();
    }
}
