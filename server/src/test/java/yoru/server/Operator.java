package yoru.server;

import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Somebody at a browser: keeps cookies and sends the token against forged requests back. */
final class Operator {

    private final CookieManager cookies = new CookieManager();
    private final HttpClient http =
            HttpClient.newBuilder().cookieHandler(cookies).build();
    private final String server;

    private Operator(String server) {
        this.server = server;
    }

    static Operator stranger(String server) {
        var operator = new Operator(server);
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
