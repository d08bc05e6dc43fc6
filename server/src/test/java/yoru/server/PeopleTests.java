package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.about;
import static yoru.server.TestSchool.someone;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import tools.jackson.databind.JsonNode;

/** The list, one person as of other dates, the date ruler and the journal. */
@ServerTest
class PeopleTests {

    @Autowired
    private TestSchool school;

    @Autowired
    private JdbcClient jdbc;

    private Operator operator;

    @BeforeEach
    void signIn() {
        operator = Operator.signedIn(school);
    }

    @Test
    void asOfAnotherDateOneSeesWhatWasKnownThenAndWhatWillBe() {
        var person = someone();
        var bought = Instant.parse("2026-03-02T10:00:00Z");
        var refunded = Instant.parse("2026-05-02T10:00:00Z");
        var order = school.buys(person, "FIRST", bought);
        school.report(about("refunded", order, person, refunded));
        await().atMost(60, SECONDS)
                .until(() ->
                        !operator.read("/api/people?q=" + person).path("people").isEmpty());
        long id = operator.read("/api/people?q=" + person)
                .path("people")
                .get(0)
                .path("id")
                .asLong();

        assertThat(state(id, bought.minusSeconds(1))).as("before").isEmpty();
        assertThat(state(id, bought)).isEqualTo("OPEN");
        assertThat(end(id, bought)).as("the refund is not known yet").isEqualTo("2027-03-02T10:00:00Z");
        assertThat(state(id, refunded)).isEqualTo("ENDED");
        assertThat(end(id, refunded)).isEqualTo(refunded.toString());
        assertThat(operator.get("/api/people/" + id + "?at=yesterday").statusCode())
                .isEqualTo(400);
        assertThat(operator.get("/api/people/999999").statusCode()).isEqualTo(404);
    }

    @Test
    void whoLeftAListIsNamedOnItsPageAndOnTheirsUntilTheyAskForItAgain() {
        var person = someone();
        var left = Instant.now().minusSeconds(60);
        school.report(event("list.left", person, left));
        await().atMost(60, SECONDS).until(() -> whoLeft().contains(person));
        long id = operator.read("/api/people?q=" + person)
                .path("people")
                .get(0)
                .path("id")
                .asLong();
        var page = operator.read("/api/people/" + id).path("holdings").path("left");
        assertThat(page.findValuesAsString("id")).containsExactly("season-letter");
        assertThat(page.get(0).path("since").asString()).isEqualTo(left.toString());
        school.report(event("list.joined", person, left.plusSeconds(30)));
        await().atMost(60, SECONDS).until(() -> !whoLeft().contains(person));
        assertThat(operator.read("/api/people/" + id).path("holdings").path("left"))
                .isEmpty();
    }

    @Test
    void whoHasAThingIsWhoeverWasLetIn() {
        var keeps = someone();
        var returns = someone();
        var bought = Instant.now().truncatedTo(ChronoUnit.MILLIS).minusSeconds(120);
        long before = holders().path("before").asLong();
        school.buys(keeps, "FIRST", bought);
        var order = school.buys(returns, "FIRST", bought);
        await().atMost(60, SECONDS).until(() -> isIn(keeps) && isIn(returns));
        long now = holders().path("now").asLong();
        var page = holder(keeps).orElseThrow();
        assertThat(page.path("since").asString()).isEqualTo(bought.toString());
        assertThat(Instant.parse(page.path("until").asString())).isAfter(bought.plus(Duration.ofDays(364)));

        school.report(about("refunded", order, returns, bought.plusSeconds(60)));
        await().atMost(60, SECONDS).until(() -> !isIn(returns));
        assertThat(holders().path("now").asLong()).isEqualTo(now - 1);
        assertThat(holders().path("before").asLong()).isEqualTo(before + 1);
        assertThat(operator.get("/api/holders?target=nothing").statusCode()).isEqualTo(400);
    }

    private JsonNode holders() {
        return operator.read("/api/holders?target=course/first-hive");
    }

    private boolean isIn(String person) {
        return holder(person).isPresent();
    }

    private Optional<JsonNode> holder(String person) {
        var found = operator.read("/api/people?q=" + person).path("people");
        return holders()
                .path("latest")
                .valueStream()
                .filter(one -> one.path("person").equals(found.path(0).path("id")))
                .findFirst();
    }

    private List<String> whoLeft() {
        return operator.read("/api/mapping/things/list/season-letter")
                .path("left")
                .path("latest")
                .findValuesAsString("name");
    }

    private static String event(String type, String person, Instant time) {
        return TestSchool.event("x", person, time, "{\"list\": \"season-letter\"}")
                .replace("yoru.order.x", "yoru." + type);
    }

