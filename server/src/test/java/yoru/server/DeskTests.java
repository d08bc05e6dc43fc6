package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.about;
import static yoru.server.TestSchool.someone;

import java.math.BigDecimal;
import java.net.URI;
import java.net.http.HttpResponse;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import java.util.UUID;
import java.util.concurrent.CompletableFuture;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Acts at the desk over HTTP, and the list of orders that must always agree with the facts. */
@ServerTest
class DeskTests {

    @Autowired
    private TestSchool school;

    @Autowired
    private JdbcClient jdbc;

    private Operator operator;

    @BeforeEach
    void signIn() {
        operator = Operator.signedIn(school);
    }

    private static String sell(String person, String payment, String... products) {
        var items = new ArrayList<String>();
        for (String product : products) {
            items.add("{\"product\": \"%s\", \"quantity\": 1, \"price\": 90.00}".formatted(product));
        }
        return """
                {"kind": "SELL", "person": "%s", "name": "Ada", "items": [%s], "payment": %s}""".formatted(person, String.join(", ", items), payment);
    }

    private HttpResponse<String> act(String key, String act) {
        return operator.post("/api/desk/acts", "{\"key\": \"%s\", \"act\": %s}".formatted(key, act));
    }

    private JsonNode done(String act) {
        var answer = act(UUID.randomUUID().toString(), act);
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
        return JsonMapper.shared().readTree(answer.body());
    }

    private JsonNode order(String id) {
        return operator.read("/api/orders/" + id);
    }

    @Test
    void anActSentManyTimesAtOnceIsDoneOnce() {
        var person = someone();
        var key = UUID.randomUUID().toString();
        var act = sell(person, "{\"kind\": \"FREE\", \"reason\": \"volunteer\"}", "FIRST");
        var answers =
                IntStream.range(0, 6)
                        .mapToObj(n -> CompletableFuture.supplyAsync(
                                () -> act(key, act).body()))
                        .toList()
                        .stream()
                        .map(CompletableFuture::join)
                        .map(body ->
                                JsonMapper.shared().readTree(body).path("order").asString())
                        .distinct()
                        .toList();
        assertThat(answers).hasSize(1);
        assertThat(operator.read("/api/orders?q=" + person).path("total").asInt())
                .isEqualTo(1);
        var other = act(key, sell(person, "{\"kind\": \"FREE\", \"reason\": \"volunteer\"}", "HONEY"));
        assertThat(other.statusCode()).as("another act under the same key").isEqualTo(409);
        assertThat(other.body()).contains(answers.getFirst());
        assertThat(jdbc.sql("select count(*) from fact where subject = ?")
                        .param(person)
                        .query(Long.class)
                        .single())
                .isEqualTo(1);
    }

    @Test
    void theBuyerSeesTheSeatsUnderTheNewestAddressAlone() {
        var buyer = someone();
        var gift = done("""
                {"kind": "SELL", "person": "%s", "payment": {"kind": "FREE", "reason": "prize"},
                 "items": [{"product": "FIRST", "quantity": 1, "price": 90.00, "giftTo": "%s"}]}""".formatted(buyer, someone())).path("order").asString();
        var first = seatsOf(gift);
        var second = seatsOf(gift);
        var stranger = Operator.stranger(school.address());
        assertThat(stranger.get(first).statusCode()).isEqualTo(404);
        var page = stranger.get(second);
        assertThat(page.statusCode()).isEqualTo(200);
        assertThat(page.body()).contains("First Hive, seat 1", "Send seat 1");
        assertThat(page.headers().firstValue("cache-control")).contains("no-store");
        var form = "application/x-www-form-urlencoded";
        assertThat(stranger.post(second, "line=1&seat=1&address=nobody", form).statusCode())
                .isEqualTo(422);
        assertThat(stranger.post(second, "line=1&seat=9&address=a@b.example", form)
                        .statusCode())
                .isEqualTo(409);
        assertThat(jdbc.sql("select count(*) from person where person_key = 'a@b.example'")
                        .query(Long.class)
                        .single())
                .isZero();
        var plain = done(sell(buyer, "{\"kind\": \"FREE\", \"reason\": \"prize\"}", "HONEY"))
                .path("order")
                .asString();
        assertThat(operator.post("/api/orders/" + plain + "/seats/link", "").statusCode())
                .as("nobody else can have anything of it")
                .isEqualTo(409);
        jdbc.sql("delete from claim_failure").update();
    }

