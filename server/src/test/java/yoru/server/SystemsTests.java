package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.json;
import static yoru.server.TestSchool.someone;

import com.standardwebhooks.Webhook;
import io.cloudevents.CloudEvent;
import io.cloudevents.jackson.JsonFormat;
import java.math.BigDecimal;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.Period;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Executors;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.context.TestPropertySource;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;
import yoru.server.mapping.Mapping;
import yoru.server.mapping.Wanted;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.CatalogueReader;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.SystemKind;

/**
 * Connections as an operator has them: added, tried, matched, out of step, told of by others. In a school of its own, for
 * others would wonder at its systems and its mapping.
 */
@ServerTest
@TestPropertySource(
        properties = {
            "yoru.school-name=School of systems",
            "yoru.folder=target/test-folders",
            "yoru.read-folders-every=1s"
        })
class SystemsTests {

    private static final String OTHER_SECRET = "whsec_"
            + java.util.Base64.getEncoder()
                    .encodeToString("another secret, also 32 bytes ..".getBytes(StandardCharsets.UTF_8));

    private static final Terms A_MONTH =
            Terms.DEFAULT.with(new Length.Lasting(Period.ofMonths(1)), Terms.OnRefund.END, BigDecimal.ONE);

    @Autowired
    private TestSchool school;

    @Autowired
    private Connections connections;

    @Autowired
    private CatalogueReader catalogues;

    @Autowired
    private Mapping mapping;

    @Autowired
    private Rulebooks rulebooks;

    @Autowired
    private JdbcClient jdbc;

    @Autowired
    private TransactionTemplate transaction;

    private Operator operator;

    @BeforeEach
    void signIn() {
        operator = Operator.signedIn(school);
    }

    @Test
    void whatIsOutOfStepIsFoundOfferedAndSettledEitherWay() {
        var forgotten = someone();
        var byHand = someone();
        school.buys(forgotten, "HONEY", Instant.now());
        await().atMost(60, SECONDS).until(() -> school.classroom.has(forgotten, "honey"));
        awaitQuiet();
        school.classroom.forget(forgotten);
        school.classroom.letIn(byHand, "honey");
        compare();
        var rows = operator.read("/api/systems/classroom/out-of-step");
        assertThat(row(rows, forgotten).path("kind").asString()).isEqualTo("MISSING");
        assertThat(row(rows, byHand).path("kind").asString()).isEqualTo("EXTRA");

        assertThat(settle("adopt", row(rows, forgotten), "").statusCode())
                .as("only what is there can be taken over")
                .isEqualTo(422);
        assertThat(settle("adopt", row(rows, byHand), "an old friend").statusCode())
                .isEqualTo(200);
        assertThat(settle("correct", row(rows, forgotten), "").statusCode()).isEqualTo(200);
        await().atMost(60, SECONDS).until(() -> school.classroom.has(forgotten, "honey"));
        await().atMost(60, SECONDS).until(() -> page(byHand).toString().contains("an old friend"));
        awaitQuiet();
        compare();
        assertThat(operator.read("/api/systems/classroom/out-of-step").isEmpty())
                .isTrue();
        assertThat(school.classroom.has(byHand, "honey")).isTrue();
    }

    @Test
    void whatTwoChangeOfASystemAtTheSameMomentStaysBoth() {
        connect("twice", SystemKind.CONTACTS);
        transaction.executeWithoutResult(status -> {
            connections.get("twice"); // as it was before
            CompletableFuture.runAsync(() -> connections.become("twice", Connection.State.OFF, "Owner"))
                    .join();
            connections.set("twice", Map.of("correct", "MISSING"));
        });
        var changed = connections.get("twice");
        assertThat(changed.isOn()).isFalse();
        assertThat(connections.settings(changed)).containsEntry("correct", "MISSING");
    }

    @Test
    void severalMayReadTheSameCatalogueForTheFirstTimeAtOnce() {
        var titles = titlesOfTheClassroom();
        jdbc.sql("delete from catalogue_item where connection_id = 'classroom'").update();
        try (var readers = Executors.newVirtualThreadPerTaskExecutor()) {
            var reads = IntStream.range(0, 6)
                    .mapToObj(n ->
                            CompletableFuture.supplyAsync(() -> catalogues.read(connections.get("classroom")), readers))
                    .toList();
            assertThat(reads).allSatisfy(read -> assertThat(read.join()).isEmpty());
        }
        assertThat(titlesOfTheClassroom()).isEqualTo(titles).isNotEmpty();
    }

    private List<String> titlesOfTheClassroom() {
        return jdbc.sql("select title from catalogue_item where connection_id = 'classroom' order by title")
                .query(String.class)
                .list();
    }

