package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.json;

import java.net.http.HttpResponse;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import tools.jackson.databind.JsonNode;

/** Erasing somebody who has left traces wherever Yoru keeps any; looked for in every column of the database. */
@ServerTest
class ErasureTests {

    private static final Instant NOW = Instant.now().truncatedTo(ChronoUnit.SECONDS);

    @Autowired
    private TestSchool school;

    @Autowired
    private JdbcClient jdbc;

    private Operator operator;

    private final String mark = "x" + UUID.randomUUID().toString().substring(0, 8);
    private final String ada = "ada." + mark + "@post.example";
    private final String alias = "a." + mark + "@work.example";
    private final String name = "Ada Lind" + mark;

    @BeforeEach
    void signIn() {
        operator = Operator.signedIn(school);
    }

    private HttpResponse<String> act(String act) {
        return act(UUID.randomUUID().toString(), act);
    }

    private HttpResponse<String> act(String key, String act) {
        return operator.post("/api/desk/acts", "{\"key\": \"%s\", \"act\": %s}".formatted(key, act));
    }

    private void did(String act) {
        var answer = act(act);
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
    }

    private void said(String event) {
        assertThat(school.report(event).statusCode()).isBetween(200, 202);
    }

    private long id(String key) {
        return jdbc.sql("select id from person where person_key = ?")
                .param(key)
                .query(Long.class)
                .single();
    }

    private JsonNode page(long id) {
        return operator.read("/api/people/" + id);
    }

    private List<String> open(String key) {
        return jdbc.sql(
                        "select target from standing s join person p on p.id = s.person_id where p.person_key = ? order by 1")
                .param(key)
                .query(String.class)
                .list();
    }

    private static String line(String order, String person, String called, Instant time, String line) {
        return TestSchool.event("placed", person, time, """
                {"order": "%s", "channel": "shop", "currency": "EUR", "name": "%s", "guest": false, "verifiedEmail": "%s",
                 "lines": [{"line": "1", "quantity": 1, "amount": "90.00", %s}]}""".formatted(order, called, person, line));
    }

    /** Where in the database a word stands. */
    private Map<String, Long> places(String word) {
        Map<String, Long> places = new TreeMap<>();
        jdbc.sql(
                        "select table_name, column_name from information_schema.columns c join information_schema.tables t using (table_schema, table_name) "
                                + "where table_schema = current_schema() and table_type = 'BASE TABLE' and data_type <> 'bytea'")
                .query((row, at) -> List.of(row.getString(1), row.getString(2)))
                .list()
                .forEach(column -> {
                    var found = jdbc.sql("select count(*) from %s where position(? in lower(cast(%s as text))) > 0"
                                    .formatted(column.getFirst(), column.getLast()))
                            .param(word)
                            .query(Long.class)
                            .single();
                    if (found > 0) {
                        places.put(column.getFirst() + "." + column.getLast(), found);
                    }
                });
        return places;
    }

