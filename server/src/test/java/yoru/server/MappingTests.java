package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.json;
import static yoru.server.TestSchool.someone;

import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Drafts, their consequence, publishing by two operators at once. */
@ServerTest
@DirtiesContext // it takes links away that others use
class MappingTests {

    private static final String KIT_OPENS_TOOLS =
            "{\"source\": \"product/KIT\", \"target\": \"course/tools\", \"terms\": {\"length\": \"P6M\", \"refund\": \"keep\"}}";

    @Autowired
    private TestSchool school;

    private Operator operator;

    @BeforeEach
    void signIn() {
        operator = Operator.signedIn(school);
    }

    @Test
    void theConsequenceIsWhatPublishingThenDoes() {
        var gains = someone();
        var loses = someone();
        var shorter = someone();
        school.buys(gains, "KIT", Instant.now().minus(Duration.ofDays(3)));
        school.buys(loses, "HONEY", Instant.now().minus(Duration.ofDays(3)));
        school.buys(shorter, "FIRST", Instant.now().minus(Duration.ofDays(3)));
        await().atMost(60, SECONDS)
                .until(() -> school.classroom.about(loses).size()
                                + school.classroom.about(shorter).size()
                        == 2);
        var changes = """
                [%s, {"source": "product/HONEY", "target": "course/honey"},
                 {"source": "product/FIRST", "target": "course/first-hive", "terms": {"length": "P6M", "refund": "end"}}]""".formatted(KIT_OPENS_TOOLS);
        var consequence = json(operator.post("/api/mapping/consequence", "{\"changes\": " + changes + "}"));
        assertThat(consequence.path("gain").path("people").asInt()).isEqualTo(1);
        assertThat(consequence.path("lose").path("people").asInt()).isGreaterThanOrEqualTo(1);
        assertThat(consequence.path("shorter").path("people").asInt()).isGreaterThanOrEqualTo(1);
        assertThat(consequence.path("people").findValuesAsString("kind")).contains("GAINS", "LOSES", "SHORTER");
        assertThat(operator.post("/api/mapping/consequence/list", "{\"changes\": " + changes + "}")
                        .body())
                .startsWith("person,target,change,when,before,after\n")
                .contains(gains + ",course/tools,gains,now,,", loses + ",course/honey,loses,now,");
        assertThat(school.classroom.about(gains))
                .as("nothing happens before publishing")
                .isEmpty();

        int base = grid().path("version").asInt();
        var published = json(publish(base, changes));
        assertThat(published.path("number").asInt()).isEqualTo(base + 1);
        assertThat(published.path("gained").asInt())
                .isEqualTo(consequence.path("gain").path("people").asInt());
        assertThat(published.path("lost").asInt())
                .isEqualTo(consequence.path("lose").path("people").asInt());
        await().atMost(60, SECONDS).until(() -> !school.classroom.about(gains).isEmpty());
        await().atMost(60, SECONDS)
                .until(() -> school.classroom.about(loses).getLast().state().equals("closed"));
        await().atMost(60, SECONDS).until(() -> school.classroom.about(shorter).size() == 2);
        var latest = operator.read("/api/mapping/history").get(0);
        assertThat(latest.path("difference").valueStream().map(JsonNode::asString))
                .containsExactlyInAnyOrder(
                        "Smoker & veil opens Tools for 6 months; a refund leaves it open",
                        "First Hive opens First Hive: for 1 year; a refund ends it → for 6 months; a refund ends it",
                        "Honey Harvest no longer opens Honey Harvest (before: always; a refund ends it)");
        assertThat(latest.path("by").asString()).isEqualTo("Owner");
    }

