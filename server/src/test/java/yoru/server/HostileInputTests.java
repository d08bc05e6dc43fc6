package yoru.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import tools.jackson.databind.JsonNode;

/**
 * Every operation that the description of the API lists, for every role, with what nobody can have meant: it is refused as
 * a problem (RFC 9457), never an error of the server's, and whoever may change nothing has changed nothing.
 */
@ServerTest
class HostileInputTests {

    private static final String FROM = "127.0.0.9";
    private static final String PASSWORD = "smoke under seven lids";

    /** Ends the session that the others are asked in. */
    private static final Set<String> LEFT_OUT = Set.of("DELETE /api/session", "DELETE /api/session/second-factor");

    /** As JSON, for any property. */
    private static final List<String> VALUES = List.of(
            "null",
            "true",
            "-1",
            "99999999999999999999999999",
            "1e400",
            "\"\"",
            "\"\\u0000\"",
            "\"\\ud800\"",
            "\"\\u202egnirts\"",
            "\"a\\r\\nb: c\"",
            "\"../../etc/passwd\"",
            "\"'; drop table person; --\"",
            "\"" + "x".repeat(20_000) + "\"",
            "[]",
            "[null]",
            "{}",
            "{\"kind\": \"NO_SUCH\"}");

    private static final List<String> BODIES = List.of(
            "",
            "null",
            "[]",
            "\"text\"",
            "{",
            "\u0000",
            "\ufeff{}",
            "[".repeat(20_000),
            "{\"a\":".repeat(2_000) + "1" + "}".repeat(2_000),
            "{\"a\": 1, \"a\": 2}",
            "{\"__proto__\": {\"a\": 1}}");

    private static final List<String> PARAMETERS =
            List.of("", "-1", "99999999999999999999", "\0", "\u202e", "a".repeat(2_000), "'\"<>{}[]%");

    @Autowired
    private TestSchool school;

    @Autowired
    private JdbcClient jdbc;

    private final List<String> broken = new ArrayList<>();

    @BeforeEach
    @AfterEach
    void forgetFailures() {
        jdbc.sql("delete from failed_sign_in").update();
        jdbc.sql("delete from claim_failure").update();
    }

    private record Operation(String method, String path, JsonNode described) {

        @Override
        public String toString() {
            return method + " " + path;
        }

        List<String> properties(JsonNode schemas) {
            var names = new ArrayList<String>();
            for (JsonNode type : described.path("requestBody").path("content").values()) {
                var name = type.path("schema").path("$ref").asString("").replace("#/components/schemas/", "");
                schemas.path(name).path("properties").propertyNames().forEach(names::add);
            }
            return names;
        }

        String contentType() {
            var types = described.path("requestBody").path("content").propertyNames();
            return types.isEmpty() ? "application/json" : types.iterator().next();
        }

        /** With something in each place of the path. */
        String with(String value) {
            return path.replaceAll("\\{[^}]+}", value);
        }

        List<String> parameters() {
            return described
                    .path("parameters")
                    .valueStream()
                    .filter(it -> it.path("in").asString().equals("query"))
                    .map(it -> it.path("name").asString())
                    .toList();
        }
    }

    private List<Operation> operations(JsonNode api) {
        var all = new ArrayList<Operation>();
        api.path("paths")
                .forEachEntry((path, methods) -> methods.forEachEntry((method, described) -> {
                    var operation = new Operation(method.toUpperCase(java.util.Locale.ROOT), path, described);
                    if (!LEFT_OUT.contains(operation.toString())) {
                        all.add(operation);
                    }
                }));
        return all;
    }

    private Operator as(String role) {
        if (role.equals("NOBODY")) {
            return Operator.at(FROM, school);
        }
        var email = "team-" + UUID.randomUUID() + "@hollowoak.example";
        Operator.signedIn(school).invites(email, PASSWORD, role);
        var operator = Operator.at(FROM, school);
        assertThat(operator.signIn(email, PASSWORD).statusCode()).isEqualTo(200);
        return operator;
    }

