package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.json;

import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A method of payment on file is charged once, and the order is paid only when the shop says so. */
@ServerTest
class ChargesTests {

    @Autowired
    private TestSchool school;

    private Operator operator;

    private final String person = TestSchool.someone();

    @BeforeEach
    void signIn() {
        operator = Operator.signedIn(school);
    }

    /** @return the order */
    private String ordered() {
        var act = """
                {"key": "%s", "act": {"kind": "SELL", "person": "%s", "name": "Ada",
                 "items": [{"product": "FIRST", "quantity": 1, "price": 90.00}],
                 "payment": {"kind": "ON_FILE", "onFile": {"connection": "shop", "method": "m-1", "label": "card ending 4242"}}}}""".formatted(UUID.randomUUID(), person);
        var answer = operator.post("/api/desk/acts", act);
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
        return json(answer).path("order").asString();
    }

    private JsonNode charge(String order) {
        return operator.read("/api/charges?order=" + order).get(0);
    }

    private void becomes(String order, String state) {
        await().atMost(60, SECONDS)
                .until(() -> charge(order).path("state").asString().equals(state));
    }

    private String paying(String order) {
        return operator.read("/api/orders/" + order).path("state").asString();
    }

    private List<String> keysOfCharges() {
        return school.classroom.calls("/shop/charges").stream()
                .filter(call -> JsonMapper.shared()
                        .readTree(call.body())
                        .path("email")
                        .asString()
                        .equals(person))
                .map(call -> call.headers().get("idempotency-key").getFirst())
                .toList();
    }

    @Test
    void whatIsOnFileIsOfferedAndChargedOnceAlsoWhereTheAnswerIsLost() {
        assertThat(operator.read("/api/charges/methods?person=" + person).toString())
                .contains("card ending 4242", "\"Shop\"");
        school.classroom.behave("charging " + person, StubClassroom.BROKEN_OFF);
        var order = ordered();
        await().atMost(30, SECONDS)
                .until(() -> !charge(order).path("said").asString().isEmpty());
        assertThat(charge(order).path("state").asString()).isEqualTo("WAITING");
        assertThat(paying(order)).isEqualTo("UNPAID");
        school.classroom.behave(
                "charging " + person, (exchange, id) -> StubClassroom.say(exchange, 200, "{\"id\": \"" + id + "\"}"));
        becomes(order, "PAID");
        assertThat(paying(order)).isEqualTo("PAID");
        assertThat(keysOfCharges()).hasSizeGreaterThan(1).containsOnly("yoru-charge-" + order);
        assertThat(operator.read("/api/orders/" + order).path("happened").toString())
                .contains("card ending 4242", "charge of yoru-charge-" + order);
        await().atMost(20, SECONDS).until(() -> school.classroom.has(person, "first-hive"));
    }

    @Test
    void whatIsRefusedOpensNothingAndTheOrderCanBePaidOtherwise() {
        school.classroom.behave(
                "charging " + person,
                (exchange, id) -> StubClassroom.say(exchange, 402, "{\"detail\": \"the card was refused\"}"));
        var order = ordered();
        becomes(order, "REFUSED");
        assertThat(charge(order).path("said").asString()).isEqualTo("the card was refused");
        assertThat(paying(order)).isEqualTo("UNPAID");
        assertThat(operator.read("/api/orders?show=PAYMENT&q=" + person)
                        .path("total")
                        .asInt())
                .isEqualTo(1);
        assertThat(school.classroom.has(person, "first-hive")).isFalse();

        assertThat(operator.read("/api/today").path("refused").findValuesAsString("order"))
                .contains(order);
        school.classroom.behave(
                "charging " + person, (exchange, id) -> StubClassroom.say(exchange, 200, "{\"id\": \"" + id + "\"}"));
        var again = "{\"order\": \"" + order + "\"}";
        assertThat(operator.post("/api/charges/again", again).statusCode()).isEqualTo(200);
        becomes(order, "PAID");
        assertThat(keysOfCharges()).as("the first key is answered as before").endsWith("yoru-charge-" + order + "-2");
        assertThat(operator.post("/api/charges/again", again).statusCode()).isEqualTo(409);
        assertThat(operator.read("/api/today").path("refused").findValuesAsString("order"))
                .doesNotContain(order);
        await().atMost(20, SECONDS).until(() -> school.classroom.has(person, "first-hive"));
        assertThat(operator.read("/api/orders/" + order).path("happened").findValuesAsString("title"))
                .containsSubsequence(
                        "Shop charged it",
                        "Shop asked to charge €90.00",
                        "Shop refused to charge it",
                        "Shop asked to charge €90.00");
    }

    /** As after a restore: nobody knows yet what has been charged since. */
    @Test
    void whileTheShopIsOffNothingIsCharged() {
        school.classroom.behave(
                "charging " + person, (exchange, id) -> StubClassroom.say(exchange, 200, "{\"id\": \"" + id + "\"}"));
        operator.post("/api/systems/shop/state", "{\"state\": \"OFF\"}");
        try {
            var order = ordered();
            await().atMost(30, SECONDS)
                    .until(() -> charge(order).path("said").asString().equals("is off"));
            assertThat(keysOfCharges()).isEmpty();
            operator.post("/api/systems/shop/state", "{\"state\": \"ON\"}");
            becomes(order, "PAID");
        } finally {
            operator.post("/api/systems/shop/state", "{\"state\": \"ON\"}");
        }
    }

    @Test
    void whatWasCancelledMeanwhileIsNotCharged() {
        school.classroom.behave("charging " + person, (exchange, id) -> StubClassroom.say(exchange, 503, "{}"));
        var order = ordered();
        await().atMost(30, SECONDS)
                .until(() -> !charge(order).path("said").asString().isEmpty());
        var cancel = "{\"key\": \"%s\", \"act\": {\"kind\": \"CANCEL\", \"order\": \"%s\"}}"
                .formatted(UUID.randomUUID(), order);
        assertThat(operator.post("/api/desk/acts", cancel).statusCode()).isEqualTo(200);
        becomes(order, "LEFT");
    }
}
