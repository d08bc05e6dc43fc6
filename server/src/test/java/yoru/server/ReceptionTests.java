package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.about;
import static yoru.server.TestSchool.event;
import static yoru.server.TestSchool.json;
import static yoru.server.TestSchool.orderId;
import static yoru.server.TestSchool.someone;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.sql.Timestamp;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HexFormat;
import java.util.List;
import java.util.Random;
import java.util.UUID;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Reports about people nobody knows for certain: let in, held or left out as the school's policies say. */
@ServerTest
class ReceptionTests {

    private static final Instant PAST = Instant.now().minus(2, ChronoUnit.DAYS).truncatedTo(ChronoUnit.SECONDS);

    @Autowired
    private TestSchool school;

    @Autowired
    private JdbcClient jdbc;

    private Operator operator;

    @BeforeEach
    void signIn() {
        operator = Operator.signedIn(school);
    }

    @AfterEach
    void nothingWaits() {
        policies("MAKE", "MAKE", "ASK");
    }

    private void policies(String guests, String unknown, String joining) {
        assertThat(operator.put("/api/policies", """
                {"guests": "%s", "unknownContacts": "%s", "joining": "%s"}""".formatted(guests, unknown, joining))
                        .statusCode())
                .isEqualTo(200);
    }

    private static String guestOrder(String order, String person) {
        return event("placed", person, PAST, """
                {"order": "%s", "channel": "shop", "currency": "EUR", "name": "Gus Guest", "guest": true,
                 "lines": [{"line": "1", "product": "FIRST", "amount": "90.00"}]}""".formatted(order));
    }

    private static String tag(String person, String more) {
        return event("placed", person, PAST, "{\"tag\": \"friend-%s\"%s}".formatted(UUID.randomUUID(), more))
                .replace("yoru.order.placed", "yoru.tag.added");
    }

    private String fate(String report) {
        return json(school.report(report)).path("fate").asString();
    }

    private long facts(String person) {
        return jdbc.sql("select count(*) from fact where subject = ?")
                .param(person)
                .query(Long.class)
                .single();
    }

    private List<String> open(String person) {
        return jdbc.sql("""
                        select o.target || ' ' || o.opens_at from opening o join person p on p.id = o.person_id
                        where p.person_key = ? order by 1""").param(person).query(String.class).list();
    }

    private String decide(String how, String about) {
        return operator.post("/api/held/" + how, "{\"about\": [\"%s\"]}".formatted(about))
                .body();
    }

    /** In whatever order a guest's reports come: once let in, everything is as if none of them had waited. */
    @Test
    void aGuestLetInHasWhatTheyWouldHaveHad() {
        var reference = someone();
        var taken = orderId();
        school.report(guestOrder(taken, reference));
        school.report(about("paid", taken, reference, PAST.plusSeconds(60)));
        await().atMost(20, SECONDS).until(() -> !open(reference).isEmpty());
        policies("HOLD", "MAKE", "ASK");
        for (int seed = 0; seed < 3; seed++) {
            var guest = someone();
            var order = orderId();
            var reports = new ArrayList<>(
                    List.of(guestOrder(order, guest), about("paid", order, guest, PAST.plusSeconds(60))));
            reports.add(reports.getFirst());
            Collections.shuffle(reports, new Random(seed));
            reports.forEach(report ->
                    assertThat(school.report(report).statusCode()).as(report).isEqualTo(200));
            assertThat(open(guest)).isEmpty();
            assertThat(facts(guest))
                    .as("seed %d: whichever came first, it waits", seed)
                    .isZero();
            assertThat(operator.read("/api/held").path("cases").valueStream())
                    .filteredOn(waiting -> waiting.path("about").asString().equals("order " + order))
                    .singleElement()
                    .satisfies(waiting -> assertThat(waiting.path("reports").findValuesAsString("title"))
                            .as("as it happened, however it was told")
                            .containsExactly("Order " + order + " placed", "Order " + order + " paid"));
            var consequence = operator.read("/api/held/consequence?about=order%20" + order);
            assertThat(consequence.get(0).path("changes").get(0).path("target").asString())
                    .isEqualTo("course/first-hive");
            assertThat(json(operator.post("/api/held/release", "{\"about\": [\"order %s\"]}".formatted(order)))
                            .path("decided")
                            .asInt())
                    .isEqualTo(1);
            await().atMost(20, SECONDS)
                    .untilAsserted(() -> assertThat(open(guest)).isEqualTo(open(reference)));
            assertThat(decide("release", "order " + order)).contains("\"before\":1");
            assertThat(facts(guest)).isEqualTo(2);
            assertThat(fate(reports.getFirst())).isEqualTo("KNOWN_ALREADY");
        }
    }