    private void check(Operation operation, String what, HttpResponse<String> answer) {
        boolean isProblem = answer.headers()
                .firstValue("content-type")
                .filter(type -> type.startsWith("application/problem+json") || type.startsWith("text/html"))
                .isPresent();
        if (answer.statusCode() >= 500 || (answer.statusCode() >= 400 && !isProblem)) {
            var shown = what.length() > 80 ? what.substring(0, 80) + "…" : what;
            broken.add("%s with %s: %d %s".formatted(operation, shown, answer.statusCode(), answer.body()));
        }
    }

    private List<String> bodies(Operation operation, JsonNode schemas) {
        var bodies = new ArrayList<>(BODIES);
        var properties = operation.properties(schemas);
        for (String value : VALUES) {
            Map<String, String> all = new LinkedHashMap<>();
            properties.forEach(name -> all.put("\"" + name + "\"", value));
            bodies.add(all.entrySet().stream()
                    .map(it -> it.getKey() + ":" + it.getValue())
                    .collect(java.util.stream.Collectors.joining(",", "{", "}")));
        }
        return bodies;
    }

    /** Of what there is to send every operation gets a third, the next one the next third; in the long run all. */
    private static <T> List<T> some(List<T> all, int at) {
        return IntStream.range(0, all.size())
                .filter(n -> LongRun.IS || n % 3 == at % 3)
                .mapToObj(all::get)
                .toList();
    }

    @Test
    void whatAnOwnerSendsIsRefusedOrUnderstood() {
        var api = Operator.signedIn(school).read("/v3/api-docs");
        var schemas = api.path("components").path("schemas");
        var owner = as("OWNER");
        var operations = operations(api);
        for (int at = 0; at < operations.size(); at++) {
            var operation = operations.get(at);
            for (String parameter : operation.parameters()) {
                for (String value : some(PARAMETERS, at)) {
                    var path = operation.with("1") + "?" + parameter + "="
                            + URLEncoder.encode(value, StandardCharsets.UTF_8);
                    check(
                            operation,
                            parameter + "=" + value,
                            owner.ask(operation.method, path, "application/json", "{}"));
                }
            }
            for (String place : List.of("1", "%E2%80%AE", "-1", "99999999999999999999", "a".repeat(300))) {
                check(
                        operation,
                        place,
                        owner.ask(operation.method, operation.with(place), operation.contentType(), "{}"));
            }
            if (operation.described.has("requestBody")) {
                some(bodies(operation, schemas), at)
                        .forEach(body -> check(
                                operation,
                                body,
                                owner.ask(operation.method, operation.with("1"), operation.contentType(), body)));
            }
        }
        assertThat(broken).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(strings = {"OPERATOR", "SUPPORT", "READER", "NOBODY"})
    void whatOthersSendIsRefusedOrUnderstood(String role) {
        var api = Operator.signedIn(school).read("/v3/api-docs");
        var asker = as(role);
        var before = kept();
        for (Operation operation : operations(api)) {
            for (String body : List.of("", "{}", "[".repeat(500), "{\"a\":\"\\u0000\"}")) {
                check(operation, body, asker.ask(operation.method, operation.with("1"), operation.contentType(), body));
            }
        }
        assertThat(broken).isEmpty();
        if (role.equals("READER") || role.equals("NOBODY")) {
            assertThat(kept()).as("they may change nothing").isEqualTo(before);
        }
    }

    /** How many rows there are of what people make. */
    private Map<String, Long> kept() {
        Map<String, Long> counts = new LinkedHashMap<>();
        Stream.of(
                        "fact",
                        "person",
                        "rulebook_version",
                        "connection",
                        "operator",
                        "calendar_feed",
                        "person_note",
                        "segment")
                .forEach(table -> counts.put(
                        table,
                        jdbc.sql("select count(*) from " + table)
                                .query(Long.class)
                                .single()));
        return counts;
    }
}