    @Test
    void ofTwoWhoPublishAtOnceOneIsToldAndLosesNothing() throws Exception {
        int base = grid().path("version").asInt();
        try (var threads = Executors.newVirtualThreadPerTaskExecutor()) {
            var answers = IntStream.range(0, 2)
                    .mapToObj(n -> threads.submit(() -> publish(base, """
                            [{"source": "product/DAY", "target": "course/tools", "terms": {"length": "P%dD", "refund": "end"}}]""".formatted(n + 1))))
                    .toList();
            var statuses = new java.util.ArrayList<Integer>();
            for (var answer : answers) {
                statuses.add(answer.get().statusCode());
            }
            assertThat(statuses).containsExactlyInAnyOrder(200, 409);
        }
        var stale = publish(base, "[%s]".formatted(KIT_OPENS_TOOLS));
        assertThat(stale.statusCode()).isEqualTo(409);
        assertThat(json(stale).path("latest").asInt()).isEqualTo(base + 1);
        assertThat(json(stale).path("detail").asString()).contains("your draft is kept");
        assertThat(grid().path("version").asInt()).isEqualTo(base + 1);
    }

    @Test
    void whatTheRulebookLacksIsRefusedWithItsPlace() {
        int base = grid().path("version").asInt();
        var unknown = publish(base, KIT_OPENS_TOOLS.replace("tools", "tulls").transform("[%s]"::formatted));
        assertThat(unknown.statusCode()).isEqualTo(400);
        assertThat(unknown.body()).contains("tulls");
        var noPeriod =
                publish(base, KIT_OPENS_TOOLS.replace("P6M", "half a year").transform("[%s]"::formatted));
        assertThat(noPeriod.statusCode()).isEqualTo(400);
        assertThat(noPeriod.body()).contains("terms.length");
        var negative = publish(base, KIT_OPENS_TOOLS.replace("P6M", "P-6M").transform("[%s]"::formatted));
        assertThat(negative.statusCode()).isEqualTo(400);
        assertThat(publish(base, "[]").statusCode()).isEqualTo(400);
        assertThat(operator.post("/api/mapping/publish", "{\"base\": ").statusCode())
                .isEqualTo(400);
        assertThat(grid().path("version").asInt()).isEqualTo(base);
    }

    @Test
    void aWholeRulebookIsReadAsADraftAndTakenBackExactly() {
        var before = operator.get("/api/mapping/rulebook").body();
        int base = grid().path("version").asInt();
        var document = before.replace("opensOn: \"paid\"", "opensOn: fulfilled") + """
                levels: [ { id: keeper, title: Keeper, rank: 1 } ]
                """;
        var rows = document.replace("links:\n", """
                links:
                - id: L-keeper
                  from: { level: keeper }
                  to: [ { category: Starter, except: [tools] }, { course: honey } ]
                  terms: { starts: { after: P3D }, until: 2030-01-01T00:00:00 }
                """);
        var read = operator.postYaml("/api/mapping/rulebook", rows);
        assertThat(read.statusCode()).as(read.body() + before).isEqualTo(200);
        var draft = json(read);
        assertThat(draft.path("things").findValuesAsString("thing"))
                .containsExactlyInAnyOrder("level/keeper", "school/opensOn");
        assertThat(draft.path("cells").findValuesAsString("target"))
                .containsExactlyInAnyOrder("category/Starter", "course/honey");
        assertThat(grid().path("version").asInt()).as("nothing is published").isEqualTo(base);

        assertThat(publishWhole(base, draft).statusCode()).isEqualTo(200);
        var cell = grid().path("cells")
                .valueStream()
                .filter(it -> it.path("target").asString().equals("category/Starter"))
                .findFirst()
                .orElseThrow();
        assertThat(cell.path("terms").path("except").get(0).asString()).isEqualTo("tools");
        assertThat(cell.path("terms").path("starts").path("after").asString()).isEqualTo("P3D");
        assertThat(publish(base + 1, "[%s]".formatted(cell)).statusCode())
                .as("what the grid shows can be said again")
                .isEqualTo(200);

        var back = operator.read("/api/mapping/history/%d/back".formatted(base + 2));
        assertThat(publishWhole(base + 2, back).statusCode()).isEqualTo(200);
        var version = "/api/mapping/rulebook?version=";
        assertThat(operator.get(version + (base + 3)).body())
                .isEqualTo(operator.get(version + (base + 1)).body());
        var earlier = operator.read("/api/mapping/history/%d/back".formatted(base + 1));
        assertThat(earlier.has("document")).as("others came after it").isFalse();
        assertThat(earlier.path("cells").findValuesAsString("target"))
                .containsExactlyInAnyOrder("category/Starter", "course/honey");
        assertThat(earlier.path("cells").findValues("terms")).isEmpty();
        var restored = json(operator.postYaml("/api/mapping/rulebook", before));
        assertThat(publishWhole(base + 3, restored).statusCode()).isEqualTo(200);
        assertThat(operator.get("/api/mapping/rulebook").body()).isEqualTo(before);
    }