    @Test
    void nothingIsTakenFromWhoeverHasBoughtItSinceTheSystemWasLookedAt() {
        var buysLater = someone();
        var neverBuys = someone();
        school.classroom.letIn(buysLater, "honey");
        school.classroom.letIn(neverBuys, "honey");
        compare();
        var rows = operator.read("/api/systems/classroom/out-of-step");
        var taken = row(rows, neverBuys);
        var bought = row(rows, buysLater);
        school.buys(buysLater, "HONEY", Instant.now());
        await().atMost(60, SECONDS)
                .until(() -> !school.classroom.about(buysLater).isEmpty());
        awaitQuiet();
        assertThat(settle("correct", bought, "").body()).contains("\"differences\":0,\"overtaken\":1");
        assertThat(settle("correct", taken, "").body()).contains("\"differences\":1,\"overtaken\":0");
        await().atMost(60, SECONDS).until(() -> !school.classroom.has(neverBuys, "honey"));
        awaitQuiet();
        assertThat(school.classroom.has(buysLater, "honey")).isTrue();
        assertThat(operator.read("/api/systems/classroom/out-of-step").toString())
                .doesNotContain(buysLater, neverBuys);
        compare();
        assertThat(operator.read("/api/systems/classroom/out-of-step").toString())
                .doesNotContain(buysLater, neverBuys);
    }

    @Test
    void whatHappensWhileASystemIsLookedAtIsNotTakenForADifference() {
        var leaves = someone();
        var comes = someone();
        var order = school.buys(leaves, "HONEY", Instant.now());
        await().atMost(60, SECONDS).until(() -> school.classroom.has(leaves, "honey"));
        awaitQuiet();
        school.classroom.meanwhile(StubClassroom.Asked.WHO_HAS_WHAT, () -> {
            school.report(TestSchool.about("refunded", order, leaves, Instant.now()));
            school.buys(comes, "HONEY", Instant.now());
            await().atMost(30, SECONDS)
                    .until(() -> school.classroom.has(comes, "honey") && !school.classroom.has(leaves, "honey"));
            awaitQuiet();
        });
        compare();
        assertThat(school.classroom.has(comes, "honey")).as("it did happen").isTrue();
        assertThat(operator.read("/api/systems/classroom/out-of-step").toString())
                .doesNotContain(leaves, comes);
        compare();
        assertThat(operator.read("/api/systems/classroom/out-of-step").toString())
                .doesNotContain(leaves, comes);
    }

    @Test
    void aSchoolMayHaveItPutRightByItself() {
        var forgotten = someone();
        var byHand = someone();
        school.buys(forgotten, "HONEY", Instant.now());
        await().atMost(60, SECONDS).until(() -> school.classroom.has(forgotten, "honey"));
        awaitQuiet();
        connections.set("classroom", Map.of("correct", "MISSING,EXTRA"));
        school.classroom.forget(forgotten);
        school.classroom.letIn(byHand, "honey");
        compare();
        await().atMost(60, SECONDS).until(() -> school.classroom.has(forgotten, "honey"));
        await().atMost(60, SECONDS).until(() -> !school.classroom.has(byHand, "honey"));
        connections.set("classroom", Map.of("correct", ""));
    }

    @Test
    void tagsGoBothWaysAndWhatYoruDidItselfStartsNothing() {
        connect("contacts", SystemKind.CONTACTS);
        catalogues.read(connections.get("contacts"));
        publish(new Source.OfProduct("HONEY"), new Target.OfTag("bought-honey"));
        publish(new Source.OfTag("guest"), new Target.OfCourse("first-hive"));
        var person = someone();
        school.buys(person, "HONEY", Instant.now());
        await().atMost(60, SECONDS).until(() -> states(person, "bought-honey").equals(List.of("on")));
        awaitQuiet();

        assertThat(fate(tag("added", person, "bought-honey", Instant.now().minusSeconds(60), "")))
                .as("as it was before Yoru had said so, and was told")
                .isEqualTo("ECHO");
        assertThat(fate(tag("removed", person, "bought-honey", ", \"cause\": \"yoru-7-1\"")))
                .isEqualTo("ECHO");
        assertThat(facts(person)).isEqualTo(2);
        assertThat(fate(tag("removed", person, "bought-honey", "")))
                .as("by hand")
                .isEqualTo("KEPT");
        await().atMost(60, SECONDS).until(() -> states(person, "bought-honey").equals(List.of("on", "on")));

        assertThat(fate(tag("added", person, "guest", ""))).isEqualTo("KEPT");
        await().atMost(60, SECONDS).until(() -> school.classroom.has(person, "first-hive"));
        assertThat(fate(tag("removed", person, "guest", ""))).isEqualTo("KEPT");
        await().atMost(60, SECONDS).until(() -> !school.classroom.has(person, "first-hive"));
        awaitQuiet();
        assertThat(states(person, "guest")).as("it knows that itself").isEmpty();
    }

    /** Standard Webhooks and CloudEvents by their own libraries on the other side. */
    @Test
    void aFieldSaysWhenTheNextOfWhatSomebodyHasEnds() {
        connect("contacts", SystemKind.CONTACTS);
        operator.put("/api/systems/contacts", "{\"settings\": {\"nextEndField\": \"ends next\"}}");
        publish(new Source.OfProduct("POLLEN"), new Target.OfCourse("first-hive"), A_MONTH);
        var person = someone();
        var bought = Instant.now();
        var ends = bought.atZone(ZoneId.of("Europe/Dublin")).plusMonths(1).toLocalDate();
        school.buys(person, "POLLEN", bought);
        var path = "/contacts/api/contacts/" + person.replace("@", "%40") + "/fields/ends%20next";
        await().atMost(60, SECONDS).until(() -> !school.classroom.calls(path).isEmpty());
        assertThat(school.classroom.calls(path).getFirst().body()).isEqualTo("{\"value\":\"%s\"}".formatted(ends));
        operator.put("/api/systems/contacts", "{\"settings\": {\"nextEndField\": \"\"}}");
    }

