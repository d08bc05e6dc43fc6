package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.about;
import static yoru.server.TestSchool.event;
import static yoru.server.TestSchool.someone;

import java.net.http.HttpResponse;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.simple.JdbcClient;
import tools.jackson.databind.JsonNode;

/** A sale's way from the webhook to the classroom, with everything that can go wrong at its end. */
@ServerTest
class SaleTests {

    @Autowired
    private TestSchool school;

    @Autowired
    private JdbcClient jdbc;

    @Autowired
    private Environment environment;

    @Test
    void aPaidOrderOpensTheCourseAndARefundClosesIt() {
        var person = someone();
        var bought = Instant.now().truncatedTo(ChronoUnit.SECONDS);
        var order = school.buys(person, "FIRST", bought);
        var opened = eventuallyTold(person, 1).getFirst();
        assertThat(opened.course()).isEqualTo("first-hive");
        assertThat(opened.state()).isEqualTo("open");
        assertThat(opened.authorization()).isEqualTo("Bearer classroom-token");
        assertThat(opened.idempotencyKey()).isNotEmpty();
        assertThat(Instant.parse(opened.wanted().path("until").asString()))
                .isBetween(bought.plus(364, ChronoUnit.DAYS), bought.plus(367, ChronoUnit.DAYS));

        school.report(about("refunded", order, person, Instant.now()));
        var closed = eventuallyTold(person, 2).getLast();
        assertThat(closed.state()).isEqualTo("closed");
        assertThat(closed.wanted().path("revision").asInt())
                .isGreaterThan(opened.wanted().path("revision").asInt());
        var why = eventuallyAnswered(person)
                .path("targets")
                .get(0)
                .path("windows")
                .get(0);
        assertThat(why.path("state").asString()).isEqualTo("ENDED");
        assertThat(why.path("why").findValuesAsString("title")).contains("Bought and paid", "Refunded");
    }

    @Test
    void theSecondReasonKeepsTheDoorOpen() {
        var person = someone();
        var first = school.buys(person, "FIRST", Instant.now().minus(Duration.ofDays(2)));
        school.buys(person, "FIRST", Instant.now().minus(Duration.ofDays(1)));
        await().atMost(60, SECONDS)
                .until(() -> untilOf(person).isAfter(Instant.now().plus(363, ChronoUnit.DAYS)));
        school.report(about("refunded", first, person, Instant.now()));
        var operator = Operator.signedIn(school);
        await().atMost(60, SECONDS)
                .until(() -> page(operator, person).findValuesAsString("title").contains("Refunded"));
        var windows = page(operator, person).path("targets").get(0).path("windows");
        assertThat(windows.findValuesAsString("state")).containsExactly("OPEN");
        assertThat(windows.get(0).path("bars").size()).isEqualTo(2);
        await().atMost(60, SECONDS)
                .until(() -> jdbc.sql("select count(*) from scheduled_tasks where task_name = 'after-facts'")
                                .query(Long.class)
                                .single()
                        == 0);
        assertThat(school.classroom.about(person))
                .extracting(StubClassroom.Told::state)
                .containsOnly("open");
    }

    @Test
    void aFutureEndHappensByItself() {
        var person = someone();
        school.buys(person, "DAY", Instant.now().minus(Duration.ofDays(1)).plusSeconds(3));
        assertThat(eventuallyTold(person, 1).getFirst().state()).isEqualTo("open");
        assertThat(eventuallyTold(person, 2).getLast().state()).isEqualTo("closed");
    }

    @Test
    void anOrderForAProductNobodyKnowsTakesEffectOnceItIsMapped() {
        var person = someone();
        var operator = Operator.signedIn(school);
        school.report(TestSchool.placed("U-1", person, Instant.now(), "POLLEN", "60.00"));
        school.report(about("paid", "U-1", person, Instant.now()));
        school.report(TestSchool.placed("U-2", person, Instant.now(), "STARTER-OLD", "60.00"));
        await().atMost(60, SECONDS)
                .until(() -> findings(operator)
                        .containsAll(List.of("OPENS_NOTHING product/POLLEN", "UNKNOWN_PRODUCT product/STARTER-OLD")));
        assertThat(school.classroom.about(person)).isEmpty();
        school.publish("POLLEN", "pollen", "P1Y");
        assertThat(eventuallyTold(person, 1).getFirst().course()).isEqualTo("pollen");
        assertThat(findings(operator))
                .doesNotContain("OPENS_NOTHING product/POLLEN")
                .contains("UNKNOWN_PRODUCT product/STARTER-OLD", "EMPTY course/pollen", "SIDE_DOOR course/tools");
    }