    @Test
    void whatIsLeftOutStaysOutWithAllThatIsStillSaidOfIt() {
        policies("HOLD", "MAKE", "ASK");
        var guest = someone();
        var order = orderId();
        assertThat(fate(guestOrder(order, guest))).isEqualTo("HELD");
        assertThat(operator.read("/api/today").path("held").path("guests").asInt())
                .isPositive();
        decide("leave-out", "order " + order);
        assertThat(fate(about("paid", order, guest, PAST))).isEqualTo("SKIPPED");
        assertThat(facts(guest)).isZero();
        assertThat(operator.read("/api/held").toString()).doesNotContain(order);
        assertThat(operator.read("/api/journal").toString()).contains("Left out: Order " + order);
    }

    /** A payment that overtakes the order of somebody with an account waits for the order and no longer. */
    @Test
    void whatOvertakesAnOrderBecomesAFactWithIt() {
        policies("HOLD", "MAKE", "ASK");
        var person = someone();
        var order = orderId();
        assertThat(fate(about("paid", order, person, PAST.plusSeconds(60)))).isEqualTo("HELD");
        assertThat(facts(person)).isZero();
        assertThat(fate(TestSchool.placed(order, person, PAST, "FIRST", "90.00")))
                .isEqualTo("KEPT");
        assertThat(facts(person)).isEqualTo(2);
        await().atMost(20, SECONDS).until(() -> !open(person).isEmpty());
        assertThat(operator.read("/api/held").toString()).doesNotContain(order);
        assertThat(fate(about("paid", order, person, PAST.plusSeconds(60)))).isEqualTo("KEPT");
    }

    @Test
    void aGuestWhoseAddressIsKnownIsThatPerson() {
        policies("HOLD", "HOLD", "ASK");
        var known = someone();
        school.buys(known, "HONEY", PAST);
        assertThat(fate(guestOrder(orderId(), known))).isEqualTo("KEPT");
        assertThat(fate(tag(known, ""))).isEqualTo("KEPT");
    }

    @Test
    void anUnknownContactWaitsOrIsLeftOutAndNeverSilently() {
        policies("MAKE", "HOLD", "ASK");
        var waiting = someone();
        assertThat(fate(tag(waiting, ""))).isEqualTo("HELD");
        school.buys(waiting, "HONEY", PAST);
        assertThat(fate(tag(waiting, ""))).as("they are known now").isEqualTo("KEPT");
        decide("release", "person " + waiting);
        assertThat(facts(waiting)).isEqualTo(4);
        policies("MAKE", "SKIP", "ASK");
        var skipped = someone();
        assertThat(fate(tag(skipped, ""))).isEqualTo("SKIPPED");
        assertThat(facts(skipped)).isZero();
        assertThat(operator.read("/api/journal").toString()).contains(skipped);
    }