    @Test
    void whatACatalogueHasNewRenamedOrLostIsSaidUntilSomebodyHasSeenIt() {
        var before = school.classroom.products();
        school.classroom.sell(before.replace("Honey", "Honey and wax").replace("POLLEN", "POLLEN-2"));
        operator.post("/api/systems/shop/catalogue", "");
        var changed = operator.read("/api/systems/shop").path("changed");
        assertThat(changed.valueStream()
                        .map(it ->
                                it.path("news").asString() + " " + it.path("id").asString()))
                .contains("NEW POLLEN-2", "GONE POLLEN", "RENAMED HONEY");
        operator.post("/api/systems/shop/catalogue/seen", "");
        assertThat(operator.read("/api/systems/shop").path("changed").isEmpty()).isTrue();
        school.classroom.sell(before);
        operator.post("/api/systems/shop/catalogue", "");
        operator.post("/api/systems/shop/catalogue/seen", "");
    }

    @Test
    void whatAShopSaysOfPlansAndOptionsIsTakenOnceAndOnlyOfferedAfterwards() {
        var before = school.classroom.products();
        var plan = "\"plan\": {\"kind\": \"instalments\", \"count\": 3, \"every\": \"P1M\", \"grace\": \"P7D\"}";
        school.classroom.sell(before.replace("{\"id\": \"DAY\"", """
                {"id": "PARTS", "title": "In parts", "category": "Courses", "price": "240.00", "currency": "EUR",
                 "thing": false, "seats": true, %s, "options": [{"id": "PARTS-A", "title": "alone", "price": "240.00"},
                 {"id": "FIRST", "title": "an id that is taken", "price": "1.00"}]},
                {"id": "DAY", %s""".formatted(plan, plan)));
        operator.post("/api/systems/shop/catalogue", "");
        var rows = operator.read("/api/mapping").path("sources");
        var option = rows.valueStream()
                .filter(row -> row.path("parent").asString("").equals("product/PARTS"))
                .toList();
        assertThat(option).hasSize(1);
        assertThat(option.getFirst().path("source").asString()).isEqualTo("option/PARTS-A");
        assertThat(option.getFirst().path("price").decimalValue()).isEqualByComparingTo("240");
        var things = operator.read("/api/mapping/things").path("products");
        assertThat(product(things, "PARTS").path("billing").toString())
                .isEqualTo("{\"kind\":\"instalments\",\"count\":3,\"every\":\"P1M\",\"grace\":\"P7D\"}");
        assertThat(product(things, "PARTS").path("quantity").asString()).isEqualTo("seats");
        assertThat(product(things, "DAY").path("billing").path("kind").asString())
                .as("what was published already stays until somebody says otherwise")
                .isEqualTo("once");
        assertThat(operator.read("/api/mapping/things/product/DAY")
                        .path("plan")
                        .path("count")
                        .asInt())
                .isEqualTo(3);
        school.classroom.sell(before.replace("{\"id\": \"DAY\"", "{\"id\": \"DAY\", \"plan\": {\"every\": \"often\"}"));
        operator.post("/api/systems/shop/catalogue", "");
        assertThat(operator.read("/api/systems/shop").toString()).contains("a plan whose period is none");
        school.classroom.sell(before);
        operator.post("/api/systems/shop/catalogue", "");
        operator.post("/api/systems/shop/catalogue/seen", "");
    }

