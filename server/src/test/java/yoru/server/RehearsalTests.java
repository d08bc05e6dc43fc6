package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.json;
import static yoru.server.TestSchool.someone;

import java.net.http.HttpResponse;
import java.time.Duration;
import java.time.Instant;
import java.util.Locale;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.formats.StoryDocument;
import yoru.formats.SystemsDocument;
import yoru.server.systems.Connectors;
import yoru.server.systems.SystemKind;

/** Stories are kept, run under a draft, and stand in the way of a publish that breaks them. */
@ServerTest
@DirtiesContext // what it keeps would be run at others' publishes
class RehearsalTests {

    private static final String FOR_GOOD =
            "{\"source\": \"product/FIRST\", \"target\": \"course/first-hive\", \"terms\": {\"length\": \"held\", \"refund\": \"end\"}}";
    private static final String FOR_A_YEAR =
            "{\"source\": \"product/FIRST\", \"target\": \"course/first-hive\", \"terms\": {\"length\": \"P1Y\", \"refund\": \"end\"}}";

    @Autowired
    private TestSchool school;

    @Autowired
    private Connectors connectors;

    private Operator operator;

    @BeforeEach
    void signIn() {
        operator = Operator.signedIn(school);
    }

    private static String story(String id) {
        return """
                {"yoru": "story/1", "id": "%s", "title": "A year, %s", "starts": "2030-03-04T09:00",
                 "people": [{"id": "ines", "name": "Ines Vale"}],
                 "steps": [
                   {"buys": {"lines": [{"product": "FIRST"}]}},
                   {"expect": {"exactly": ["course/first-hive"], "until": {"course/first-hive": "2031-03-04"},
                               "told": {"classroom": {"open": ["course/first-hive"]}}}},
                   {"after": "P1Y"},
                   {"expect": {"exactly": []}}]}""".formatted(id, id);
    }

    private JsonNode keep(String id) {
        var kept = operator.post("/api/rehearsals", "{\"seen\": 0, \"story\": %s}".formatted(story(id)));
        assertThat(kept.statusCode()).as(kept.body()).isEqualTo(200);
        return json(kept);
    }

    private HttpResponse<String> publish(String changes, String despite) {
        return operator.post(
                "/api/mapping/publish",
                "{\"base\": %d, \"changes\": [%s], \"note\": \"\", \"despite\": %s}"
                        .formatted(
                                operator.read("/api/mapping").path("version").asInt(),
                                changes,
                                JsonMapper.shared().writeValueAsString(despite)));
    }

    private JsonNode under(String changes) {
        return json(operator.post("/api/mapping/rehearsals", "{\"changes\": [%s]}".formatted(changes)));
    }

    @Test
    void aPublishThatBreaksAStoryWantsToKnowWhyAndTheStoryIsOnTodayAfterwards() {
        assertThat(keep("guarded").hasNonNull("fails")).isFalse();
        var before = under("").path("rehearsals").get(0);
        assertThat(before.path("holds").asBoolean()).isTrue();
        assertThat(before.path("expectations").asInt()).isEqualTo(4);

        var broken = under(FOR_GOOD).path("rehearsals").get(0);
        assertThat(broken.path("holds").asBoolean()).isFalse();
        assertThat(broken.path("not")
                        .valueStream()
                        .map(it -> it.path("step").asInt() + " "
                                + it.path("sentence").asString()))
                .containsExactly(
                        "1 course/first-hive should be open until 4 Mar 2031, is open without an end: order o0001, always",
                        "3 course/first-hive should not be open, is open: order o0001, always");

        int version = operator.read("/api/mapping").path("version").asInt();
        var refused = publish(FOR_GOOD, "");
        assertThat(refused.statusCode()).isEqualTo(409);
        assertThat(json(refused).path("rehearsals").get(0).asString()).isEqualTo("A year, guarded");
        assertThat(json(refused).path("detail").asString()).contains("nothing was");
        assertThat(operator.read("/api/mapping").path("version").asInt()).isEqualTo(version);

        assertThat(publish(FOR_GOOD, "It is sold for good from now on").statusCode())
                .isEqualTo(200);
        var latest = operator.read("/api/mapping/history").get(0);
        assertThat(latest.path("despite").get(0).asString()).isEqualTo("A year, guarded");
        assertThat(latest.path("why").asString()).isEqualTo("It is sold for good from now on");
        await().atMost(30, SECONDS)
                .until(() -> !operator.read("/api/today").path("rehearsals").isEmpty());
        assertThat(operator.read("/api/today")
                        .path("rehearsals")
                        .get(0)
                        .path("says")
                        .asString())
                .startsWith("course/first-hive should be open until 4 Mar 2031");

        assertThat(publish(FOR_A_YEAR, "").statusCode())
                .as("it mends the story")
                .isEqualTo(200);
        await().atMost(30, SECONDS)
                .until(() -> operator.read("/api/today").path("rehearsals").isEmpty());
        assertThat(operator.delete("/api/rehearsals/kept/guarded").statusCode()).isEqualTo(204);
        assertThat(operator.read("/api/rehearsals")).isEmpty();
    }