    @Test
    void anAddressThatASystemHasVerifiedJoinsPeopleOnceAndNotAgainAfterTheyWereParted() {
        var address = someone();
        school.buys(address, "HONEY", PAST);
        var key = "customer-" + UUID.randomUUID();
        var more = ", \"verifiedEmail\": \"" + address + "\"";
        assertThat(fate(tag(key, more))).isEqualTo("KEPT");
        assertThat(operator.read("/api/policies").path("effects").toString()).contains(key);
        assertThat(merges(key)).isZero();
        policies("MAKE", "MAKE", "SAME_VERIFIED_ADDRESS");
        assertThat(fate(tag(key, more))).isEqualTo("KEPT");
        await().atMost(20, SECONDS).until(() -> merges(key) == 1);
        assertThat(operator.post("/api/desk/acts", """
                        {"key": "%s", "act": {"kind": "PART", "person": "%s"}}""".formatted(UUID.randomUUID(), key))
                        .statusCode())
                .isEqualTo(200);
        assertThat(fate(tag(key, more))).isEqualTo("KEPT");
        operator.post("/api/policies/join", "");
        assertThat(operator.read("/api/policies").path("effects").toString()).doesNotContain(key);
        assertThat(merges(key)).isEqualTo(1);
    }

    private long merges(String key) {
        return jdbc.sql("select count(*) from fact where subject = ? and type = 'yoru.person.merged'")
                .param(key)
                .query(Long.class)
                .single();
    }

    /** Of a letter that went out half a year ago only the code is over: sent again, the gift can still be taken up. */
    @Test
    void aGiftCanBeTakenUpOnlyAsLongAsTheSchoolSays() throws Exception {
        var order = orderId();
        var giver = someone();
        school.report(event("placed", giver, PAST, """
                {"order": "%s", "channel": "shop", "currency": "EUR",
                 "lines": [{"line": "1", "product": "FIRST", "amount": "0.00", "giftTo": "%s"}]}""".formatted(order, someone())));
        await().atMost(20, SECONDS)
                .until(() -> jdbc.sql("select count(*) from gift where order_id = ?")
                                .param(order)
                                .query(Long.class)
                                .single()
                        == 1);
        var code = "half-a-year-old-" + order;
        var digest = MessageDigest.getInstance("SHA-256").digest(code.getBytes(StandardCharsets.UTF_8));
        jdbc.sql("insert into gift_code (hash, order_id, line, seat, made_at) values (?, ?, '1', 1, ?)")
                .params(
                        HexFormat.of().formatHex(digest),
                        order,
                        Timestamp.from(Instant.now().minus(180, ChronoUnit.DAYS)))
                .update();
        var receiver = Operator.stranger(school.address());
        assertThat(receiver.get("/claim/" + code).statusCode()).isEqualTo(200);
        kept("P3M");
        assertThat(receiver.get("/claim/" + code).statusCode()).isEqualTo(410);
        assertThat(receiver.get("/claim/" + code).body()).contains("It is too late");
        kept("P1Y");
        assertThat(receiver.get("/claim/" + code).statusCode()).isEqualTo(200);
    }

    private void kept(String period) {
        assertThat(operator.put("/api/policies", """
                {"guests": "MAKE", "unknownContacts": "MAKE", "joining": "ASK", "giftsKeptFor": "%s"}""".formatted(period)).statusCode())
                .isEqualTo(200);
    }

    @Test
    void whatIsNoPolicyIsRefusedAndChangesNothing() {
        for (String body : List.of(
                "{\"guests\": \"MAKE\", \"unknownContacts\": \"MAKE\"}",
                "{\"guests\": \"BURN\", \"unknownContacts\": \"MAKE\", \"joining\": \"ASK\"}",
                "{\"guests\": \"HOLD\", \"unknownContacts\": \"MAKE\", \"joining\": \"ASK\", \"giftsKeptFor\": \"P0D\"}",
                "{\"guests\": \"HOLD\", \"unknownContacts\": \"MAKE\", \"joining\": \"ASK\", \"giftsKeptFor\": \"P11Y\"}")) {
            var refused = operator.put("/api/policies", body);
            assertThat(refused.statusCode()).as(body).isEqualTo(400);
            assertThat(refused.headers().firstValue("content-type").orElseThrow())
                    .startsWith("application/problem+json");
        }
        assertThat(operator.read("/api/policies")
                        .path("policies")
                        .path("guests")
                        .asString())
                .isEqualTo("MAKE");
    }
}