    @Test
    void theListIsSearchedSortedAndPagedByTheServer() {
        for (int n = 0; n < 3; n++) {
            school.buys(
                    "100%_" + n + "@list.example",
                    n == 1 ? "FIRST" : "HONEY",
                    Instant.now().minusSeconds(60 * n));
        }
        await().atMost(60, SECONDS).until(() -> jdbc.sql("""
                                select count(*) from opening o join person p on p.id = o.person_id
                                where p.person_key like '100%list.example'""").query(Long.class).single() == 3);
        assertThat(keys("?q=100%25_&sort=NEWEST"))
                .containsExactly("100%_0@list.example", "100%_1@list.example", "100%_2@list.example");
        assertThat(keys("?q=100%25_&sort=ENDS").getFirst())
                .as("an end before none")
                .isEqualTo("100%_1@list.example");
        for (String sort : List.of("NAME", "OPEN")) {
            assertThat(keys("?q=100%25_&sort=" + sort))
                    .as("of the same, the newest first")
                    .containsExactly("100%_0@list.example", "100%_1@list.example", "100%_2@list.example");
        }
        for (String sort : List.of("NEWEST", "NAME", "OPEN", "ENDS")) {
            assertThat(operator.read("/api/people?q=100%25_&sort=" + sort)
                            .path("people")
                            .valueStream())
                    .as("each with what they have, however the page is sorted")
                    .hasSize(3)
                    .allSatisfy(row -> {
                        assertThat(row.path("orders").asInt()).isEqualTo(1);
                        assertThat(row.path("open").asInt()).isEqualTo(1);
                        assertThat(row.has("nextEnd"))
                                .isEqualTo(row.path("key").asString().startsWith("100%_1"));
                    });
        }
        assertThat(keys("?q=100x_")).as("% and _ are letters to search for").isEmpty();
        assertThat(keys("?q=100%25_&page=1")).isEmpty();
        assertThat(operator.get("/api/people?sort=BY_SHOE_SIZE").statusCode()).isEqualTo(400);
    }

    @Test
    void theRulerCountsOpeningsAndEndingsByTheSchoolsDays() {
        // 23:30 UTC in summer is half past midnight of the next day in Dublin
        var lateEvening = Instant.parse("2024-07-01T23:30:00Z");
        var person = someone();
        school.buys(person, "FIRST", lateEvening);
        await().atMost(60, SECONDS)
                .until(() -> !operator.read("/api/ruler?from=2024-06-30&to=2024-07-04")
                        .isEmpty());
        var days = operator.read("/api/ruler?from=2024-06-30&to=2024-07-04");
        assertThat(days.findValuesAsString("day")).containsExactly("2024-07-02");
        assertThat(days.get(0).path("opened").asInt()).isEqualTo(1);
        assertThat(operator.read("/api/ruler?from=2025-07-01&to=2025-07-04")
                        .get(0)
                        .path("ended")
                        .asInt())
                .isEqualTo(1);
        var today = LocalDate.now(ZoneId.of("Europe/Dublin"));
        assertThat(operator.get("/api/ruler?from=" + today + "&to=" + today).statusCode())
                .isEqualTo(400);
        assertThat(operator.get("/api/ruler?from=1900-01-01&to=2026-01-01").statusCode())
                .isEqualTo(400);
    }

    @Test
    void theJournalShowsWhatFollowedFromAFactUnderIt() {
        var person = someone();
        school.buys(person, "FIRST", Instant.now().minus(Duration.ofMinutes(1)));
        await().atMost(60, SECONDS)
                .until(() -> jdbc.sql("""
                                select count(*) from journal_entry j join person p on p.id = j.person_id
                                where p.person_key = ? and j.kind = 'ANSWERED'""").param(person).query(Long.class).single() == 1);
        long id = operator.read("/api/people?q=" + person)
                .path("people")
                .get(0)
                .path("id")
                .asLong();
        var lines = operator.read("/api/journal?person=" + id);
        assertThat(lines.findValuesAsString("kind")).contains("OPENED", "ANSWERED");
        assertThat(lines.valueStream().map(line -> line.path("kind").asString()))
                .as("what followed stands under its fact only")
                .containsOnly("FACT");
        assertThat(lines.valueStream()
                        .flatMap(line -> line.path("followed").valueStream())
                        .map(line -> line.path("title").asString()))
                .containsExactly("Access opened", "Classroom: enrolled");
        var last = lines.get(lines.size() - 1).path("id").asLong();
        assertThat(operator.read("/api/journal?person=" + id + "&before=" + last)
                        .isEmpty())
                .isTrue();
    }

    private String state(long id, Instant at) {
        return operator.read("/api/people/" + id + "?at=" + at)
                .path("targets")
                .path(0)
                .path("windows")
                .path(0)
                .path("state")
                .asString("");
    }

    private String end(long id, Instant at) {
        return operator.read("/api/people/" + id + "?at=" + at)
                .path("targets")
                .path(0)
                .path("windows")
                .path(0)
                .path("end")
                .asString("");
    }

    private java.util.List<String> keys(String query) {
        return operator.read("/api/people" + query).path("people").findValuesAsString("key");
    }
}
