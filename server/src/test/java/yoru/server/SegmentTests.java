package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.json;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.UUID;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.context.TestPropertySource;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Terms;
import yoru.formats.ThingChange;
import yoru.server.mapping.Mapping;
import yoru.server.mapping.Wanted;
import yoru.server.rulebooks.Rulebooks;

/** Segments over HTTP, against plain SQL over the same facts and windows; a tag that opens something needs a school of its own. */
@ServerTest
@TestPropertySource(properties = SegmentTests.OWN_SCHOOL)
class SegmentTests {

    static final String OWN_SCHOOL = "yoru.school-name=Exchange School";

    private static final Instant NOW = Instant.now().truncatedTo(ChronoUnit.SECONDS);

    @Autowired
    private TestSchool school;

    @Autowired
    private Mapping mapping;

    @Autowired
    private Rulebooks rulebooks;

    @Autowired
    private JdbcClient jdbc;

    private Operator operator;

    /** In the addresses of those whom a test is about. */
    private final String mark = "seg-" + UUID.randomUUID().toString().substring(0, 8);

    @BeforeEach
    void signIn() {
        operator = Operator.signedIn(school);
    }

    private String marked(String... conditions) {
        var all = new ArrayList<>(List.of(conditions));
        all.add("{\"kind\": \"CALLED\", \"not\": false, \"words\": \"%s\"}".formatted(mark));
        return "{\"any\": false, \"conditions\": [" + String.join(",", all) + "]}";
    }

    private static String condition(String kind, boolean not, String more) {
        return "{\"kind\": \"%s\", \"not\": %s, %s}".formatted(kind, not, more);
    }

    private List<String> found(String segment) {
        var answer = operator.post("/api/segments/look", segment);
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
        return json(answer).path("people").findValuesAsString("key");
    }

    private List<String> inSql(String where) {
        return jdbc.sql("select p.person_key from person p where p.person_key like ? and " + where + " order by 1")
                .param(mark + "%")
                .query(String.class)
                .list();
    }

    private static String bought(String product) {
        return """
                exists (select 1 from fact o, jsonb_array_elements(o.body->'data'->'lines') l
                  where o.type = 'yoru.order.placed' and o.subject = p.person_key and l->>'product' = '%s'
                    and exists (select 1 from fact f where f.type = 'yoru.order.paid' and f.thing = o.thing)
                    and not exists (select 1 from fact f where f.type = 'yoru.order.refunded' and f.thing = o.thing))""".formatted(product);
    }

    private void somePast() {
        var random = new Random(24);
        for (int person = 0; person < 24; person++) {
            var key = "%s-%02d@post.example".formatted(mark, person);
            for (int order = random.nextInt(4); order >= 0; order--) {
                var product = List.of("FIRST", "HONEY", "POLLEN").get(random.nextInt(3));
                var at = NOW.minus(1 + random.nextInt(700), ChronoUnit.DAYS);
                var id = school.buys(key, product, at);
                if (random.nextInt(4) == 0) {
                    school.report(TestSchool.about("refunded", id, key, at.plusSeconds(86_000)));
                }
            }
        }
        // whatever the dice say, somebody's year is nearly over
        school.buys(mark + "-soon@post.example", "FIRST", NOW.minus(300, ChronoUnit.DAYS));
        await().atMost(30, SECONDS)
                .until(() -> jdbc.sql("select count(*) from scheduled_tasks where task_name = 'after-facts'")
                                .query(Long.class)
                                .single()
                        == 0);
    }

    @Test
    void whoIsInASegmentIsWhoSqlSays() {
        somePast();
        var first = "\"target\": \"course/first-hive\"";
        var now =
                "p.id in (select person_id from opening where target = 'course/first-hive' and opens_at <= now() and (ends_at is null or ends_at > now()))";
        var ever = "p.id in (select person_id from opening where target = 'course/first-hive' and opens_at <= now())";
        var soon = "p.id in (select person_id from opening where target = 'course/first-hive' and opens_at <= now()"
                + " and ends_at > now() and ends_at <= now() + interval '183 days')";
        assertThat(found(marked(condition("HAS", false, first))))
                .isEqualTo(inSql(now))
                .isNotEmpty();
        assertThat(found(marked(condition("HAS", true, first))))
                .isEqualTo(inSql("not " + now))
                .isNotEmpty();
        assertThat(found(marked(condition("HAD", false, first))))
                .isEqualTo(inSql(ever + " and not " + now))
                .isNotEmpty();
        assertThat(found(marked(condition("WILL_LOSE", false, first + ", \"within\": \"P183D\""))))
                .isEqualTo(inSql(soon))
                .isNotEmpty();
        assertThat(found(marked(
                        condition("BOUGHT", false, "\"products\": [\"FIRST\"], \"counts\": \"PAID_AND_KEPT\""),
                        condition("BOUGHT", true, "\"products\": [\"HONEY\"], \"counts\": \"PAID_AND_KEPT\""))))
                .isEqualTo(inSql(bought("FIRST") + " and not " + bought("HONEY")))
                .isNotEmpty();
        var made = operator.post(
                "/api/segments",
                "{\"name\": \"%s\", \"segment\": %s}".formatted(mark, marked(condition("HAS", false, first))));
        assertThat(made.statusCode()).isEqualTo(201);
        var csv = operator.get("/api/segments/" + json(made).path("id").asString() + "/people.csv")
                .body();
        assertThat(csv.lines().skip(1).map(line -> line.split(",")[0])).isEqualTo(inSql(now));
        assertThat(operator.post("/api/segments", "{\"name\": \" %s \", \"segment\": %s}".formatted(mark, marked()))
                        .statusCode())
                .as("the same name again")
                .isEqualTo(409);
    }