    @Test
    void runningAStoryChangesNothingAndSaysWhatWouldCome() {
        int facts = operator.read("/api/journal").size();
        var report = operator.post(
                "/api/mapping/rehearsal",
                "{\"draft\": {\"changes\": [%s]}, \"story\": %s}".formatted(FOR_GOOD, story("tried")));
        assertThat(report.statusCode()).as(report.body()).isEqualTo(200);
        var first = json(report).path("steps").get(0);
        assertThat(first.path("does").asString()).isEqualTo("Ines Vale buys First Hive");
        assertThat(first.at("/passages/0/people/0/moved/0/title").asString()).isEqualTo("First Hive");
        assertThat(first.at("/people/0/held/0/system").asString()).isEqualTo("classroom");
        assertThat(first.at("/passages/0/people/0/sent")
                        .valueStream()
                        .map(it -> it.path("text").asString()))
                .as("each thing as it is sent")
                .anyMatch(it -> it.startsWith("PUT ")
                        && it.contains("/api/enrolments/first-hive/ines%40story.invalid {")
                        && it.contains("\"name\":\"Ines Vale\",\"state\":\"open\""));
        assertThat(first.at("/passages/0/standing")).isEqualTo(first.path("people"));
        assertThat(json(report).path("holds").asBoolean()).isFalse();
        assertThat(operator.read("/api/journal").size()).isEqualTo(facts);
        assertThat(operator.read("/api/rehearsals")).isEmpty();
    }

    @Test
    void whatIsWrongIsSaidWithItsPlaceAndNobodyWritesOverWhatTheyHaveNotSeen() {
        var unknown = operator.post(
                "/api/mapping/rehearsal",
                "{\"draft\": {\"changes\": []}, \"story\": %s}"
                        .formatted(story("x").replace("\"FIRST\"", "\"FRIST\"")));
        assertThat(unknown.statusCode()).isEqualTo(400);
        assertThat(json(unknown).at("/errors/0/field").asString()).isEqualTo("steps[0].buys.lines[0].product");
        var noStory = operator.post("/api/rehearsals", "{\"seen\": 0, \"story\": {\"yoru\": \"story/1\"}}");
        assertThat(noStory.statusCode()).isEqualTo(400);
        assertThat(json(noStory).path("errors").findValuesAsString("field")).contains("steps", "starts");

        keep("mine");
        var again = operator.post("/api/rehearsals", "{\"seen\": 0, \"story\": %s}".formatted(story("mine")));
        assertThat(again.statusCode()).isEqualTo(409);
        assertThat(json(operator.post("/api/rehearsals", "{\"seen\": 1, \"story\": %s}".formatted(story("mine"))))
                        .path("revision")
                        .asInt())
                .isEqualTo(2);
        var file = operator.get("/api/rehearsals/kept/mine/file");
        assertThat(StoryDocument.read(file.body()).title()).isEqualTo("A year, mine");
        assertThat(operator.postYaml("/api/rehearsals/file", file.body()).statusCode())
                .isEqualTo(200);
        assertThat(operator.delete("/api/rehearsals/kept/mine").statusCode()).isEqualTo(204);
        assertThat(operator.delete("/api/rehearsals/kept/mine").statusCode()).isEqualTo(404);
    }

    /** The command without a server takes the kinds of systems to do what the connectors say that they can. */
    @Test
    void theKindsOfSystemsAreThoseOfTheConnectors() {
        assertThat(Stream.of(SystemKind.values())
                        .collect(Collectors.toMap(
                                kind -> kind.name().toLowerCase(Locale.ROOT),
                                kind -> connectors.of(kind).abilities())))
                .isEqualTo(SystemsDocument.KINDS);
    }