    private String seatsOf(String order) {
        var made = operator.post("/api/orders/" + order + "/seats/link", "");
        assertThat(made.statusCode()).as(made.body()).isEqualTo(200);
        return URI.create(TestSchool.json(made).path("address").asString()).getPath();
    }

    @Test
    void aQuoteBecomesOneOrderWhenItIsAgreedTo() {
        var person = someone();
        var key = UUID.randomUUID().toString();
        var quote = "{\"key\": \"%s\", \"act\": %s, \"validUntil\": \"2031-01-31\"}";
        var later = "{\"kind\": \"LATER_OPEN_WHEN_PAID\"}";
        assertThat(operator.post("/api/quotes", quote.formatted(key, sell(person, "{\"kind\": \"ALREADY\"}", "FIRST")))
                        .statusCode())
                .as("an offer is not paid")
                .isEqualTo(400);
        assertThat(operator.post("/api/quotes", quote.formatted(key, sell(person, later, "NO-SUCH")))
                        .statusCode())
                .isEqualTo(422);
        var made = operator.post("/api/quotes", quote.formatted(key, sell(person, later, "FIRST", "HONEY")));
        assertThat(made.statusCode()).as(made.body()).isEqualTo(201);
        var again = operator.post("/api/quotes", quote.formatted(key, sell(person, later, "FIRST", "HONEY")));
        var id = TestSchool.json(made).path("quote").path("id").asLong();
        assertThat(TestSchool.json(again).path("quote").path("id").asLong()).isEqualTo(id);
        assertThat(TestSchool.json(made).path("quote").path("total").decimalValue())
                .isEqualByComparingTo("180.00");
        assertThat(operator.read("/api/orders?q=" + person).path("total").asInt())
                .isZero();
        assertThat(operator.read("/api/people?q=" + person).path("total").asInt())
                .isZero();

        assertThat(operator.read("/api/quotes").path("quotes").get(0).path("id").asLong())
                .as("it waits for an answer")
                .isEqualTo(id);
        assertThat(operator.read("/api/quotes?sort=TOTAL").path("quotes").findValues("total"))
                .isSortedAccordingTo(
                        Comparator.comparing((JsonNode it) -> it.decimalValue()).reversed());
        assertThat(operator.read("/api/quotes?page=7").path("quotes").size()).isZero();
        var agreed = operator.post("/api/quotes/" + id + "/agree", "");
        var order = TestSchool.json(agreed).path("quote").path("order").asString();
        assertThat(TestSchool.json(operator.post("/api/quotes/" + id + "/agree", ""))
                        .path("quote")
                        .path("order")
                        .asString())
                .isEqualTo(order);
        assertThat(operator.read("/api/orders?q=" + person).path("total").asInt())
                .isEqualTo(1);
        assertThat(order(order).path("total").decimalValue()).isEqualByComparingTo("180.00");
        assertThat(operator.post("/api/quotes/" + id + "/decline", "").statusCode())
                .isEqualTo(409);
        assertThat(operator.post("/api/quotes/999999/agree", "").statusCode()).isEqualTo(404);
    }

