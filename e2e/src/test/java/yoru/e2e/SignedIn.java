package yoru.e2e;

import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import tools.jackson.databind.json.JsonMapper;

/** The demo's operator without a browser. */
final class SignedIn {

    private static final String JSON = "application/json";

    private final CookieManager cookies;
    private final HttpClient http;
    private final String server;

    private SignedIn(String server, CookieManager cookies, HttpClient.Builder http) {
        this.server = server;
        this.cookies = cookies;
        this.http = http.cookieHandler(cookies).build();
    }

    /** The same session at another server. */
    SignedIn at(String other) {
        return new SignedIn(other, cookies, HttpClient.newBuilder());
    }

    static SignedIn to(School school) throws IOException, InterruptedException {
        return at(school.server(), HttpClient.newBuilder());
    }

    static SignedIn at(String server, HttpClient.Builder http) throws IOException, InterruptedException {
        var operator = new SignedIn(server, new CookieManager(), http);
        operator.get("/api/session");
        operator.post(
                "/api/session", "{\"email\": \"%s\", \"password\": \"%s\"}".formatted(School.EMAIL, School.PASSWORD));
        return operator;
    }

    /** Drops what another test has changed in the mapping and not published. */
    void withoutADraft() throws IOException, InterruptedException {
        var revision = JsonMapper.shared()
                .readTree(get("/api/mapping/draft"))
                .path("revision")
                .asInt();
        put("/api/mapping/draft", "{\"revision\": %d, \"places\": [], \"many\": 0}".formatted(revision));
    }

    String get(String path) throws IOException, InterruptedException {
        return send(HttpRequest.newBuilder(URI.create(server + path)).build());
    }

    /** How it was answered. */
    HttpResponse<String> answer(String path) throws IOException, InterruptedException {
        return http.send(HttpRequest.newBuilder(URI.create(server + path)).build(), BodyHandlers.ofString());
    }

    String post(String path, String body) throws IOException, InterruptedException {
        return post(path, JSON, body);
    }

    String post(String path, String type, String body) throws IOException, InterruptedException {
        return send("POST", path, type, body);
    }

    String put(String path, String body) throws IOException, InterruptedException {
        return send("PUT", path, JSON, body);
    }

    void delete(String path) throws IOException, InterruptedException {
        send("DELETE", path, JSON, "");
    }

    private String send(String method, String path, String type, String body) throws IOException, InterruptedException {
        var token = cookies.getCookieStore().getCookies().stream()
                .filter(cookie -> cookie.getName().endsWith("XSRF-TOKEN"))
                .map(HttpCookie::getValue)
                .findFirst()
                .orElse("");
        return send(HttpRequest.newBuilder(URI.create(server + path))
                .header("content-type", type)
                .header("X-XSRF-TOKEN", token)
                .method(method, HttpRequest.BodyPublishers.ofString(body))
                .build());
    }

    private String send(HttpRequest request) throws IOException, InterruptedException {
        var answer = http.send(request, BodyHandlers.ofString());
        if (answer.statusCode() >= 400) {
            throw new IllegalStateException(request.uri() + " " + answer.body());
        }
        return answer.body();
    }
}
