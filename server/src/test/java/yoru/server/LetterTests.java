package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.someone;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Terms;
import yoru.formats.ThingChange;
import yoru.server.mapping.Mapping;
import yoru.server.mapping.Wanted;
import yoru.server.rulebooks.Rulebooks;

/** A letter says that a door is open only once the system behind the door has said so. */
@ServerTest
class LetterTests {

    @Autowired
    private TestSchool school;

    @Autowired
    private JdbcClient jdbc;

    @Autowired
    private Mapping mapping;

    @Autowired
    private Rulebooks rulebooks;

    private Operator operator;

    @BeforeEach
    void connectAMailbox() {
        operator = Operator.signedIn(school);
        school.connectAMailbox();
    }

    @AfterEach
    void switchTheMailboxOff() {
        school.switchTheMailboxOff();
    }

    private long waiting(String person) {
        return jdbc.sql("""
                        select count(*) from announcement a join person p on p.id = a.person_id
                        where p.person_key = ?""").param(person).query(Long.class).single();
    }

    private void fails(String person, String matter) {
        await().atMost(60, SECONDS)
                .until(() ->
                        jdbc.sql("""
                        select count(*) from delivery d join person p on p.id = d.person_id
                        where p.person_key = ? and d.matter = ? and d.failing_since is not null""").params(person, matter).query(Long.class).single() == 1);
    }

    @Test
    void itWaitsUntilTheClassroomHasConfirmed() {
        var person = someone();
        school.classroom.behave(person, StubClassroom.NONSENSE);
        school.buys(person, "HONEY", Instant.now());
        fails(person, "course/honey");
        assertThat(waiting(person)).isEqualTo(1);
        assertThat(school.letters(person))
                .as("nobody is told of a door that may be shut")
                .isEmpty();
        school.classroom.behave(person, StubClassroom.OBEDIENT);
        await().atMost(60, SECONDS).until(() -> school.letters(person).size() == 1);
        assertThat(school.letters(person).getFirst())
                .startsWith("Honey Harvest is open for you / ")
                .contains("- Honey Harvest. In Classroom:\n  " + school.classroom.address(), "Sign in as " + person)
                .doesNotContain("until");
        assertThat(waiting(person)).isZero();
    }

    /** Its order's page would say that it was sent. */
    @Test
    void aGiftWaitsUntilSomethingCarriesLetters() {
        school.switchTheMailboxOff();
        var receiver = someone();
        var order = TestSchool.orderId();
        var buyer = someone();
        var now = Instant.now();
        school.report(TestSchool.event("placed", buyer, now, """
                {"order": "%s", "channel": "shop", "currency": "EUR",
                 "lines": [{"line": "1", "product": "FIRST", "amount": "90.00", "giftTo": "%s"}]}""".formatted(order, receiver)));
        school.report(TestSchool.about("paid", order, buyer, now));
        var looked = "select count(*) from scheduled_tasks where task_name = 'send-gift' and last_success is not null";
        await().atMost(60, SECONDS)
                .until(() -> jdbc.sql(looked).query(Long.class).single() > 0);
        assertThat(gift(order)).isEqualTo("WAITING");
        school.connectAMailbox();
        jdbc.sql("update scheduled_tasks set execution_time = now() where task_name = 'send-gift'")
                .update();
        await().atMost(60, SECONDS).until(() -> school.letters(receiver).size() == 1);
        assertThat(gift(order)).isEqualTo("SENT");
    }

    private String gift(String order) {
        return operator.read("/api/orders/" + order + "/gifts")
                .path(0)
                .path("state")
                .asString();
    }

    @Test
    void whatIsRefusedIsLeftOutUntilItIsConfirmedAfterAll() {
        var person = someone();
        school.classroom.behave(person, (exchange, state) -> {
            if (exchange.getRequestURI().getPath().contains("/honey/")) {
                StubClassroom.say(exchange, 404, "{\"detail\": \"there is no course honey\"}");
            } else {
                StubClassroom.OBEDIENT.answer(exchange, state);
            }
        });
        var now = Instant.now();
        var order = TestSchool.orderId();
        school.report(TestSchool.event("placed", person, now, """
                {"order": "%s", "channel": "shop", "currency": "EUR",
                 "lines": [{"line": "1", "product": "HONEY", "amount": "110.00"},
                           {"line": "2", "product": "FIRST", "amount": "90.00"}]}""".formatted(order)));
        school.report(TestSchool.about("paid", order, person, now));
        await().atMost(60, SECONDS).until(() -> school.letters(person).size() == 1);
        assertThat(school.letters(person).getFirst())
                .startsWith("First Hive is open for you / ")
                .doesNotContain("Honey");
        assertThat(waiting(person)).isEqualTo(1);
        var opens = operator.read("/api/orders/" + order)
                .path("lines")
                .get(0)
                .path("opens")
                .get(0);
        assertThat(opens.path("confirmation").asString()).isEqualTo("REFUSED");

        school.classroom.behave(person, StubClassroom.OBEDIENT);
        operator.post("/api/systems/classroom/deliveries/again", "");
        await().atMost(60, SECONDS).until(() -> school.letters(person).size() == 2);
        assertThat(school.letters(person).getLast())
                .startsWith("Honey Harvest is open for you / ")
                .doesNotContain("First");
    }

    @Test
    void whatClosedBeforeItWasToldIsNotTold() {
        var person = someone();
        school.classroom.behave(person, StubClassroom.NONSENSE);
        var order = school.buys(person, "HONEY", Instant.now());
        fails(person, "course/honey");
        school.report(TestSchool.about("refunded", order, person, Instant.now()));
        await().atMost(60, SECONDS).until(() -> waiting(person) == 0);
        school.classroom.behave(person, StubClassroom.OBEDIENT);
        await().atMost(60, SECONDS)
                .until(() -> school.classroom.about(person).getLast().state().equals("closed"));
        assertThat(school.letters(person)).isEmpty();
    }