    @Test
    void whoIsErasedIsClosedEverywhereFirstAndThenNowhereAnyMore() {
        var ben = TestSchool.someone();
        var order = TestSchool.orderId();
        var gift = TestSchool.orderId();
        var toAda = TestSchool.orderId();
        var placed = line(order, ada, name, NOW.minus(9, ChronoUnit.DAYS), "\"product\": \"FIRST\"");
        said(placed);
        said(TestSchool.about("paid", order, ada, NOW.minus(9, ChronoUnit.DAYS)));
        said(line(
                gift, ada, name, NOW.minus(8, ChronoUnit.DAYS), "\"product\": \"HONEY\", \"giftTo\": \"" + ben + "\""));
        said(TestSchool.about("paid", gift, ada, NOW.minus(8, ChronoUnit.DAYS)));
        did("{\"kind\": \"CLAIM\", \"order\": \"%s\", \"line\": \"1\", \"number\": 1, \"person\": \"%s\"}"
                .formatted(gift, ben));
        said(line(toAda, ben, "Ben", NOW, "\"product\": \"HONEY\", \"giftTo\": \"" + ada.toUpperCase() + "\""));
        said(TestSchool.about("paid", toAda, ben, NOW));
        did(
                "{\"kind\": \"GIVE\", \"person\": \"%s\", \"name\": \"%s\", \"to\": [\"course/honey\"], \"reason\": \"%s asked\"}"
                        .formatted(ada, name, name));
        did("{\"kind\": \"GIVE\", \"person\": \"%s\", \"to\": [\"course/honey\"], \"reason\": \"%s\"}"
                .formatted(alias, name));
        did("{\"kind\": \"JOIN\", \"person\": \"%s\", \"thing\": \"%s\"}".formatted(alias, ada));
        long id = id(ada);
        assertThat(operator.post("/api/people/" + id + "/notes", "{\"text\": \"%s rang\"}".formatted(name))
                        .statusCode())
                .isEqualTo(204);
        assertThat(operator.postCsv(
                                "/api/imports?name=past.csv&kind=ENROLMENTS",
                                "email,name,course,start\n%s,%s,honey,2026-01-01\n".formatted(ada, name))
                        .statusCode())
                .isEqualTo(201);
        assertThat(operator.post("/api/quotes", """
                        {"key": "%s", "act": {"kind": "SELL", "person": "%s", "name": "%s", "payment": {"kind": "LATER_OPEN_NOW"},
                         "items": [{"product": "FIRST", "quantity": 1, "price": 90.00}]}}""".formatted(UUID.randomUUID(), ada, name))
                        .statusCode())
                .isEqualTo(201);
        tracesElsewhere();
        tracesAtOthers(ben);
        await().atMost(20, SECONDS)
                .until(() -> open(ada).containsAll(List.of("course/first-hive", "course/honey"))
                        && school.classroom.has(ada, "first-hive"));
        assertThat(places(mark))
                .containsKeys("fact.body", "person.person_key", "journal_entry.said", "import_row.cells")
                .containsKeys("delivery.content", "person_note.text", "calendar_feed.name");

        school.classroom.behave(ada, (exchange, state) -> StubClassroom.say(exchange, 503, "{}"));
        var erase = "{\"kind\": \"ERASE\", \"person\": \"%s\"}".formatted(ada);
        assertThat(operator.post("/api/desk/consequence", erase).body()).contains("course/first-hive", "LOSES");
        assertThat(act("{\"kind\": \"ERASE\", \"person\": \"%s\"}".formatted(alias))
                        .statusCode())
                .as("only together with whom they are joined")
                .isEqualTo(422);
        var key = UUID.randomUUID().toString();
        assertThat(act(key, erase).statusCode()).isEqualTo(200);
        assertThat(json(act(key, erase)).path("again").asBoolean()).isTrue();
        await().atMost(20, SECONDS)
                .until(() -> page(id).path("erasureWaitsFor").toString().equals("[\"Classroom\"]"));
        assertThat(page(id).path("erasure").asString()).isEqualTo("CLOSING");
        assertThat(school.report(TestSchool.placed(TestSchool.orderId(), ada, NOW, "HONEY", "90.00"))
                        .statusCode())
                .as("to be sent again later")
                .isEqualTo(503);

        school.classroom.behave(ada, StubClassroom.OBEDIENT);
        jdbc.sql("select id from delivery where person_id = ? and status <> 'ANSWERED'")
                .param(id)
                .query(Long.class)
                .list()
                .forEach(delivery -> operator.post("/api/deliveries/" + delivery + "/again", ""));
        await().atMost(60, SECONDS)
                .until(() -> page(id).path("erasure").asString().equals("DONE"));
        assertThat(school.classroom.has(ada, "first-hive")).isFalse();
        assertThat(places(mark)).isEmpty();
        assertThat(operator.read("/api/people?q=" + mark).path("total").asInt()).isZero();
        assertThat(page(id).path("name").asString()).isEqualTo("Erased person");
        assertThat(operator.read("/api/orders/" + order).toString()).contains("90.00", "Erased person");
        assertThat(open(ben)).as("what was given to somebody else stays").contains("course/honey");

        // the shop still knows them, and tells of the order
        said(TestSchool.about("refunded", order, ada, NOW));
        said(placed.replace("\"id\": \"", "\"id\": \"again-"));
        said(placed);
        assertThat(jdbc.sql("select count(*) from fact where type = 'yoru.order.refunded' and thing = ?")
                        .param("order " + order)
                        .query(Long.class)
                        .single())
                .isEqualTo(1);
        assertThat(places(ada)).isEmpty();

        // who buys again is somebody new
        school.buys(ada, "HONEY", NOW);
        await().atMost(20, SECONDS).until(() -> open(ada).equals(List.of("course/honey")));
        assertThat(id(ada)).isNotEqualTo(id);
    }

    /** What only comes about where a system's own reports are matched, a policy holds, a check finds, or a run goes on. */
    private void tracesElsewhere() {
        List.of("""
                        insert into received (connection_id, report_id, at, body, outcome, said)
                        values ('shop', :mark, now(), '{"who": "' || :key || '"}', 'SET_ASIDE', '')""", """
                        insert into held_report (connection_id, source, event_id, about, why, subject, name, happened_at, received_at, body, state)
                        values ('shop', 's', :mark, 'order ' || :mark, 'GUEST', :key, 'Ada', now(), now(), '{}', 'LEFT_OUT')""", """
                        insert into out_of_step (connection_id, person_key, target, kind, noticed_at, check_id)
                        values ('classroom', :key, 'course/honey', 'EXTRA', now(), 0)""", """
                        insert into tag_run (id, title, tag, put_on, state, total, done, started_at, started_by)
                        values ('run of erasure', '', 'x', true, 'STOPPED', 1, 0, now(), 'Owner') on conflict do nothing""", "insert into tag_run_person (run_id, person_key) values ('run of erasure', :key)")
                .forEach(sql ->
                        jdbc.sql(sql).param("key", ada).param("mark", mark).update());
    }

    /** What somebody else was written and told the desk, and what a calendar is called. */
    private void tracesAtOthers(String other) {
        var words = "from " + name + " <" + ada + ">";
        assertThat(operator.post("/api/people/" + id(other) + "/notes", "{\"text\": \"a gift %s\"}".formatted(words))
                        .statusCode())
                .isEqualTo(204);
        assertThat(operator.post("/api/feeds", "{\"name\": \"as %s wants it\"}".formatted(name))
                        .statusCode())
                .isEqualTo(201);
        jdbc.sql("""
                        insert into delivery (connection_id, person_id, matter, open, revision, status, attempts, wanted_at, content)
                        values ('shop', :other, 'letter/erasure', true, 1, 'ANSWERED', 1, now(),
                          jsonb_build_object('subject', 'A gift', 'text', 'A gift ' || :words, 'html', ''))""").param("other", id(other)).param("words", words).update();
    }
}
