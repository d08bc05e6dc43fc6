package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.io.ByteArrayInputStream;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;

/** What would bring a server down, or have it keep what nobody can have meant. */
@ServerTest
class GuardTests {

    @Autowired
    private TestSchool school;

    @Autowired
    private JdbcClient jdbc;

    private HttpResponse<String> send(String path, String type, HttpRequest.BodyPublisher body) {
        return TestSchool.send(HttpRequest.newBuilder(URI.create(school.address() + path))
                .header("content-type", type)
                .POST(body)
                .build());
    }

    /** ASVS 5.2.1: too much is refused before it is read, whoever sends it and whether or not they say how much it is. */
    @ParameterizedTest
    @CsvSource({
        "/api/session, application/json, 70000",
        "/api/owner, application/json, 70000",
        "/door, application/x-www-form-urlencoded, 70000",
        "/door, application/x-www-form-urlencoded, 3000000",
        "/hooks/shop, application/cloudevents+json, 300000",
    })
    void tooMuchIsRefused(String path, String type, int bytes) {
        var body = new byte[bytes];
        Arrays.fill(body, (byte) 'a');
        var said = send(path, type, BodyPublishers.ofByteArray(body));
        assertThat(said.statusCode()).isEqualTo(413);
        assertThat(said.headers().firstValue("content-type"))
                .hasValueSatisfying(it -> assertThat(it).startsWith("application/problem+json"));
        var unsaid = send(path, type, BodyPublishers.ofInputStream(() -> new ByteArrayInputStream(body)));
        assertThat(unsaid.statusCode())
                .as("in chunks; a request without the token or the signature is refused unread")
                .isIn(401, 403, 413, 429);
    }

    @Test
    void tooMuchInChunksIsRefusedToo() {
        var operator = Operator.signedIn(school);
        var large = "\"" + "x".repeat(1_100_000) + "\"";
        assertThat(operator.postInChunks("/api/desk/consequence", large).statusCode())
                .isEqualTo(413);
        assertThat(operator.post("/api/desk/consequence", large).statusCode()).isEqualTo(413);
    }

    /** A quantity that nobody can have meant is refused at every border, and what is below it is counted, not listed. */
    @Test
    void noOrderHasMoreOfOneThingThanASchoolSells() {
        var person = TestSchool.someone();
        var order = TestSchool.orderId();
        var placed = TestSchool.event("placed", person, Instant.now(), """
                {"order": "%s", "channel": "shop", "currency": "EUR", "name": "Many",
                 "lines": [{"line": "1", "product": "FIRST", "quantity": %s, "amount": "90.00"}]}""");
        var refused = school.report(placed.formatted(order, "2000000000"));
        assertThat(refused.statusCode()).isEqualTo(400);
        assertThat(refused.body()).contains("lines[0].quantity", "10000");
        assertThat(school.report(placed.formatted(order, "10000")).statusCode()).isEqualTo(200);
    }

    /** PostgreSQL keeps no NUL; whoever searches for one finds nothing. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "/api/people?q=%00",
                "/api/people?q=a%00b",
                "/api/orders?q=%00",
                "/api/untaken?q=%00",
                "/api/orders/%00",
                "/api/people/999999999999999999999",
                "/api/journal?q=%00",
                "/api/mapping?%00=%00",
            })
    void whatCannotBeKeptIsSearchedForInVain(String path) {
        assertThat(Operator.signedIn(school).get(path).statusCode()).isLessThan(500);
    }

    /** Nothing that nobody can see is part of what people are known by. */
    @Test
    void aKeyHasNoControlCharacters() {
        var plain = TestSchool.someone();
        school.buys(plain.replace("@", "\\r\\nX: y@").replace("X: y", ""), "FIRST", Instant.now());
        assertThat(jdbc.sql("select count(*) from person where person_key = ?")
                        .param(plain)
                        .query(Long.class)
                        .single())
                .isEqualTo(1);
    }

    /** Work that only ever fails stops, is seen on Today, and is tried again when somebody says so. */
    @Test
    void workThatOnlyEverFailsStopsAndCanBeTriedAgain() {
        var operator = Operator.signedIn(school);
        var id = "no-number-" + UUID.randomUUID();
        jdbc.sql("""
                        insert into scheduled_tasks (task_name, task_instance, execution_time, picked, consecutive_failures, version)
                        values ('fact-due', ?, now(), false, 14, 1)""").param(id).update();
        await().atMost(30, SECONDS).until(() -> stuck(operator, id).size() == 1);
        assertThat(stuck(operator, id).getFirst()).contains("\"stopped\":true", "\"failures\":15");
        assertThat(operator.post("/api/today/work/again", work(id)).statusCode())
                .isEqualTo(204);
        await().atMost(30, SECONDS)
                .until(() -> stuck(operator, id).stream().anyMatch(it -> it.contains("\"failures\":16")));
        assertThat(operator.post("/api/today/work/again", work("nothing")).statusCode())
                .isEqualTo(404);
        jdbc.sql("delete from scheduled_tasks where task_instance = ?")
                .param(id)
                .update();
    }

    private static String work(String id) {
        return "{\"task\": \"fact-due\", \"id\": \"%s\"}".formatted(id);
    }

    private static List<String> stuck(Operator operator, String id) {
        return operator.read("/api/today")
                .path("stuck")
                .valueStream()
                .filter(it -> it.path("id").asString().equals(id))
                .map(Object::toString)
                .toList();
    }

    /** ASVS 16.2.1 and 16.3.1: who signed in, exported or was refused, by their account. */
    @Test
    void whoDidItIsKnownByTheirAccount() {
        var owner = Operator.signedIn(school);
        var email = "team-" + UUID.randomUUID() + "@hollowoak.example";
        owner.invites(email, "smoke under seven lids", "READER");
        var reader = Operator.stranger(school.address());
        reader.signIn(email, "smoke under seven lids");
        assertThat(reader.get("/api/people.csv").statusCode()).isEqualTo(200);
        assertThat(reader.post("/api/mapping/consequence", "{\"changes\": []}").statusCode())
                .isEqualTo(403);
        assertThat(owner.read("/api/journal?q=" + email).toString())
                .contains("Signed in", "Added to the team", "Has another password");
        assertThat(jdbc.sql("select title from journal_entry where account_address = ? or actor = ?")
                        .params(email, email)
                        .query(String.class)
                        .list())
                .contains("Exported", "Refused by their role");
    }

    /** The metrics are on no port that others reach. */
    @Test
    void theMetricsAreNotOnThePortForEverybody() {
        for (var path : List.of("/actuator/prometheus", "/actuator/quiet", "/actuator/%70rometheus")) {
            var answer = TestSchool.send(HttpRequest.newBuilder(URI.create(school.address() + path))
                    .header("X-Forwarded-For", "127.0.0.1")
                    .build());
            assertThat(answer.statusCode()).as(path).isIn(400, 404);
            assertThat(answer.body()).doesNotContain("yoru_");
        }
    }
}