    @Test
    void aRulebookThatCannotBeUsedIsRefusedWithEveryPlace() {
        var fault = operator.postYaml("/api/mapping/rulebook", "yoru: rulebook/1\nlinks: [ { id: L } ]\n");
        assertThat(fault.statusCode()).isEqualTo(400);
        assertThat(json(fault).path("errors").isEmpty()).isFalse();
        assertThat(operator.postYaml("/api/mapping/rulebook", "a: [").statusCode())
                .isEqualTo(400);
        assertThat(operator.get("/api/mapping/history/9999/back").statusCode()).isEqualTo(404);
        assertThat(operator.get("/api/mapping/rulebook?version=9999").statusCode())
                .isEqualTo(404);
    }

    /** They are computed by the command; what nobody carries out is not said to be in force. */
    @Test
    void whatIsAcceptedStaysQuietUntilWhatItRestsOnChanges() {
        var finding = sideDoor("/api/findings");
        var accepting = """
                {"kind": "SIDE_DOOR", "subject": "course/tools", "evidence": "%s", "reason": "free on purpose"}""";
        assertThat(operator.post("/api/findings/accept", accepting.formatted("something else"))
                        .statusCode())
                .isEqualTo(409);
        var evidence = finding.path("evidence").asString();
        assertThat(operator.post("/api/findings/accept", accepting.formatted(evidence))
                        .statusCode())
                .isEqualTo(204);
        assertThat(sideDoor("/api/findings").path("acceptance").path("reason").asString())
                .isEqualTo("free on purpose");
        assertThat(operator.read("/api/today").path("findings").findValuesAsString("kind"))
                .doesNotContain("SIDE_DOOR");
        publish(grid().path("version").asInt(), """
                [{"source": "product/POLLEN", "target": "course/tools", "terms": {"length": "P5D", "refund": "end"}}]""");
        assertThat(sideDoor("/api/findings").has("acceptance"))
                .as("one link more")
                .isFalse();
        operator.post("/api/findings/reopen", "{\"kind\": \"SIDE_DOOR\", \"subject\": \"course/tools\"}");
    }

    @Test
    void aDraftIsToldWhatItBringsBeforeItIsPublished() {
        publish(grid().path("version").asInt(), """
                [{"source": "product/POLLEN", "target": "course/pollen", "terms": {"length": "P5D", "refund": "end"}}]""");
        var found = operator.read("/api/findings").size();
        var closing = json(operator.post(
                "/api/findings/draft",
                "{\"changes\": [{\"source\": \"product/POLLEN\", \"target\": \"course/pollen\"}]}"));
        assertThat(closing.path("brought").findValuesAsString("kind")).contains("NO_WAY_IN");
        assertThat(closing.path("brought").findValuesAsString("title").toString())
                .contains("Pollen Lab");
        var opening = json(operator.post("/api/findings/draft", "{\"changes\": [%s]}".formatted(KIT_OPENS_TOOLS)));
        assertThat(opening.path("standing").findValuesAsString("subject"))
                .as("its door stands open, and the draft opens it once more")
                .contains("course/tools");
        assertThat(operator.read("/api/findings").size())
                .as("nothing was published")
                .isEqualTo(found);
        var selfish = operator.post("/api/findings/draft", """
                {"things": [{"thing": "tag/ring", "to": {"title": "Ring"}}], "changes": [
                 {"source": "tag/ring", "target": "tag/ring", "terms": {"length": "held", "refund": "end"}}]}""");
        assertThat(selfish.statusCode()).isEqualTo(400);
        assertThat(selfish.body()).contains("the tag Ring leads to the tag Ring again");
    }