    /** Two at once with the same key, and again later: everybody has the tag once, and what it opens. */
    @Test
    void aTagIsPutOnAllOfThemOnceAndTakenOffAgain() {
        mapping.publish(
                rulebooks.current().number(),
                new Wanted(
                        null,
                        List.of(new ThingChange(
                                "tag/friend", JsonMapper.shared().readTree("{\"title\": \"Friend\"}"))),
                        List.of(new CellChange(new Source.OfTag("friend"), Destination.whole("honey"), Terms.DEFAULT))),
                "",
                "Owner");
        for (int person = 0; person < 60; person++) {
            school.buys(mark + "-" + person + "@post.example", "FIRST", NOW);
        }
        var key = UUID.randomUUID().toString();
        var put = tagAll(key, "friend", true);
        var twice = List.of(
                CompletableFuture.supplyAsync(
                        () -> operator.post("/api/segments/tag", put).statusCode()),
                CompletableFuture.supplyAsync(() ->
                        Operator.signedIn(school).post("/api/segments/tag", put).statusCode()));
        assertThat(twice).allSatisfy(answer -> assertThat(answer.join()).isEqualTo(200));
        await().atMost(30, SECONDS).until(() -> state(key).equals("DONE"));
        assertThat(operator.post("/api/segments/tag", put).statusCode()).isEqualTo(200);
        assertThat(tagFacts("added")).isEqualTo(60);
        await().atMost(30, SECONDS).until(() -> holding() == 60);
        var off = UUID.randomUUID().toString();
        operator.post("/api/segments/tag", tagAll(off, "friend", false));
        await().atMost(30, SECONDS).until(() -> state(off).equals("DONE") && holding() == 0);
        assertThat(tagFacts("removed")).isEqualTo(60);
        assertThat(operator.post("/api/segments/tag", tagAll(UUID.randomUUID().toString(), "no-such-tag", true))
                        .statusCode())
                .isEqualTo(422);
    }

    private String tagAll(String key, String tag, boolean on) {
        return """
                {"key": "%s", "title": "those of the test", "segment": %s, "tag": "%s", "putOn": %s}""".formatted(key, marked(), tag, on);
    }

    private String state(String run) {
        return jdbc.sql("select state from tag_run where id = ?")
                .param(run)
                .query(String.class)
                .single();
    }

    private long tagFacts(String how) {
        return jdbc.sql("select count(*) from fact where type = ? and subject like ?")
                .params("yoru.tag." + how, mark + "%")
                .query(Long.class)
                .single();
    }

    private long holding() {
        return jdbc.sql("""
                        select count(*) from standing s join person p on p.id = s.person_id
                        where s.target = 'course/honey' and p.person_key like ?""").param(mark + "%").query(Long.class).single();
    }

    @Test
    void whatIsNoSegmentIsRefusedNamingThePlace() {
        var refused = operator.post("/api/segments/look", """
                {"any": true, "conditions": [
                  {"kind": "HAS", "not": false, "target": "course/first-hive"}, {"kind": "WILL_LOSE", "not": true, "target": "cake/1", "within": "soon"},
                  {"kind": "BOUGHT", "not": false}, {"kind": "FIRST_BOUGHT", "not": false, "products": ["FIRST"], "from": "2026-01-01"}]}""");
        assertThat(refused.statusCode()).isEqualTo(400);
        assertThat(json(refused).path("errors").findValuesAsString("field"))
                .containsExactly(
                        "conditions[1].target", "conditions[1].within", "conditions[2].products", "conditions[3].to");
        assertThat(operator.post("/api/segments/look", "{\"conditions\": [{\"kind\": \"SMELLS\"}]}")
                        .statusCode())
                .isEqualTo(400);
        assertThat(operator.get("/api/segments/999999/people.csv").statusCode()).isEqualTo(404);
    }
}