    @Test
    void whatIsRefusedKeepsNothingAndSaysWhereItIsWrong() {
        var person = someone();
        var refused = act(UUID.randomUUID().toString(), sell(person, "{\"kind\": \"FREE\"}", "FIRST"));
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(refused.headers().firstValue("content-type").orElseThrow()).startsWith("application/problem+json");
        assertThat(JsonMapper.shared()
                        .readTree(refused.body())
                        .path("errors")
                        .get(0)
                        .path("field")
                        .asString())
                .isEqualTo("payment.reason");
        assertThat(act("short", "{\"kind\": \"PART\", \"person\": \"a@b.example\"}")
                        .statusCode())
                .isEqualTo(400);
        assertThat(act(UUID.randomUUID().toString(), "{\"kind\": \"PAY\"}").statusCode())
                .isEqualTo(400);
        assertThat(operator.get("/api/orders/H999999").statusCode()).isEqualTo(404);
        assertThat(jdbc.sql("select count(*) from person where person_key = ?")
                        .param(person)
                        .query(Long.class)
                        .single())
                .isZero();
    }

    @Test
    void theConsequenceIsWhatThenHappens() {
        var person = someone();
        var act = sell(person, "{\"kind\": \"LATER_OPEN_NOW\"}", "FIRST", "KIT");
        var said = JsonMapper.shared()
                .readTree(operator.post("/api/desk/consequence", act).body());
        var change = said.path("people").get(0).path("changes").get(0);
        assertThat(change.path("target").asString()).isEqualTo("course/first-hive");
        assertThat(said.path("nothing").get(0).path("why").asString()).startsWith("A thing to post");
        assertThat(said.path("sums").path("owed").decimalValue()).isEqualByComparingTo("180.00");
        var order = order(done(act).path("order").asString());
        var opened = order.path("lines").get(0).path("opens").get(0);
        assertThat(opened.path("target").asString()).isEqualTo("course/first-hive");
        // the two were computed a moment apart
        assertThat(Instant.parse(opened.path("end").asString()))
                .isBetween(
                        Instant.parse(change.path("end").asString()),
                        Instant.parse(change.path("end").asString()).plusSeconds(120));
        assertThat(order.path("owed").decimalValue()).isEqualByComparingTo("180.00");
        assertThat(order.path("toDo").valueStream().map(JsonNode::asString)).containsExactly("PAYMENT");
    }

    /** Two at the desk refund the same order at the same moment: the money is given back once. */
    @Test
    void twoWhoRefundAtOnceGiveBackOnce() {
        var person = someone();
        var order = done(sell(person, "{\"kind\": \"ALREADY\"}", "FIRST"))
                .path("order")
                .asString();
        var refund = "{\"kind\": \"REFUND\", \"order\": \"%s\"}".formatted(order);
        var answers = IntStream.range(0, 4)
                .mapToObj(n -> CompletableFuture.supplyAsync(
                        () -> act(UUID.randomUUID().toString(), refund).statusCode()))
                .toList()
                .stream()
                .map(CompletableFuture::join)
                .sorted()
                .toList();
        assertThat(answers).containsExactly(200, 422, 422, 422);
        assertThat(order(order).path("givenBack").decimalValue()).isEqualByComparingTo("90.00");
    }