    @Test
    void productsAreProposedToCoursesOfTheSameName() {
        int base = grid().path("version").asInt();
        publish(base, """
                [{"source": "product/POLLEN", "target": "course/pollen"},
                 {"source": "product/POLLEN", "target": "course/tools"}]""");
        var proposals = operator.read("/api/mapping/proposals");
        var pollen = proposals
                .valueStream()
                .filter(it -> it.path("source").asString().equals("Pollen Lab"))
                .findFirst()
                .orElseThrow(() -> new AssertionError(proposals.toString()));
        assertThat(pollen.path("cell").path("target").asString()).isEqualTo("course/pollen");
        assertThat(pollen.path("sure").asInt()).isEqualTo(95);
        assertThat(proposals.findValuesAsString("source")).as("a thing to post").doesNotContain("Smoker & veil");
        assertThat(operator.post("/api/mapping/consequence", "{\"changes\": [%s]}".formatted(pollen.path("cell")))
                        .statusCode())
                .isEqualTo(200);
    }

    @Test
    void aLevelTermsUnderANameAndTheSchoolsTagsAreMadeInADraft() {
        var before = operator.get("/api/mapping/rulebook").body();
        int base = grid().path("version").asInt();
        var things = """
                [{"thing": "level/keeper", "to": {"title": "Keeper", "rank": 1, "allowance": {"courses": 1}}},
                 {"thing": "terms/half", "to": {"title": "Half a year", "terms": {"length": "P6M", "refund": "keep"}}},
                 {"thing": "school/tagNames", "to": [{"role": "bought", "name": "{course}-bought"}]}]""";
        var cell = """
                {"source": "level/keeper", "target": "course/tools", "terms": {"length": "held", "refund": "end", "named": "half"}}""";
        var draft = "{\"changes\": [%s], \"things\": %s}".formatted(cell, things);

        var sample = json(operator.post(
                "/api/mapping/sample",
                "{\"draft\": %s, \"source\": \"level/keeper\", \"target\": \"course/tools\"}".formatted(draft)));
        assertThat(sample.get(0).path("what").asString()).isEqualTo("Gets the level today");
        assertThat(sample.get(0).path("open").get(0).asString())
                .as("for half a year, by the terms' name")
                .contains(" to ");

        var made = json(operator.post(
                "/api/mapping/course-tags", "{\"draft\": %s, \"course\": \"first-hive\"}".formatted(draft)));
        assertThat(made.path("things").findValuesAsString("thing")).containsExactly("tag/first-hive-bought");
        assertThat(made.path("cells").findValuesAsString("target")).containsOnly("tag/first-hive-bought");
        assertThat(made.path("cells").findValuesAsString("source")).contains("product/FIRST");

        assertThat(operator.post(
                                "/api/mapping/publish",
                                "{\"base\": %d, \"note\": \"\", ".formatted(base) + draft.substring(1))
                        .statusCode())
                .isEqualTo(200);
        assertThat(operator.read("/api/mapping/things").path("levels").findValuesAsString("id"))
                .contains("keeper");
        var shorter =
                "[{\"thing\": \"terms/half\", \"to\": {\"title\": \"Half a year\", \"terms\": {\"length\": \"P5M\"}}}]";
        assertThat(operator.post("/api/mapping/publish", """
                        {"base": %d, "note": "", "changes": [], "things": %s}""".formatted(base + 1, shorter))
                        .statusCode())
                .isEqualTo(200);
        assertThat(grid().path("cells")
                        .valueStream()
                        .filter(it -> it.path("source").asString().equals("level/keeper"))
                        .map(it -> it.path("terms").path("length").asString()))
                .as("changed in one place")
                .containsExactly("P5M");

        var inUse = operator.post("/api/mapping/publish", """
                {"base": %d, "note": "", "changes": [], "things": [{"thing": "level/keeper"}]}""".formatted(base + 2));
        assertThat(inUse.statusCode()).as("a link still starts from it").isEqualTo(400);
        assertThat(inUse.body()).contains("keeper");
        var back = json(operator.postYaml("/api/mapping/rulebook", before));
        assertThat(publishWhole(base + 2, back).statusCode()).isEqualTo(200);
        assertThat(operator.get("/api/mapping/rulebook").body()).isEqualTo(before);
    }

