package yoru.server;

import static org.assertj.core.api.Assertions.assertThat;
import static yoru.server.TestSchool.about;
import static yoru.server.TestSchool.event;
import static yoru.server.TestSchool.json;
import static yoru.server.TestSchool.orderId;
import static yoru.server.TestSchool.placed;
import static yoru.server.TestSchool.someone;

import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * What reports from outside get: signatures as Standard Webhooks 1.0 has them (signed by its reference library), events
 * as CloudEvents 1.0.2, problems as RFC 9457.
 */
@ServerTest
class IntakeTests {

    private static final String OTHER_SECRET = "whsec_" + Base64.getEncoder().encodeToString(new byte[32]);

    @Autowired
    private TestSchool school;

    @Autowired
    private JdbcClient jdbc;

    @Test
    void anUnsignedStaleOrForgedReportLeavesACountAndAJournalLineOnly() {
        var person = someone();
        var body = placed(orderId(), person, Instant.now(), "FIRST", "90.00");
        long before = refused();
        var unsigned = TestSchool.send(HttpRequest.newBuilder(URI.create(school.address() + "/hooks/shop"))
                .POST(BodyPublishers.ofString(body))
                .build());
        var forged = school.report(body, Instant.now(), OTHER_SECRET);
        var stale = school.report(body, Instant.now().minus(Duration.ofMinutes(6)), TestSchool.SECRET);
        var fromTheFuture = school.report(body, Instant.now().plus(Duration.ofMinutes(6)), TestSchool.SECRET);
        assertThat(List.of(unsigned, forged, stale, fromTheFuture)).allSatisfy(answer -> {
            assertThat(answer.statusCode()).isEqualTo(401);
            assertThat(answer.headers().firstValue("content-type")).hasValue("application/problem+json");
            assertThat(json(answer).path("detail").asString()).contains("webhook-signature");
        });
        assertThat(refused()).isEqualTo(before + 4);
        assertThat(factsAbout(person)).isZero();
        assertThat(jdbc.sql("select count(*) from person where person_key = ?")
                        .param(person)
                        .query(Long.class)
                        .single())
                .isZero();
        assertThat(jdbc.sql("select title from journal_entry where kind = 'REFUSED' and actor = 'shop'")
                        .query(String.class)
                        .list())
                .as("gathered into one line, whatever their number")
                .singleElement()
                .asString()
                .matches("A report was turned away \\(\\d+ times\\)");
    }

    static Stream<Arguments> unreadable() {
        var now = Instant.parse("2026-11-01T10:00:00Z");
        var good = placed("O-1", "a@b.example", now, "FIRST", "90.00");
        return Stream.of(
                Arguments.of("not JSON", "yoru, please open", ""),
                Arguments.of("no CloudEvent", "{\"hello\": \"world\"}", "specversion"),
                Arguments.of("another version", good.replace("\"1.0\"", "\"0.3\""), "specversion"),
                Arguments.of("unknown type", good.replace("order.placed", "order.danced"), "type"),
                Arguments.of("no subject", good.replace("\"subject\": \"a@b.example\",", ""), "subject"),
                Arguments.of("time without an offset", good.replace(now.toString(), "2026-11-01T10:00:00"), "time"),
                Arguments.of("no order", event("paid", "a@b.example", now, "{}"), "data.order"),
                Arguments.of("no lines", good.replaceFirst("(?s)\"lines\": \\[.*?]", "\"lines\": []"), "data.lines"),
                Arguments.of("amount not a decimal", good.replace("90.00", "ninety"), "data.lines[0].amount"),
                Arguments.of("amount negative", good.replace("90.00", "-90.00"), "data.lines[0].amount"),
                Arguments.of(
                        "a character no database keeps",
                        good.replace("FIRST", "FI\\u0000RST"),
                        "data.lines[0].product"),
                Arguments.of("no such currency", good.replace("EUR", "HIV"), "data.currency"));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("unreadable")
    void whatCannotBeReadIsAnsweredWithItsField(String what, String body, String field) {
        long before = facts();
        var answer = school.report(body);
        assertThat(answer.statusCode()).as(what).isEqualTo(400);
        assertThat(answer.headers().firstValue("content-type")).hasValue("application/problem+json");
        assertThat(json(answer).path("errors").findValuesAsString("field")).contains(field);
        assertThat(facts()).isEqualTo(before);
    }

    @Test
    void largerThanAQuarterMebibyteIsTooLarge() {
        var body = placed(orderId(), someone(), Instant.now(), "FIRST", "90.00");
        var padded = body.replace("\"data\"", "\"padding\": \"" + "x".repeat(256 * 1024) + "\", \"data\"");
        assertThat(school.report(padded).statusCode()).isEqualTo(413);
        assertThat(school.report(body).statusCode()).isEqualTo(200);
    }

    @Test
    void theSameEventTwiceHasNoEffectAndContradictionsAreWarnedOf() {
        var person = someone();
        var body = placed(orderId(), person, Instant.now(), "FIRST", "90.00");
        assertThat(json(school.report(body)).path("fate").asString()).isEqualTo("KEPT");
        assertThat(json(school.report(body)).path("fate").asString()).isEqualTo("KNOWN_ALREADY");
        var contradiction = school.report(body.replace("90.00", "9.00"));
        assertThat(contradiction.statusCode()).isEqualTo(200);
        assertThat(json(contradiction).path("fate").asString()).isEqualTo("CONTRADICTS");
        assertThat(factsAbout(person)).isEqualTo(1);
        assertThat(jdbc.sql("select body -> 'data' -> 'lines' -> 0 ->> 'amount' from fact where subject = ?")
                        .param(person)
                        .query(String.class)
                        .single())
                .isEqualTo("90.00");
        assertThat(jdbc.sql("""
                                select count(*) from journal_entry j join person p on p.id = j.person_id
                                where j.kind = 'WARNING' and p.person_key = ?""").param(person).query(Long.class).single()).isEqualTo(1);
    }

    @Test
    void twentyAtOnceAreKeptOnce() throws Exception {
        var person = someone();
        var body = placed(orderId(), person, Instant.now(), "FIRST", "90.00");
        try (var threads = Executors.newVirtualThreadPerTaskExecutor()) {
            Callable<Integer> report = () -> school.report(body).statusCode();
            var answers = threads.invokeAll(
                    IntStream.range(0, 20).mapToObj(i -> report).toList());
            for (var answer : answers) {
                assertThat(answer.get()).isEqualTo(200);
            }
        }
        assertThat(factsAbout(person)).isEqualTo(1);
    }

    @Test
    void addressesInAnotherCaseAreTheSamePerson() {
        var person = someone();
        var order = school.buys(person, "FIRST", Instant.now());
        school.report(about("refunded", order, " " + person.toUpperCase(java.util.Locale.ROOT), Instant.now()));
        assertThat(factsAbout(person)).isEqualTo(3);
    }

    private long refused() {
        return jdbc.sql("select refused from connection where id = 'shop'")
                .query(Long.class)
                .single();
    }

    private long facts() {
        return jdbc.sql("select count(*) from fact").query(Long.class).single();
    }

    private long factsAbout(String person) {
        return jdbc.sql("select count(*) from fact where subject = ?")
                .param(person)
                .query(Long.class)
                .single();
    }
}