    /** By chance: orders from the shop and by hand, refunds, cancellations; then list, orders and facts are compared. */
    @Test
    void sumsOfTheListAreThoseOfItsRowsOfTheOrdersAndOfTheFacts() {
        var random = new Random(7);
        var tag = UUID.randomUUID().toString().substring(0, 8);
        for (int n = 0; n < 40; n++) {
            var person = "sums-" + tag + "-" + random.nextInt(12) + "@post.example";
            var order = random.nextBoolean()
                    ? school.buys(person, "HONEY", Instant.now().minusSeconds(1 + random.nextInt(5_000_000)))
                    : done(sell(
                                    person,
                                    List.of(
                                                    "{\"kind\": \"ALREADY\"}",
                                                    "{\"kind\": \"LATER_OPEN_NOW\"}",
                                                    "{\"kind\": \"FREE\", \"reason\": \"prize\"}")
                                            .get(random.nextInt(3)),
                                    "FIRST",
                                    "HONEY"))
                            .path("order")
                            .asString();
            if (random.nextInt(3) == 0) {
                act(
                        UUID.randomUUID().toString(),
                        "{\"kind\": \"REFUND\", \"order\": \"%s\", \"line\": \"1\", \"amount\": 30.00}"
                                .formatted(order));
            }
            if (random.nextInt(6) == 0) {
                act(UUID.randomUUID().toString(), "{\"kind\": \"CANCEL\", \"order\": \"%s\"}".formatted(order));
            }
        }
        var list = operator.read("/api/orders?q=sums-" + tag);
        var sum = list.path("sums").get(0);
        assertThat(list.path("total").asInt()).isEqualTo(40);
        for (String field : List.of("total", "paid", "givenBack", "owed")) {
            var ofRows = list.path("orders")
                    .valueStream()
                    .map(row -> row.path(field).decimalValue())
                    .reduce(BigDecimal.ZERO, BigDecimal::add);
            assertThat(sum.path(field).decimalValue()).as(field).isEqualByComparingTo(ofRows);
        }
        for (String field : List.of("total", "paid", "givenBack", "owed", "waived")) {
            var ofOrders = list.path("orders")
                    .valueStream()
                    .map(row -> order(row.path("id").asString()).path(field).decimalValue())
                    .reduce(BigDecimal.ZERO, BigDecimal::add);
            assertThat(sum.path(field).decimalValue()).as(field).isEqualByComparingTo(ofOrders);
        }
        assertThat(sum.path("total").decimalValue())
                .as("plain SQL over the facts")
                .isEqualByComparingTo(jdbc.sql("""
                        select sum((line ->> 'amount')::numeric) from fact, jsonb_array_elements(body -> 'data' -> 'lines') line
                        where type = 'yoru.order.placed' and subject like ?""")
                        .param("sums-" + tag + "%")
                        .query(BigDecimal.class)
                        .single());
        assertThat(sum.path("paid").decimalValue())
                .isEqualByComparingTo(jdbc.sql("""
                        select sum((line ->> 'amount')::numeric) from fact f, jsonb_array_elements(f.body -> 'data' -> 'lines') line
                        where f.type = 'yoru.order.placed' and f.subject like ?
                          and exists (select 1 from fact p where p.thing = f.thing and p.type = 'yoru.order.paid')""")
                        .param("sums-" + tag + "%")
                        .query(BigDecimal.class)
                        .single());
        var csv = operator.get("/api/orders.csv?q=sums-" + tag).body();
        assertThat(csv.lines()).hasSize(41);
    }

    @Test
    void asOfAnotherDayTheMoneyIsWhatItWasThen() {
        var person = someone();
        var bought = Instant.parse("2026-03-02T10:00:00Z");
        var order = school.buys(person, "FIRST", bought);
        school.report(about("refunded", order, person, bought.plusSeconds(86_400)));
        var before = operator.read("/api/orders?q=" + person + "&at=2026-03-03T09:00:00Z");
        assertThat(before.path("orders").get(0).path("state").asString()).isEqualTo("PAID");
        assertThat(operator.read("/api/orders?q=" + person)
                        .path("orders")
                        .get(0)
                        .path("state")
                        .asString())
                .isEqualTo("REFUNDED");
        assertThat(operator.read("/api/orders?q=" + person + "&at=2026-03-01T09:00:00Z")
                        .path("total")
                        .asInt())
                .isZero();
        assertThat(order(order).path("state").asString()).isEqualTo("REFUNDED");
    }