    /** Its classroom really was told, and told otherwise; what it does not answer is said. */
    @Test
    void forRealTheSystemsAreToldAndToldThatItIsOver() {
        var trip = json(forReal(story("real"), "\"classroom\""));
        var told = trip.path("told");
        assertThat(told.valueStream().map(it -> it.path("says").asString()))
                .as(trip.toString())
                .contains("open First Hive until 4 Mar 2031", "close First Hive");
        assertThat(told.valueStream().map(it -> it.path("well").asBoolean())).containsOnly(true);
        var past = forReal(story("past").replace("2030-03", "2020-03"), "\"classroom\"");
        assertThat(past.statusCode()).isEqualTo(409);
        assertThat(json(past).path("detail").asString()).contains("nothing was told");
    }

    private HttpResponse<String> forReal(String story, String systems) {
        return operator.post(
                "/api/rehearsals/for-real", "{\"story\": %s, \"systems\": [%s]}".formatted(story, systems));
    }

    /** One that is being tried is taken to be on; one that is off, or not there, is told nothing, nor are the others then. */
    @Test
    void forRealASystemThatIsBeingTriedIsToldTooAndNoneThatIsOff() {
        classroomBecomes("TRYING");
        try {
            var trip = json(forReal(story("tried"), "\"classroom\""));
            assertThat(trip.path("told").valueStream().map(it -> it.path("says").asString()))
                    .as(trip.toString())
                    .contains("open First Hive until 4 Mar 2031", "close First Hive");
            assertRefusedForReal("\"classroom\", \"nowhere\"");
            assertRefusedForReal("");
            classroomBecomes("OFF");
            assertRefusedForReal("\"classroom\"");
        } finally {
            classroomBecomes("ON");
        }
    }

    private void classroomBecomes(String state) {
        assertThat(operator.post("/api/systems/classroom/state", "{\"state\": \"%s\"}".formatted(state))
                        .statusCode())
                .isLessThan(300);
    }

    private void assertRefusedForReal(String systems) {
        var refused = forReal(story("tried"), systems);
        assertThat(refused.statusCode()).isEqualTo(409);
        assertThat(json(refused).path("detail").asString()).contains("Nothing was told");
    }

    @Test
    void whatHappenedToSomebodyBecomesAStoryWithoutTheirNameAndAddress() {
        var person = someone();
        school.buys(person, "FIRST", Instant.now().minus(Duration.ofDays(40)));
        school.buys(person, "HONEY", Instant.now().minus(Duration.ofDays(3)));
        await().atMost(60, SECONDS).until(() -> school.classroom.about(person).size() >= 2);
        var story = operator.get("/api/rehearsals/recorded?person=" + person).body();
        assertThat(story).doesNotContain(person).doesNotContain(person.substring(0, person.indexOf('@')));
        var report = json(operator.post(
                "/api/mapping/rehearsal", "{\"draft\": {\"changes\": []}, \"story\": %s}".formatted(story)));
        assertThat(report.path("steps").isEmpty()).as(story + report).isFalse();
        var steps = report.path("steps");
        assertThat(steps.get(steps.size() - 1)
                        .path("people")
                        .get(0)
                        .path("open")
                        .findValuesAsString("target"))
                .containsExactlyInAnyOrder("course/first-hive", "course/honey");
        assertThat(operator.get("/api/rehearsals/recorded?person=nobody@post.example")
                        .statusCode())
                .isEqualTo(404);
    }

    @Test
    void aStoryToBeginWithIsMadeOfAProductOrACourse() {
        for (String of : new String[] {"PRODUCT&id=HONEY", "COURSE&id=honey"}) {
            var story = operator.get("/api/rehearsals/trial?of=" + of).body();
            var report = json(operator.post(
                    "/api/mapping/rehearsal", "{\"draft\": {\"changes\": []}, \"story\": %s}".formatted(story)));
            assertThat(report.at("/steps/0/people/0/open/0/target").asString())
                    .as(of)
                    .isEqualTo("course/honey");
        }
        assertThat(operator.get("/api/rehearsals/trial?of=LEVEL&id=none").statusCode())
                .isEqualTo(404);
    }

    @Test
    void aStoryThatIsTooLongIsAnsweredWithALine() {
        var steps = IntStream.range(0, 10_000)
                .mapToObj(it -> "{\"after\": \"P1D\"}")
                .toList();
        var tooLong = story("long").replaceFirst("(?s)\"steps\": \\[.*", "\"steps\": " + steps + "}");
        var answer = operator.post(
                "/api/mapping/rehearsal", "{\"draft\": {\"changes\": []}, \"story\": %s}".formatted(tooLong));
        assertThat(answer.statusCode()).isEqualTo(400);
        assertThat(json(answer).at("/errors/0/problem").asString()).contains("at most 500 steps");
    }
}