    @Test
    void aThingSaysWhereItComesFromAndWhoBoughtIt() {
        int before = operator.read("/api/mapping/things/product/KIT")
                .path("buyers")
                .path("many")
                .asInt();
        school.buys(someone(), "KIT", Instant.now().minus(Duration.ofDays(3)));
        var page = operator.read("/api/mapping/things/product/KIT");
        assertThat(page.path("sources").get(0).path("name").asString()).isEqualTo("Smoker & veil");
        assertThat(page.path("sources").get(0).path("seen").asString()).isNotBlank();
        assertThat(page.path("buyers").path("many").asInt()).isEqualTo(before + 1);
        assertThat(page.path("buyers").path("latest").size()).isEqualTo(before + 1);
        assertThat(operator.read("/api/mapping/things/level/keeper")
                        .path("sources")
                        .isEmpty())
                .as("the school's own")
                .isTrue();
        assertThat(operator.get("/api/mapping/things/product/x%20y").statusCode())
                .isEqualTo(200);
    }

    @Test
    void theCatalogueIsSavedAsRowsAndReadAsADraft() {
        var csv = operator.get("/api/mapping/catalogue").body();
        var same = operator.postCsv("/api/mapping/catalogue", csv);
        assertThat(json(same).path("rows").findValuesAsString("fate")).as(csv).containsOnly("SAME");
        assertThat(json(same).path("things").isEmpty()).isTrue();
        var preview = json(operator.postCsv("/api/mapping/catalogue", "sort,id,title\nlevel,egg,Egg\nbee,x,X\n"));
        assertThat(preview.path("rows").findValuesAsString("fate")).containsExactly("NEW", "FAULTY");
        assertThat(preview.path("toMend").asString()).contains("bee,x,X,").doesNotContain("egg");
        assertThat(operator.postCsv("/api/mapping/catalogue", "a,b\n1,2\n").statusCode())
                .isEqualTo(400);
        int base = grid().path("version").asInt();
        var published = operator.post(
                "/api/mapping/publish",
                "{\"base\": %d, \"note\": \"\", \"changes\": [], \"things\": %s}"
                        .formatted(base, preview.path("things")));
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
        assertThat(operator.get("/api/mapping/catalogue").body()).contains("level,egg,,Egg,");
    }

    @Test
    void theConsequenceCanBeWatched() {
        school.buys(someone(), "KIT", Instant.now().minus(Duration.ofDays(3)));
        var body = "{\"changes\": [%s]}".formatted(KIT_OPENS_TOOLS.replace("P6M", "P7M"));
        var lines = operator.postFor("/api/mapping/consequence", body, "application/x-ndjson")
                .body()
                .lines()
                .map(JsonMapper.shared()::readTree)
                .toList();
        assertThat(lines).hasSizeGreaterThan(1);
        assertThat(lines.getFirst().path("of").asInt()).isPositive();
        assertThat(lines.getLast().path("consequence"))
                .isEqualTo(json(operator.post("/api/mapping/consequence", body)));
    }

    private JsonNode sideDoor(String path) {
        return operator.read(path)
                .valueStream()
                .filter(it -> it.path("kind").asString().equals("SIDE_DOOR"))
                .findFirst()
                .orElseThrow();
    }

    private java.net.http.HttpResponse<String> publishWhole(int base, JsonNode draft) {
        var body = JsonMapper.shared()
                .createObjectNode()
                .put("base", base)
                .put("note", "whole")
                .put("document", draft.path("document").asString());
        body.set("changes", draft.path("cells"));
        body.set("things", draft.path("things"));
        return operator.post("/api/mapping/publish", body.toString());
    }

    private JsonNode grid() {
        return operator.read("/api/mapping");
    }

    private java.net.http.HttpResponse<String> publish(int base, String changes) {
        return operator.post(
                "/api/mapping/publish", "{\"base\": %d, \"changes\": %s, \"note\": \"\"}".formatted(base, changes));
    }
}