    private static JsonNode product(JsonNode products, String id) {
        return products.valueStream()
                .filter(product -> product.path("id").asString().equals(id))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void aSaleThatNobodyMadeIsFollowedWithoutATrace() {
        long people = jdbc.sql("select count(*) from person").query(Long.class).single();
        var hops = json(operator.post("/api/systems/shop/try", "")).path("hops");
        assertThat(hops.findValuesAsString("title")).contains("It opens", "Who would be told");
        assertThat(hops.findValuesAsString("outcome")).containsOnly("WELL");
        assertThat(hops.toString()).contains("First Hive: Classroom").contains("no system carries letters");
        var paidBack = json(operator.post(
                        "/api/systems/shop/try",
                        "{\"product\": \"HONEY\", \"quantity\": 2, \"guest\": false, \"refund\": true}"))
                .path("hops");
        assertThat(paidBack.findValuesAsString("text")).contains("2 × Honey Harvest, and pays", "everything closes");
        var nothing = json(operator.post(
                        "/api/systems/shop/try", "{\"product\": \"KIT\", \"guest\": false, \"refund\": false}"))
                .path("hops");
        assertThat(nothing.get(nothing.size() - 1).path("outcome").asString()).isEqualTo("FAILED");
        assertThat(operator.post("/api/systems/shop/try", "{\"quantity\": 0, \"guest\": false, \"refund\": false}")
                        .statusCode())
                .isEqualTo(400);
        assertThat(jdbc.sql("select count(*) from person").query(Long.class).single())
                .isEqualTo(people);
    }

    @Test
    void anInterfaceThatIsNotUnderItsAddressIsLookedForInTheUsualPlaces() {
        StandIn.startAll("community");
        var community = StandIn.of("community");
        var id = json(operator.post(
                        "/api/systems",
                        "{\"kind\": \"COMMUNITY\", \"title\": \"Lost\", \"address\": \"%s/members\", \"token\": \"%s\"}"
                                .formatted(community.address(), community.token())))
                .path("id")
                .asString();
        var tested = json(operator.post("/api/systems/" + id + "/test", ""));
        assertThat(tested.path("fault").asString()).isNotEmpty();
        assertThat(tested.path("tried").valueStream().map(JsonNode::asString))
                .containsExactly(community.address() + "/scim/v2", community.address() + "/scim");
        assertThat(tested.path("found").asString()).isEqualTo(community.address() + "/scim");
        operator.put("/api/systems/" + id, "{\"address\": \"%s/scim\"}".formatted(community.address()));
        assertThat(json(operator.post("/api/systems/" + id + "/test", ""))
                        .path("what")
                        .asString())
                .isEqualTo("one member");
        become(id, "ON");
        assertThat(operator.read("/api/systems/" + id).path("catalogueAt").asString())
                .as("read before it is told anything, for that decides of what")
                .isNotEmpty();
        assertThat(operator.read("/api/systems/" + id + "/story")
                        .path("lists")
                        .path("GROUP")
                        .asInt())
                .isPositive();
        become(id, "OFF");
    }

    @Test
    void filesOfASystemWithoutAnInterfaceAreTakenRowByRow() throws Exception {
        var id = json(operator.post(
                        "/api/systems", "{\"kind\": \"FOLDER\", \"title\": \"Books\", \"address\": \"books\"}"))
                .path("id")
                .asString();
        assertThat(operator.handOver(id, "a.csv", "x").statusCode()).as("off").isEqualTo(409);
        become(id, "TRYING");
        var one = someone();
        var other = someone();
        var row = "%s;%s;%s\n";
        var file = "\uFEFFOrder No;Mail;Total\n" + row.formatted(TestSchool.orderId(), one, "110,00")
                + row.formatted(TestSchool.orderId(), someone(), "much") + "too;short\n";
        var tried = json(operator.handOver(id, "a.csv", file));
        assertThat(tried.path("kept").asInt()).isEqualTo(2);
        var kept = keep(id, """
                {"yoru": "matching/1", "rules": [{"facts": ["order.placed", "order.paid"]}],
                 "fields": {"person": {"path": "$.Mail"}, "order": {"path": "$['Order No']"}, "lines": {"path": "$"},
                            "currency": {"constant": "EUR"}, "line.product": {"constant": "HONEY"},
                            "line.amount": {"path": "$.Total", "steps": [{"do": "decimals"}]}}}""", 0);
        assertThat(kept.statusCode()).as(kept.body()).isEqualTo(200);
        become(id, "ON");
        var taken = operator.post("/api/systems/" + id + "/received/again", "");
        assertThat(json(taken).path("reports").asInt())
                .as(operator.get("/api/systems/" + id + "/matching").body())
                .isEqualTo(1);
        await().atMost(60, SECONDS).until(() -> school.classroom.has(one, "honey"));
        var again = json(operator.handOver(id, "a.csv", file));
        assertThat(again.path("known").asInt()).isEqualTo(2);
        assertThat(again.path("toMend").asString())
                .contains(",much,\"line.amount is", "too,short,it has 2 cells under 3 columns");
        assertThat(facts(one)).isEqualTo(2);
        assertThat(operator.handOver(id, "b.csv", "Mail,Mail\na,b\n").body()).contains("two columns named Mail");

        var in = Files.createDirectories(Path.of("target/test-folders/books/in"));
        Files.writeString(in.resolve("c.csv"), "Order No,Mail,Total\nC-1," + other + ",110.00\n");
        Files.writeString(in.resolve("d.csv"), "");
        await().atMost(60, SECONDS).until(() -> school.classroom.has(other, "honey"));
        await().atMost(60, SECONDS).until(() -> Files.exists(in.resolve("refused/d.csv.txt")));
        assertThat(in.resolve("taken/c.csv")).exists();
        assertThat(in.resolve("refused/d.csv.txt")).content().contains("has no heading");
    }

    @Test
    void listenersAreToldInSignedEventsAlsoWhileTheSecretChanges() throws Exception {
        connect("listener", SystemKind.LISTENER);
        school.classroom.failOnce("/listener");
        var person = someone();
        school.buys(person, "HONEY", Instant.now());
        await().atMost(60, SECONDS)
                .until(() -> types(person)
                        .containsAll(List.of("yoru.order.placed", "yoru.order.paid", "yoru.access.opened")));
        awaitQuiet();
        assertThat(heard(person).stream()
                        .map(it -> it.headers().get("webhook-id").getFirst())
                        .distinct()
                        .count())
                .as("each once, and one of them again under the same id")
                .isEqualTo(3);
        operator.post("/api/systems/listener/secret", "{\"secret\": \"%s\"}".formatted(OTHER_SECRET));
        var later = someone();
        school.buys(later, "HONEY", Instant.now());
        await().atMost(60, SECONDS).until(() -> types(later).size() >= 3);
        for (var call : heard(later)) {
            new Webhook(TestSchool.SECRET).verify(call.body(), call.headers());
            new Webhook(OTHER_SECRET).verify(call.body(), call.headers());
            CloudEvent event = new JsonFormat().deserialize(call.body().getBytes(StandardCharsets.UTF_8));
            assertThat(event.getSubject()).isEqualTo(later);
        }
        connections.set("listener", Map.of());
        operator.post("/api/systems/listener/state", "{\"state\": \"OFF\"}");
    }

    @Test
    void anOldSecretIsGoodForADay() {
        var id = add("SHOP", "Rotating shop");
        operator.post("/api/systems/" + id + "/secret", "{\"secret\": \"%s\"}".formatted(TestSchool.SECRET));
        operator.post("/api/systems/" + id + "/secret", "{\"secret\": \"%s\"}".formatted(OTHER_SECRET));
        become(id, "ON");
        var person = someone();
        assertThat(school.reportFrom(id, placed(person), TestSchool.SECRET).statusCode())
                .isEqualTo(200);
        assertThat(school.reportFrom(id, placed(person), OTHER_SECRET).statusCode())
                .isEqualTo(200);
        jdbc.sql("update connection set former_secret_until = now() - interval '1 second' where id = ?")
                .param(id)
                .update();
        assertThat(school.reportFrom(id, placed(person), TestSchool.SECRET).statusCode())
                .isEqualTo(401);
        assertThat(school.reportFrom(id, placed(person), OTHER_SECRET).statusCode())
                .isEqualTo(200);
        assertThat(operator.get("/api/systems/" + id).body()).doesNotContain("whsec_");
    }

    @Test
    void aShopWithWordsOfItsOwnIsTriedMatchedAndSwitchedOn() {
        var id = add("SHOP", "Other shop");
        operator.post("/api/systems/" + id + "/secret", "{\"secret\": \"%s\"}".formatted(OTHER_SECRET));
        operator.put("/api/systems/" + id, "{\"settings\": {\"proof\": \"bearer\"}}");
        var person = someone();
        var order = TestSchool.orderId();
        var report = """
                {"event": "done", "ref": "%s", "mail": "%s", "items": [{"code": "HONEY", "cents": 11000}]}""".formatted(order, person);
        assertThat(raw(id, report).statusCode()).as("off").isEqualTo(503);
        become(id, "TRYING");
        assertThat(json(raw(id, report)).path("fate").asString()).isEqualTo("TRIED");
        assertThat(json(raw(id, report)).path("fate").asString())
                .as("the same once more")
                .isEqualTo("TRIED");
        assertThat(json(raw(id, "{\"event\": \"seen\"}")).path("fate").asString())
                .isEqualTo("TRIED");

        var incomplete = """
                {"yoru": "matching/1", "rules": [{"facts": ["order.placed", "order.paid"], "when": [{"path": "$.event", "equals": "done"}]}],
                 "fields": {"person": {"path": "$.mail"}, "order": {"path": "$.ref"}, "lines": {"path": "$.items[*]"},
                            "line.product": {"path": "$.code"}, "line.amount": {"path": "$.cents", "steps": [{"do": "minor-units"}]}}}""";
        assertThat(keep(id, incomplete, 0).statusCode()).isEqualTo(200);
        var refused = operator.post("/api/systems/" + id + "/state", "{\"state\": \"ON\"}");
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(refused.body()).contains("currency");
        var trial = json(operator.post("/api/systems/" + id + "/matching/trial", "{\"document\": " + incomplete + "}"));
        assertThat(trial.path("missing").get(0).asString()).isEqualTo("currency");
        assertThat(trial.path("reports")
                        .valueStream()
                        .filter(it -> it.path("told").asBoolean())
                        .toList())
                .hasSize(1);

        var complete = incomplete.replace("\"person\"", "\"currency\": {\"constant\": \"EUR\"}, \"person\"");
        assertThat(keep(id, complete, 0).statusCode())
                .as("somebody else was quicker")
                .isEqualTo(409);
        assertThat(keep(id, complete, 1).statusCode()).isEqualTo(200);
        become(id, "ON");
        assertThat(school.classroom.has(person, "honey")).isFalse();
        assertThat(json(operator.post("/api/systems/" + id + "/received/again", ""))
                        .path("reports")
                        .asInt())
                .as("the one that says something")
                .isEqualTo(1);
        await().atMost(60, SECONDS).until(() -> school.classroom.has(person, "honey"));

        var unreadable = report.replace(order, order + "-2").replace("11000", "\"a lot\"");
        assertThat(json(raw(id, unreadable)).path("fate").asString()).isEqualTo("FAULTY");
        var mended = complete.replace(
                "minor-units\"", "lookup\", \"table\": {\"a lot\": \"110.00\", \"11000\": \"110.00\"}");
        assertThat(keep(id, mended, 2).statusCode()).isEqualTo(200);
        assertThat(json(operator.post("/api/systems/" + id + "/received/again", ""))
                        .path("reports")
                        .asInt())
                .isEqualTo(1);
        assertThat(JsonMapper.shared()
                        .readTree(operator.get("/api/systems/" + id + "/matching/2")
                                .body()))
                .isEqualTo(JsonMapper.shared().readTree(complete));
        assertThat(facts(person)).isEqualTo(4);
    }

    @Test
    void aSystemThatIsToldNothingThoughNothingFailsIsOnToday() {
        var person = someone();
        school.buys(person, "HONEY", Instant.now());
        await().atMost(60, SECONDS).until(() -> school.classroom.has(person, "honey"));
        assertThat(untried()).isEmpty();
        var nobodyWorks = """
                update delivery d set status = 'WAITING', attempts = 0, wanted_at = now() - interval '11 minutes'
                from person p where p.id = d.person_id and p.person_key = ? and d.connection_id = 'classroom'""";
        assertThat(jdbc.sql(nobodyWorks).param(person).update()).isEqualTo(1);
        assertThat(untried()).containsExactly("classroom");
        jdbc.sql("update delivery set status = 'ANSWERED' where status = 'WAITING' and connection_id = 'classroom'")
                .update();
    }

    @Test
    void aSystemTellsWhatItHasWhatItSaidLastAndWhatWentWrong() {
        long before = timesOfNonsense();
        for (int again = 0; again < 2; again++) {
            var person = someone();
            school.classroom.behave(person, StubClassroom.NONSENSE);
            school.buys(person, "HONEY", Instant.now());
            long wanted = before + again + 1;
            await().atMost(60, SECONDS).until(() -> timesOfNonsense() == wanted);
            school.classroom.behave(person, StubClassroom.OBEDIENT);
        }
        operator.post("/api/systems/classroom/deliveries/again", "");
        awaitQuiet();
        var story = operator.read("/api/systems/classroom/story");
        assertThat(story.path("latest").get(0).path("title").asString()).isEqualTo("Honey Harvest");
        assertThat(story.path("latest").get(0).path("answer").asString()).isNotBlank();
        assertThat(story.path("lists").path("COURSE").asInt()).isEqualTo(4);
        assertThat(operator.get("/api/systems/no-such/story").statusCode()).isEqualTo(404);
    }

    /** Of one kind, whoever it happened to. */
    private long timesOfNonsense() {
        var troubles = operator.read("/api/systems/classroom/story").path("troubles");
        return troubles.valueStream()
                .filter(it -> it.path("what").asString().startsWith("answered with something"))
                .mapToLong(it -> it.path("many").asLong())
                .sum();
    }

    private List<String> untried() {
        return operator.read("/api/today").path("untried").findValuesAsString("connection");
    }

    @Test
    void ofWhatCameWhileASystemWasTriedTheGoodIsTakenUpAndTheBadIsSaid() {
        var id = add("SHOP", "Tried shop");
        operator.post("/api/systems/" + id + "/secret", "{\"secret\": \"%s\"}".formatted(OTHER_SECRET));
        operator.put("/api/systems/" + id, "{\"settings\": {\"proof\": \"bearer\"}}");
        become(id, "TRYING");
        var person = someone();
        for (var body :
                List.of("no JSON at all", placed(person).replace("order.placed", "order.lost"), placed(person))) {
            assertThat(json(raw(id, body)).path("fate").asString()).isEqualTo("TRIED");
        }
        become(id, "ON");
        assertThat(json(operator.post("/api/systems/" + id + "/received/again", ""))
                        .path("reports")
                        .asInt())
                .isEqualTo(1);
        assertThat(facts(person)).isEqualTo(1);
        var latest = operator.read("/api/systems/" + id + "/matching").path("latest");
        assertThat(latest.findValuesAsString("outcome")).containsExactly("TAKEN", "FAULTY", "FAULTY");
        assertThat(latest.findValuesAsString("said").get(1)).contains("order.lost is not known");
        assertThat(operator.read("/api/untaken?q=fitzmaurice%20INES").findValuesAsString("connection"))
                .as("found by what its buyer is called")
                .contains(id);
        assertThat(operator.read("/api/untaken?q=nobody%20Ines")).isEmpty();
    }

    @Test
    void hostileReportsAreBoundedAndKeepNothingStanding() {
        var id = add("SHOP", "Hostile shop");
        operator.post("/api/systems/" + id + "/secret", "{\"secret\": \"%s\"}".formatted(OTHER_SECRET));
        operator.put("/api/systems/" + id, "{\"settings\": {\"proof\": \"bearer\"}}");
        keep(
                id,
                "{\"yoru\": \"matching/1\", \"rules\": [{\"facts\": [\"tag.added\"]}], \"fields\": {"
                        + "\"person\": {\"path\": \"$.p\"}, \"tag\": {\"path\": \"$.t\"}}}",
                0);
        become(id, "ON");
        assertThat(raw(id, "x".repeat(10 * 1024 * 1024)).statusCode()).isEqualTo(413);
        assertThat(json(raw(id, "[".repeat(100_000))).path("fate").asString()).isEqualTo("FAULTY");
        assertThat(json(raw(id, "{\"p\": {\"p\": 1}, \"t\": 1e999999999}"))
                        .path("fate")
                        .asString())
                .isEqualTo("FAULTY");
        assertThat(raw(id, "{\"p\": \"é\"}".getBytes(StandardCharsets.ISO_8859_1))
                        .statusCode())
                .isEqualTo(400);
        assertThat(raw(id, "{\"p\": \"a\"}".getBytes(StandardCharsets.UTF_16)).statusCode())
                .isEqualTo(400);
        assertThat(school.reportFrom(id, "{}", TestSchool.SECRET).statusCode())
                .as("another proof")
                .isEqualTo(401);
        var signed = add("SHOP", "Signed shop");
        operator.post("/api/systems/" + signed + "/secret", "{\"secret\": \"%s\"}".formatted(OTHER_SECRET));
        become(signed, "ON");
        assertThat(school.reportFrom(
                                signed,
                                placed(someone()),
                                OTHER_SECRET,
                                Instant.now().minus(Duration.ofMinutes(10)))
                        .statusCode())
                .as("too old to be believed")
                .isEqualTo(401);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "http://10.0.0.7",
                "http://192.168.1.1/admin",
                "http://169.254.169.254/latest/meta-data",
                "http://172.16.0.1",
                "http://[::1]:8410",
                "http://0.0.0.0",
                "http://100.64.0.1",
                "http://[fd00::1]",
                "http://[::ffff:10.0.0.1]"
            })
    void addressesInsideAreRefused(String address) {
        var answer = operator.post(
                "/api/systems",
                "{\"kind\": \"CLASSROOM\", \"title\": \"Inside\", \"address\": \"%s\"}".formatted(address));
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(422);
        assertThat(answer.body()).contains("inside Yoru's own network");
    }

