package yoru.server;

import java.io.ByteArrayInputStream;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.InetAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Somebody at a browser: keeps cookies and sends the token against forged requests back. */
final class Operator {

    private final CookieManager cookies = new CookieManager();
    private final HttpClient http;
    private final String server;

    private Operator(String server, String at) {
        this.server = server;
        this.http = HttpClient.newBuilder()
                .cookieHandler(cookies)
                .localAddress(InetAddress.ofLiteral(at))
                .build();
    }

    static Operator stranger(String server) {
        var operator = new Operator(server, "127.0.0.1");
        operator.get("/api/session");
        return operator;
    }

    /** At a machine of their own, for whom limits are counted apart; any address of 127.0.0.0/8. */
    static Operator at(String address, TestSchool school) {
        var operator = new Operator(school.address(), address);
        operator.get("/api/session");
        return operator;
    }

    static Operator signedIn(TestSchool school) {
        var operator = stranger(school.address());
        var answer = operator.signIn(TestSchool.EMAIL, TestSchool.PASSWORD);
        if (answer.statusCode() != 200) {
            throw new IllegalStateException(answer.body());
        }
        return operator;
    }

    /**
     * Somebody else of the team, invited by this one, who has chosen a password.
     *
     * @return the id of their account
     */
    String invites(String email, String password, String role) {
        var answer = post("/api/team", """
                {"email": "%s", "name": "Somebody", "role": "%s"}""".formatted(email, role));
        var invited = JsonMapper.shared().readTree(answer.body());
        var link = invited.path("link").asString("");
        if (answer.statusCode() != 201 || !link.contains("/password#")) {
            throw new IllegalStateException(answer.body());
        }
        var chosen = stranger(server)
                .post("/api/session/new-password", """
                {"code": "%s", "password": "%s"}""".formatted(link.substring(link.indexOf('#') + 1), password));
        if (chosen.statusCode() != 204) {
            throw new IllegalStateException(chosen.body());
        }
        return invited.path("member").path("id").asString();
    }

    HttpResponse<String> signIn(String email, String password, String code) {
        return post("/api/session", """
                {"email": "%s", "password": "%s", "code": "%s"}""".formatted(email, password, code));
    }

    HttpResponse<String> signIn(String email, String password) {
        return post("/api/session", "{\"email\": \"%s\", \"password\": \"%s\"}".formatted(email, password));
    }

    HttpResponse<String> get(String path) {
        return send(HttpRequest.newBuilder(URI.create(server + path)).build());
    }

    JsonNode read(String path) {
        return JsonMapper.shared().readTree(get(path).body());
    }

    HttpResponse<String> post(String path, String body) {
        return send(request(path, body).header("X-XSRF-TOKEN", token()).build());
    }

    HttpResponse<String> put(String path, String body) {
        return send(request(path, body)
                .PUT(HttpRequest.BodyPublishers.ofString(body))
                .header("X-XSRF-TOKEN", token())
                .build());
    }

    HttpResponse<String> delete(String path) {
        return send(HttpRequest.newBuilder(URI.create(server + path))
                .DELETE()
                .header("X-XSRF-TOKEN", token())
                .build());
    }

    HttpResponse<String> handOver(String system, String name, String csv) {
        return post("/api/systems/" + system + "/files?name=" + name, csv, "text/csv");
    }

    HttpResponse<String> postFor(String path, String body, String accepted) {
        return send(request(path, body)
                .header("accept", accepted)
                .header("X-XSRF-TOKEN", token())
                .build());
    }

    HttpResponse<String> postCsv(String path, String rows) {
        return post(path, rows, "text/csv");
    }

    HttpResponse<String> postYaml(String path, String document) {
        return post(path, document, "application/yaml");
    }

    HttpResponse<String> post(String path, String body, String type) {
        return send(HttpRequest.newBuilder(URI.create(server + path))
                .header("content-type", type)
                .header("X-XSRF-TOKEN", token())
                .POST(HttpRequest.BodyPublishers.ofString(body))
                .build());
    }

    byte[] bytes(String path) {
        try {
            return http.send(HttpRequest.newBuilder(URI.create(server + path)).build(), BodyHandlers.ofByteArray())
                    .body();
        } catch (java.io.IOException e) {
            throw new java.io.UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        }
    }

    HttpResponse<String> postBytes(String path, byte[] body, String type) {
        return send(HttpRequest.newBuilder(URI.create(server + path))
                .header("content-type", type)
                .header("X-XSRF-TOKEN", token())
                .POST(HttpRequest.BodyPublishers.ofByteArray(body))
                .build());
    }

    HttpResponse<String> ask(String method, String path, String type, String body) {
        return send(HttpRequest.newBuilder(URI.create(server + path))
                .header("content-type", type)
                .header("X-XSRF-TOKEN", token())
                .method(
                        method,
                        method.equals("GET")
                                ? HttpRequest.BodyPublishers.noBody()
                                : HttpRequest.BodyPublishers.ofString(body))
                .build());
    }

    /** Without saying how much it is. */
    HttpResponse<String> postInChunks(String path, String body) {
        return send(request(path, body)
                .header("X-XSRF-TOKEN", token())
                .POST(HttpRequest.BodyPublishers.ofInputStream(
                        () -> new ByteArrayInputStream(body.getBytes(StandardCharsets.UTF_8))))
                .build());
    }

    HttpResponse<String> postWithoutToken(String path, String body) {
        return send(request(path, body).build());
    }

    String cookie(String name) {
        return cookies.getCookieStore().getCookies().stream()
                .filter(cookie -> cookie.getName().equals(name))
                .map(HttpCookie::getValue)
                .findFirst()
                .orElse("");
    }

    private String token() {
        return cookie("XSRF-TOKEN");
    }

    private HttpRequest.Builder request(String path, String body) {
        return HttpRequest.newBuilder(URI.create(server + path))
                .header("content-type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofString(body));
    }

    private HttpResponse<String> send(HttpRequest request) {
        try {
            return http.send(request, BodyHandlers.ofString());
        } catch (java.io.IOException e) {
            throw new java.io.UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        }
    }
}
