package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.json;
import static yoru.server.TestSchool.orderId;
import static yoru.server.TestSchool.someone;

import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import yoru.formats.RulebookDocument;

/** What the grid cannot say yet works as soon as it stands in the rulebook: every kind of fact, over webhooks. */
@ServerTest
@DirtiesContext // it publishes a rulebook of its own
class WholeEngineTests {

    private static final Instant NOW = Instant.now().truncatedTo(ChronoUnit.SECONDS);

    @Autowired
    private TestSchool school;

    @Autowired
    private JdbcClient jdbc;

    private Operator operator;

    @BeforeEach
    void theRulebookSaysMore() {
        operator = Operator.signedIn(school);
        if (jdbc.sql("select count(*) from rulebook_version where note = 'more'")
                        .query(Long.class)
                        .single()
                == 0) {
            publishMore();
        }
    }

    /** As an import would. */
    private void publishMore() {
        jdbc.sql("""
                        insert into rulebook_version
                        select number + 1, cast(? as jsonb), 'more', 'Owner', now(), '', 0, 0, 0
                        from rulebook_version order by number desc limit 1""")
                .param(RulebookDocument.write(RulebookDocument.read("""
                        yoru: rulebook/1
                        school: { zone: Europe/Dublin, currency: EUR }
                        courses:
                          - { id: first-hive, title: First Hive, premium: true, sections: [ { id: welcome } ] }
                          - { id: honey, title: Honey Harvest }
                        products:
                          - { id: CLUB, title: Club, billing: { kind: recurring, every: P1M, grace: P3D } }
                          - { id: FIRST, title: First Hive, quantity: seats }
                        tags: [ { id: member } ]
                        links:
                          - { id: L1, from: { product: CLUB }, to: [ { tag: member } ] }
                          - { id: L2, from: { tag: member }, to: [ { course: honey } ] }
                          - { id: L3, from: { product: FIRST }, to: [ { course: first-hive } ], terms: { starts: { at: 2020-01-01T00:00:00 }, length: P1Y, repeat: extend } }
                        """)).toString())
                .update();
    }

    private void report(String type, String person, Instant time, String data) {
        var body = TestSchool.event("x", person, time, data).replace("yoru.order.x", "yoru." + type);
        assertThat(school.report(body).statusCode()).as(body).isEqualTo(200);
    }

    private String subscribed(String person, Instant paidThrough) {
        var id = orderId();
        report("subscription.started", person, NOW.minus(Duration.ofDays(2)), """
                {"subscription": "%s", "product": "CLUB", "paidThrough": "%s"}""".formatted(id, paidThrough));
        return id;
    }

    @Test
    void aSubscriptionOpensByWayOfATagAndARefundClosesIt() {
        var person = someone();
        var paidThrough = NOW.plus(Duration.ofDays(20));
        var subscription = subscribed(person, paidThrough);
        await().atMost(60, SECONDS).until(() -> !school.classroom.about(person).isEmpty());
        var told = school.classroom.about(person).getLast();
        assertThat(told.course()).isEqualTo("honey");
        assertThat(Instant.parse(told.wanted().path("until").asString()))
                .isBetween(paidThrough.plus(Duration.ofHours(71)), paidThrough.plus(Duration.ofHours(73)));
        var shown = page(person).path("targets");
        assertThat(shown.findValuesAsString("target")).containsExactly("course/honey", "tag/member");
        assertThat(shown.get(0).findValuesAsString("title"))
                .containsSubsequence("Subscribed", "The mapping says", "The mapping says", "So it is open");
        report("subscription.refunded", person, NOW, "{\"subscription\": \"%s\"}".formatted(subscription));
        await().atMost(60, SECONDS)
                .until(() -> school.classroom.about(person).getLast().state().equals("closed"));
    }