    @Test
    void whatTheMappingAsksForAndNoSystemCanDoIsSaid() {
        assertThat(operator.read("/api/systems").path("gaps").findValuesAsString("ability"))
                .doesNotContain("ENROLMENT");
        jdbc.sql("update connection set state = 'OFF' where id = 'classroom'").update();
        assertThat(operator.read("/api/systems").path("gaps").findValuesAsString("ability"))
                .contains("ENROLMENT");
        jdbc.sql("update connection set state = 'ON' where id = 'classroom'").update();
    }

    @Test
    void whatASystemMissedWhileItWasOffItIsToldWhenSwitchedOn() {
        var same = someone();
        var leaves = someone();
        school.buys(same, "HONEY", Instant.now());
        var order = school.buys(leaves, "HONEY", Instant.now());
        await().atMost(60, SECONDS)
                .until(() -> school.classroom.has(same, "honey") && school.classroom.has(leaves, "honey"));
        var onItsWay = someone();
        school.classroom.behave(onItsWay, (exchange, state) -> StubClassroom.say(exchange, 503, "{}"));
        school.buys(onItsWay, "HONEY", Instant.now());
        await().atMost(60, SECONDS)
                .until(() -> !school.classroom.about(onItsWay).isEmpty());
        operator.post("/api/systems/classroom/state", "{\"state\": \"OFF\"}");
        school.classroom.behave(onItsWay, StubClassroom.OBEDIENT);
        var comes = someone();
        school.buys(comes, "HONEY", Instant.now());
        school.report(TestSchool.about("refunded", order, leaves, Instant.now()));
        await().atMost(60, SECONDS).until(() -> page(comes).path("targets").size() == 1);
        await().atMost(60, SECONDS).until(() -> page(leaves).toString().contains("ENDED"));
        await().atMost(60, SECONDS)
                .until(() -> jdbc.sql("select count(*) from scheduled_tasks where task_name in ('after-facts', 'tell')")
                                .query(Long.class)
                                .single()
                        == 0);
        assertThat(school.classroom.about(comes)).isEmpty();
        operator.post("/api/systems/classroom/state", "{\"state\": \"ON\"}");
        await().atMost(60, SECONDS)
                .until(() -> school.classroom.has(comes, "honey") && school.classroom.has(onItsWay, "honey"));
        await().atMost(60, SECONDS).until(() -> !school.classroom.has(leaves, "honey"));
        assertThat(school.classroom.about(same)).as("is not told again").hasSize(1);
    }