    @Test
    void twoOfWhatOpensOnceIsUrgentUntilTheMoneyOfOneIsGivenBack() {
        var person = someone();
        var operator = Operator.signedIn(school);
        var order = TestSchool.orderId();
        school.report(TestSchool.placed(order, person, Instant.now(), "FIRST", "180.00")
                .replace("\"product\": \"FIRST\"", "\"product\": \"FIRST\", \"quantity\": 2"));
        var surplus = "PAID_FOR_MORE order/" + order;
        assertThat(findings(operator)).doesNotContain(surplus);
        school.report(about("paid", order, person, Instant.now()));
        await().atMost(60, SECONDS).until(() -> findings(operator).contains(surplus));
        assertThat(operator.read("/api/today").path("findings").findValuesAsString("subject"))
                .contains("order/" + order);
        var listed = operator.read("/api/orders?q=" + person).path("orders").get(0);
        assertThat(listed.path("products").get(0).asString()).isEqualTo("First Hive × 2");
        school.report(event(
                "refunded",
                person,
                Instant.now(),
                "{\"order\": \"%s\", \"line\": \"1\", \"amount\": \"90.00\"}".formatted(order)));
        await().atMost(60, SECONDS).until(() -> !findings(operator).contains(surplus));
    }

    @Test
    void aClassroomThatIsAwaySlowOrTalksNonsenseGetsItLater() {
        var person = someone();
        var tries = new AtomicInteger();
        school.classroom.behave(person, (exchange, state) -> {
            switch (tries.incrementAndGet()) {
                case 1 -> StubClassroom.BROKEN_OFF.answer(exchange, state);
                case 2 -> StubClassroom.NONSENSE.answer(exchange, state);
                case 3 -> StubClassroom.say(exchange, 500, "{\"detail\": \"bees in the server\"}");
                case 4 -> StubClassroom.say(exchange, 200, "{\"state\": \"closed\"}");
                default -> StubClassroom.OBEDIENT.answer(exchange, state);
            }
        });
        school.buys(person, "HONEY", Instant.now());
        var told = eventuallyTold(person, 5);
        assertThat(told)
                .extracting(StubClassroom.Told::idempotencyKey)
                .as("one key for all tries")
                .hasSize(5);
        assertThat(told.stream().map(StubClassroom.Told::idempotencyKey).distinct())
                .hasSize(1);
        var system = eventuallyAnswered(person)
                .path("targets")
                .get(0)
                .path("systems")
                .get(0);
        assertThat(system.path("answer").asString()).isEqualTo("enrolled");
        assertThat(system.path("attempts").asInt()).isEqualTo(5);
        assertThat(failuresOf(person))
                .hasSize(1)
                .allSatisfy(line -> assertThat(line).contains("broke off"));
    }

    @Test
    void retryAfterIsHonoured() {
        var person = someone();
        var times = new java.util.concurrent.CopyOnWriteArrayList<Instant>();
        school.classroom.behave(person, (exchange, state) -> {
            times.add(Instant.now());
            if (times.size() == 1) {
                exchange.getResponseHeaders().add("Retry-After", "2");
                StubClassroom.say(exchange, 429, "{\"detail\": \"not so fast\"}");
            } else {
                StubClassroom.OBEDIENT.answer(exchange, state);
            }
        });
        school.buys(person, "HONEY", Instant.now());
        eventuallyTold(person, 2);
        assertThat(Duration.between(times.get(0), times.get(1))).isGreaterThanOrEqualTo(Duration.ofSeconds(2));
    }

    @Test
    void afterTheTimeAllowedItIsGivenUpAndCanBeRepeatedByHand() {
        var person = someone();
        school.classroom.behave(person, (exchange, state) -> StubClassroom.say(exchange, 503, "{}"));
        school.buys(person, "HONEY", Instant.now());
        var operator = Operator.signedIn(school);
        await().atMost(60, SECONDS)
                .until(() -> system(operator, person).path("state").asString().equals("GIVEN_UP"));
        var failing = operator.read("/api/today").path("failing").get(0);
        assertThat(failing.path("said").asString()).isEqualTo("answered 503");
        assertThat(failing.path("givenUp").asInt()).isEqualTo(1);

        school.classroom.behave(person, StubClassroom.OBEDIENT);
        long id = system(operator, person).path("id").asLong();
        assertThat(operator.post("/api/deliveries/" + id + "/again", "").statusCode())
                .isEqualTo(202);
        await().atMost(60, SECONDS)
                .until(() -> system(operator, person).path("state").asString().equals("ANSWERED"));
        assertThat(operator.read("/api/today").path("failing").isEmpty()).isTrue();
        assertThat(operator.post("/api/deliveries/999999/again", "").statusCode())
                .isEqualTo(404);
    }