    @Test
    void aSeatOpensForWhomeverTakesItUp() {
        var buyer = someone();
        var friend = someone();
        var order = orderId();
        report("order.placed", buyer, NOW.minus(Duration.ofDays(1)), """
                {"order": "%s", "channel": "shop", "currency": "EUR",
                 "lines": [{"line": "1", "product": "FIRST", "amount": "90.00", "giftTo": "%s"}]}""".formatted(order, friend));
        school.report(TestSchool.about("paid", order, buyer, NOW.minus(Duration.ofDays(1))));
        report("gift.claimed", friend, NOW, "{\"order\": \"%s\", \"line\": \"1\", \"seat\": 1}".formatted(order));
        await().atMost(60, SECONDS).until(() -> !school.classroom.about(friend).isEmpty());
        assertThat(page(friend).path("targets").findValuesAsString("target"))
                .containsExactly("course/first-hive", "section/first-hive/welcome");
        school.report(TestSchool.about("refunded", order, buyer, NOW));
        await().atMost(60, SECONDS)
                .until(() -> school.classroom.about(friend).getLast().state().equals("closed"));
        assertThat(school.classroom.about(buyer)).isEmpty();
    }

    @Test
    void twoPeopleJoinedAreOne() {
        var old = someone();
        var person = someone();
        subscribed(old, NOW.plus(Duration.ofDays(20)));
        await().atMost(60, SECONDS).until(() -> !school.classroom.about(old).isEmpty());
        report("person.merged", old, NOW, "{\"into\": \"%s\"}".formatted(person));
        await().atMost(60, SECONDS).until(() -> !school.classroom.about(person).isEmpty());
        await().atMost(60, SECONDS)
                .until(() -> school.classroom.about(old).getLast().state().equals("closed"));
        subscribed(old, NOW.plus(Duration.ofDays(60)));
        await().atMost(60, SECONDS).until(() -> school.classroom.about(person).size() == 2);
    }

    /** The grid edits whole courses opened by products; links, terms, sections and products it does not show stay. */
    @Test
    void theGridEditsOneCellAndLeavesTheRest() {
        var before = latest();
        var grid = operator.read("/api/mapping");
        assertThat(grid.path("cells").findValuesAsString("target"))
                .containsOnly("course/first-hive", "course/honey", "tag/member");
        var cell = (ObjectNode) grid.path("cells")
                .valueStream()
                .filter(it -> it.path("source").asString().equals("product/FIRST"))
                .findFirst()
                .orElseThrow();
        ((ObjectNode) cell.path("terms")).put("length", "P2Y");
        var longer = operator.post(
                "/api/mapping/publish",
                "{\"base\": %d, \"note\": \"\", \"changes\": [%s]}"
                        .formatted(grid.path("version").asInt(), cell));
        assertThat(longer.statusCode()).as(longer.body()).isEqualTo(200);
        assertThat(json(longer).path("difference").get(0).asString())
                .isEqualTo("First Hive opens First Hive: for 1 year, not before 1 Jan 2020; again adds to it;"
                        + " a refund ends it → for 2 years, not before 1 Jan 2020; again adds to it; a refund ends it");
        var after = latest();
        var links = List.copyOf(after.path("links").valueStream().toList());
        assertThat(links.subList(0, 2))
                .isEqualTo(before.path("links").valueStream().toList().subList(0, 2));
        assertThat(links.getLast().path("id").asString()).isEqualTo("L3");
        assertThat(links.getLast().path("terms").path("starts").path("at").asString())
                .isEqualTo("2020-01-01T00:00");
        assertThat(after.path("courses").get(0).path("sections"))
                .isEqualTo(before.path("courses").get(0).path("sections"));
        assertThat(after.path("courses").get(0).path("premium").asBoolean()).isTrue();
        assertThat(after.path("tags").findValuesAsString("id"))
                .containsAll(before.path("tags").findValuesAsString("id"));
        assertThat(after.path("products")
                        .valueStream()
                        .filter(product -> product.path("id").asString().equals("CLUB"))
                        .findFirst())
                .hasValue(before.path("products").get(0));
    }

    private JsonNode latest() {
        return JsonMapper.shared()
                .readTree(jdbc.sql("select document::text from rulebook_version order by number desc limit 1")
                        .query(String.class)
                        .single());
    }

    private JsonNode page(String person) {
        long id = jdbc.sql("select id from person where person_key = ?")
                .param(person)
                .query(Long.class)
                .single();
        return operator.read("/api/people/" + id);
    }
}