    private void connect(String id, SystemKind kind) {
        connections.connect(new Connections.ConnectionSheet(
                id, kind, id, school.classroom.address() + "/" + id, TestSchool.SECRET, "token"));
    }

    private void publish(Source source, Target target) {
        publish(source, target, Terms.DEFAULT);
    }

    private void publish(Source source, Target target, Terms terms) {
        mapping.publish(
                rulebooks.current().number(),
                new Wanted(List.of(new CellChange(source, Destination.to(target), terms))),
                "",
                "Owner");
    }

    /** ASVS 13.2: what lets Yoru in is sent nowhere but where it was meant for. */
    @Test
    void aTokenFollowsNoAddress() {
        var address = "http://127.0.0.1:9/place";
        var id = json(operator.post(
                        "/api/systems",
                        "{\"kind\": \"CLASSROOM\", \"title\": \"Moving\", \"address\": \"%s\", \"token\": \"first\"}"
                                .formatted(address)))
                .path("id")
                .asString();
        assertThat(moves(id, address + "/deeper", "")).as("the same server").isEqualTo(200);
        for (var other :
                new String[] {"http://127.0.0.1:10/place", "https://127.0.0.1:9/place", "http://127.0.0.2:9/place"}) {
            assertThat(moves(id, other, "")).as(other).isEqualTo(422);
        }
        assertThat(operator.read("/api/systems/" + id).path("address").asString())
                .isEqualTo("http://127.0.0.1:9");
        assertThat(moves(id, "http://127.0.0.1:10/place", ", \"token\": \"second\""))
                .isEqualTo(200);
        assertThat(operator.read("/api/journal?q=Moving").toString())
                .contains("at http://127.0.0.1:10, before at http://127.0.0.1:9, with another token");
        gone(id);
    }