    @Test
    void ofOnOffOnWhileTheClassroomIsAwayOnlyWhatIsTrueNowArrives() {
        var person = someone();
        school.classroom.behave(person, (exchange, state) -> StubClassroom.say(exchange, 503, "{}"));
        var first = school.buys(person, "HONEY", Instant.now().minusSeconds(30));
        eventuallyTold(person, 1);
        school.report(about("refunded", first, person, Instant.now().minusSeconds(20)));
        await().atMost(60, SECONDS)
                .until(() ->
                        system(Operator.signedIn(school), person).path("open").asBoolean() == false);
        school.buys(person, "HONEY", Instant.now().minusSeconds(10));
        await().atMost(60, SECONDS)
                .until(() ->
                        system(Operator.signedIn(school), person).path("open").asBoolean());
        int before = school.classroom.about(person).size();
        school.classroom.behave(person, StubClassroom.OBEDIENT);
        eventuallyAnswered(person);
        var after = school.classroom.about(person);
        assertThat(after.subList(before, after.size()))
                .extracting(StubClassroom.Told::state)
                .containsOnly("open");
    }

    @Test
    void twoServersOnOneDatabaseShareTheWorkAndDoNothingTwice() throws Exception {
        var sameDatabase = Stream.of(
                        "spring.datasource.url", "spring.datasource.username", "spring.datasource.password", "yoru.key")
                .map(name -> "--" + name + "=" + environment.getProperty(name));
        var arguments =
                Stream.concat(sameDatabase, Stream.of("--server.port=0")).toArray(String[]::new);
        try (var second = new SpringApplicationBuilder(YoruServer.class).run(arguments)) {
            var port = second.getEnvironment().getRequiredProperty("local.server.port");
            var people = IntStream.range(0, 40).mapToObj(i -> someone()).toList();
            try (var threads = Executors.newVirtualThreadPerTaskExecutor()) {
                var work = people.stream()
                        .map(person -> threads.submit(() -> {
                            var order = TestSchool.orderId();
                            var placed = TestSchool.placed(order, person, Instant.now(), "FIRST", "90.00");
                            school.report(placed);
                            return school.reportTo(
                                    "http://127.0.0.1:" + port, about("paid", order, person, Instant.now()));
                        }))
                        .toList();
                for (var answer : work) {
                    HttpResponse<String> response = answer.get();
                    assertThat(response.statusCode()).isEqualTo(200);
                }
            }
            people.forEach(person -> eventuallyTold(person, 1));
            await().atMost(60, SECONDS)
                    .until(() -> jdbc.sql("select count(*) from delivery where status <> 'ANSWERED'")
                                    .query(Long.class)
                                    .single()
                            == 0);
            assertThat(people)
                    .as("whoever was told twice, for an answer was slow, was told under the same key")
                    .allSatisfy(person -> assertThat(school.classroom.about(person).stream()
                                    .map(StubClassroom.Told::idempotencyKey)
                                    .distinct())
                            .hasSize(1));
            assertThat(jdbc.sql("""
                                    select count(*) from journal_entry j join person p on p.id = j.person_id
                                    where j.kind = 'OPENED' and p.person_key in (:people)""").param("people", people).query(Long.class).single())
                    .isEqualTo(40);
        }
    }

    private List<StubClassroom.Told> eventuallyTold(String person, int times) {
        await().atMost(60, SECONDS).until(() -> school.classroom.about(person).size() >= times);
        return school.classroom.about(person);
    }

    private JsonNode eventuallyAnswered(String person) {
        var operator = Operator.signedIn(school);
        await().atMost(60, SECONDS)
                .until(() -> system(operator, person).path("state").asString().equals("ANSWERED"));
        return page(operator, person);
    }

    private Instant untilOf(String person) {
        var told = school.classroom.about(person);
        return told.isEmpty()
                ? Instant.EPOCH
                : Instant.parse(told.getLast().wanted().path("until").asString());
    }

    private List<String> failuresOf(String person) {
        return jdbc.sql("""
                        select title from journal_entry j join person p on p.id = j.person_id
                        where j.kind = 'FAILED' and p.person_key = ?""").param(person).query(String.class).list();
    }

    private static JsonNode page(Operator operator, String person) {
        var id = operator.read("/api/people?q=" + person)
                .path("people")
                .get(0)
                .path("id")
                .asLong();
        return operator.read("/api/people/" + id);
    }

    private static JsonNode system(Operator operator, String person) {
        return page(operator, person).path("targets").path(0).path("systems").path(0);
    }

    private static List<String> findings(Operator operator) {
        return StreamSupport.stream(operator.read("/api/today").path("findings").spliterator(), false)
                .map(one ->
                        one.path("kind").asString() + " " + one.path("subject").asString())
                .toList();
    }
}