    private static ThingChange thing(String thing, String to) {
        return new ThingChange(thing, JsonMapper.shared().readTree(to));
    }

    private void publish(Wanted wanted) {
        mapping.publish(rulebooks.current().number(), wanted, "", "Owner");
    }

    /** The margin computes what the server does later; only the addresses of the seats and of their own page are made with the letter. */
    @Test
    void theLetterThatTheMarginShowsIsTheOneThatGoesWithTheSeatsThatCanBeGiven() {
        // a place and a product of its own: the school is shared with all other tests
        publish(new Wanted(
                null,
                List.of(thing("product/TEAM", """
                                {"title": "Team", "categories": [], "quantity": "seats"}"""), thing("course/team-hall", """
                                {"title": "Team hall", "categories": []}""")),
                List.of(new CellChange(new Source.OfProduct("TEAM"), Destination.whole("team-hall"), Terms.DEFAULT))));
        var person = someone();
        var act = """
                {"kind": "SELL", "person": "%s", "name": "Ada", "payment": {"kind": "ALREADY", "method": "cash", "reference": ""},
                 "items": [{"product": "TEAM", "quantity": 3, "price": 90.00}]}""".formatted(person);
        var shown = JsonMapper.shared()
                .readTree(operator.post("/api/desk/consequence", act).body())
                .path("people")
                .get(0)
                .path("letter");
        operator.post("/api/desk/acts", "{\"key\": \"%s\", \"act\": %s}".formatted(UUID.randomUUID(), act));
        await().atMost(60, SECONDS).until(() -> school.letters(person).size() == 1);
        var sent = school.letters(person).getFirst();
        assertThat(shown.path("text").asString()).contains("2 more places are yours to give");
        assertThat(sent)
                .isEqualTo(shown.path("subject").asString() + " / "
                        + shown.path("text")
                                .asString()
                                .replaceFirst(
                                        "\\(an address of your own\\)",
                                        sent.replaceAll("(?s).*(http\\S+/seats/\\S+).*", "$1"))
                                .replace(
                                        "(an address of your own)",
                                        sent.replaceAll("(?s).*(http\\S+/mine/\\S+).*", "$1")));
    }

    @Test
    void thoseWhomThePublishIsSaidToWriteToAreWrittenToAndNobodyElse() {
        var yesterday = someone();
        var longAgo = someone();
        school.buys(yesterday, "KIT", Instant.now().minus(Duration.ofHours(20)));
        school.buys(longAgo, "KIT", Instant.now().minus(Duration.ofDays(9)));
        var changes = """
                [{"source": "product/KIT", "target": "course/pollen", "terms": {"length": "held", "refund": "end"}}]""";
        var draft = "{\"changes\": %s}".formatted(changes);
        var said = await().atMost(60, SECONDS)
                .until(
                        () -> JsonMapper.shared()
                                .readTree(operator.post("/api/mapping/consequence", draft)
                                        .body()),
                        it -> it.path("people").findValuesAsString("address").containsAll(List.of(yesterday, longAgo)));
        var written = said.path("letters").asInt();
        var before = allLetters();
        var published = rulebooks.current().number();
        operator.post(
                "/api/mapping/publish",
                "{\"base\": %d, \"note\": \"\", \"changes\": %s}".formatted(published, changes));
        await().atMost(60, SECONDS).until(() -> school.letters(yesterday).size() == 1);
        await().atMost(60, SECONDS)
                .until(() -> school.classroom.about(longAgo).stream()
                        .anyMatch(it -> it.course().equals("pollen")));
        await().atMost(60, SECONDS).until(() -> waiting(yesterday) + waiting(longAgo) == 0);
        assertThat(school.letters(longAgo))
                .as("it has been theirs for nine days")
                .isEmpty();
        assertThat(allLetters() - before).isEqualTo(written);
    }

    private long allLetters() {
        return jdbc.sql("select count(*) from delivery where matter like 'letter/%'")
                .query(Long.class)
                .single();
    }

    @Test
    void aSchoolWordsTheLettersThatYoruWrites() {
        assertThat(operator.put("/api/letters/OPENED", "{\"subject\": \"x\", \"text\": \"{{opened}} {{price}}\"}")
                        .body())
                .contains("There is no {{price}} in this letter");
        assertThat(operator.put("/api/letters/GIFT", "{\"subject\": \"x\", \"text\": \"nothing\"}")
                        .statusCode())
                .isEqualTo(422);
        var words = """
                {"subject": "Come in: {{titles}}", "text": "Dear {{person.name}},\\n\\n{{opened}}\\n\\n{{places}}\\n\\n*{{school}}*"}""";
        assertThat(JsonMapper.shared()
                        .readTree(
                                operator.post("/api/letters/OPENED/look", words).body())
                        .path("html")
                        .asString())
                .contains("<p>Dear Ada Kovach,</p>", "<li>", "<em>");
        assertThat(operator.put("/api/letters/OPENED", words).statusCode()).isEqualTo(204);
        try {
            var person = someone();
            school.buys(person, "HONEY", Instant.now());
            await().atMost(60, SECONDS).until(() -> school.letters(person).size() == 1);
            assertThat(school.letters(person).getFirst())
                    .matches("(?s)Come in: Honey Harvest / Dear Ines Fitzmaurice,\n\n- Honey.*\n\n\\*.+\\*\\s*")
                    .doesNotContain("{{", "\n\n\n");
        } finally {
            assertThat(operator.delete("/api/letters/OPENED").statusCode()).isEqualTo(204);
        }
    }
}