    /** ASVS 12.3.1: unencrypted only where somebody has said so, or where nobody else is on the way. */
    @Test
    void whatGoesOutsideIsEncryptedUnlessSomebodySaysOtherwise() {
        var outside = "{\"kind\": \"CLASSROOM\", \"title\": \"Outside\", \"address\": \"http://203.0.113.9/api\"%s}";
        var refused = operator.post("/api/systems", outside.formatted(""));
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(json(refused).path("openly").asBoolean()).isTrue();
        var taken = operator.post("/api/systems", outside.formatted(", \"openly\": true"));
        assertThat(taken.statusCode()).isEqualTo(201);
        var id = json(taken).path("id").asString();
        assertThat(moves(id, "http://203.0.113.9/api", "")).as("as it was").isEqualTo(200);
        assertThat(moves(id, "http://203.0.113.10/api", "")).isEqualTo(422);
        gone(id);
    }

    private int moves(String id, String address, String more) {
        return operator.put("/api/systems/" + id, "{\"address\": \"%s\"%s}".formatted(address, more))
                .statusCode();
    }

    /** The school is shared with other tests. */
    private void gone(String id) {
        jdbc.sql("delete from connection where id = ?").param(id).update();
    }

    private String add(String kind, String title) {
        var answer = operator.post(
                "/api/systems",
                "{\"kind\": \"%s\", \"title\": \"%s\", \"address\": \" %s/page?x#y \", \"token\": \"t\"}"
                        .formatted(kind, title, school.classroom.address()));
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(201);
        return json(answer).path("id").asString();
    }