    @Test
    void whoIsJoinedTakesTheirOrdersAlongAndWhoIsPartedTakesThemBack() {
        var first = someone();
        var second = someone();
        var order = done(sell(first, "{\"kind\": \"ALREADY\"}", "FIRST"))
                .path("order")
                .asString();
        done(sell(second, "{\"kind\": \"ALREADY\"}", "KIT"));
        done("{\"kind\": \"JOIN\", \"person\": \"%s\", \"thing\": \"%s\"}".formatted(first, second));
        assertThat(order(order).path("key").asString()).isEqualTo(second);
        assertThat(operator.read("/api/orders?q=" + second).path("total").asInt())
                .isEqualTo(2);
        isOpen(second, true);
        isOpen(first, false);
        done("{\"kind\": \"PART\", \"person\": \"%s\"}".formatted(first));
        assertThat(order(order).path("key").asString()).isEqualTo(first);
        isOpen(second, false);
        isOpen(first, true);
    }

    @Test
    void anAddressIsChangedWithAllThatBelongsToIt() {
        var old = someone();
        var moved = "moved-" + old;
        done(sell(old, "{\"kind\": \"ALREADY\"}", "FIRST"));
        done("{\"kind\": \"JOIN\", \"person\": \"%s\", \"thing\": \"%s\"}".formatted(old, moved));
        var row = operator.read("/api/people?q=" + moved).path("people").get(0);
        assertThat(row.path("name").asString()).as("nobody told another name").isEqualTo("Ada");
        var page = operator.read("/api/people/" + row.path("id").asLong());
        assertThat(page.path("joined").get(0).path("key").asString()).isEqualTo(old);
        assertThat(page.path("targets")
                        .get(0)
                        .path("windows")
                        .get(0)
                        .path("state")
                        .asString())
                .isEqualTo("OPEN");
    }

    private void isOpen(String person, boolean open) {
        await().atMost(60, SECONDS)
                .until(() -> jdbc.sql("""
                                select count(*) from standing s join person p on p.id = s.person_id
                                where p.person_key = ? and s.target = 'course/first-hive'""").param(person).query(Long.class).single() == (open ? 1 : 0));
    }

    /** Whoever guesses codes is stopped. */
    @Test
    void guessedCodesAreCounted() {
        var stranger = Operator.stranger(school.address());
        assertThat(stranger.get("/claim/" + UUID.randomUUID()).statusCode()).isEqualTo(404);
        int last = 0;
        for (int n = 0; n < 25 && last != 429; n++) {
            last = stranger.get("/claim/" + UUID.randomUUID()).statusCode();
        }
        assertThat(last).isEqualTo(429);
        jdbc.sql("delete from claim_failure").update();
        assertThat(stranger.get("/claim/" + UUID.randomUUID()).statusCode()).isEqualTo(404);
        assertThat(stranger.get("/claim/x").headers().firstValue("content-security-policy"))
                .isPresent();
    }

    @Test
    void allThatIsKeptOfAPersonIsHandedOut() {
        var person = someone();
        done(sell(person, "{\"kind\": \"ALREADY\", \"reference\": \"receipt 9\"}", "FIRST"));
        long id = operator.read("/api/people?q=" + person)
                .path("people")
                .get(0)
                .path("id")
                .asLong();
        assertThat(operator.post("/api/people/" + id + "/notes", "{\"text\": \" rang twice \"}")
                        .statusCode())
                .isEqualTo(204);
        var data = operator.read("/api/people/" + id + "/data");
        assertThat(data.path("facts").size()).isEqualTo(2);
        assertThat(data.path("facts").toString()).contains("receipt 9");
        assertThat(data.path("access").get(0).path("target").asString()).isEqualTo("course/first-hive");
        assertThat(data.path("notes").get(0).path("text").asString()).isEqualTo("rang twice");
        var why = operator.read("/api/people/" + id + "/why?target=course/honey");
        assertThat(why.path("because").get(0).asString())
                .isEqualTo("Nothing that is held opens it; Honey Harvest would.");
        assertThat(operator.read("/api/people/" + id + "/why?target=course/first-hive")
                        .path("because")
                        .size())
                .isZero();
    }
}