    private void become(String id, String state) {
        var answer = operator.post("/api/systems/" + id + "/state", "{\"state\": \"%s\"}".formatted(state));
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
    }

    private HttpResponse<String> keep(String id, String document, int base) {
        return operator.put(
                "/api/systems/" + id + "/matching",
                "{\"document\": %s, \"base\": %d, \"note\": \"\"}".formatted(document, base));
    }

    private HttpResponse<String> raw(String id, String body) {
        return raw(id, body.getBytes(StandardCharsets.UTF_8));
    }

    private HttpResponse<String> raw(String id, byte[] body) {
        return TestSchool.send(HttpRequest.newBuilder(URI.create(school.address() + "/hooks/" + id))
                .header("authorization", "Bearer " + OTHER_SECRET)
                .POST(HttpRequest.BodyPublishers.ofByteArray(body))
                .build());
    }

    private void compare() {
        operator.post("/api/systems/classroom/check", "");
        await().atMost(60, SECONDS)
                .until(() ->
                        operator.read("/api/systems/classroom").path("check").has("endedAt"));
        assertThat(operator.read("/api/systems/classroom")
                        .path("check")
                        .path("fault")
                        .isMissingNode())
                .isTrue();
    }

    private HttpResponse<String> settle(String how, JsonNode row, String why) {
        return operator.post(
                "/api/systems/classroom/out-of-step/" + how,
                "{\"ids\": [%d], \"why\": \"%s\"}".formatted(row.path("id").asLong(), why));
    }

    private static JsonNode row(JsonNode rows, String person) {
        return rows.valueStream()
                .filter(row -> row.path("person").asString().equals(person))
                .findFirst()
                .orElseThrow(() -> new AssertionError(rows.toString()));
    }

    private JsonNode page(String person) {
        var id = operator.read("/api/people?q=" + person).path("people").path(0).path("id");
        return id.isMissingNode() ? id : operator.read("/api/people/" + id.asLong());
    }

    private void awaitQuiet() {
        await().atMost(60, SECONDS).until(() -> jdbc.sql("""
                        select (select count(*) from scheduled_tasks where task_name in ('person-after-fact', 'after-facts', 'tell', 'after-publish', 'fill-system'))
                             + (select count(*) from delivery where status = 'WAITING')""").query(Long.class).single() == 0);
    }

    private String fate(HttpResponse<String> answer) {
        return json(answer).path("fate").asString(answer.body());
    }

    private HttpResponse<String> tag(String what, String person, String tag, String more) {
        return tag(what, person, tag, Instant.now(), more);
    }

    private HttpResponse<String> tag(String what, String person, String tag, Instant time, String more) {
        return school.reportFrom(
                "contacts", """
                {"specversion": "1.0", "id": "%s", "source": "https://contacts.example", "type": "yoru.tag.%s",
                 "subject": "%s", "time": "%s", "data": {"tag": "%s"%s}}""".formatted(UUID.randomUUID(), what, person, time, tag, more), TestSchool.SECRET);
    }

    private static String placed(String person) {
        return TestSchool.placed(TestSchool.orderId(), person, Instant.now(), "HONEY", "110.00");
    }

    private long facts(String person) {
        return jdbc.sql("select count(*) from fact where subject = ?")
                .param(person)
                .query(Long.class)
                .single();
    }

    private List<String> states(String person, String tag) {
        return school.classroom.calls("/contacts/api/contacts/" + person.replace("@", "%40") + "/tags/" + tag).stream()
                .map(call ->
                        JsonMapper.shared().readTree(call.body()).path("state").asString())
                .toList();
    }

    private List<StubClassroom.Call> heard(String person) {
        return school.classroom.calls("/listener").stream()
                .filter(call -> call.body().contains(person))
                .toList();
    }

    private java.util.Set<String> types(String person) {
        return heard(person).stream()
                .map(call ->
                        JsonMapper.shared().readTree(call.body()).path("type").asString())
                .collect(Collectors.toSet());
    }
}
