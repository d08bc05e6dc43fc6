package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.someone;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.Period;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.context.TestPropertySource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.followup.Followups;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Ledger;
import yoru.core.policies.Policies;
import yoru.formats.FactReader;
import yoru.formats.FollowupsCsv;
import yoru.formats.ThingChange;
import yoru.server.mapping.Mapping;
import yoru.server.mapping.PublishedPast;
import yoru.server.mapping.Wanted;
import yoru.server.policies.SchoolPolicies;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.CatalogueReader;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.SystemKind;

/**
 * What follow-ups decide is carried out in the systems, once and in order. With practice contacts, a practice mailbox and a
 * practice shop, in a school of its own.
 */
@ServerTest
@TestPropertySource(properties = "yoru.school-name=School of follow-ups")
class FollowupTests {

    private static final StandIn CONTACTS = StandIn.of("contacts");
    private static final StandIn MAILBOX = StandIn.of("mailbox");
    private static final StandIn SHOP = StandIn.of("shop");

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
    private SchoolPolicies policies;

    @Autowired
    private JdbcClient jdbc;

    private Operator operator;

    @BeforeEach
    void connect() {
        operator = Operator.signedIn(school);
        StandIn.startAll("contacts", "mailbox", "shop");
        CONTACTS.behave("");
        MAILBOX.behave("");
        if (connections.find("contacts").isPresent()) {
            return;
        }
        connect("contacts", SystemKind.CONTACTS, CONTACTS.address(), CONTACTS.token());
        connect("second-shop", SystemKind.SHOP, SHOP.address(), SHOP.token());
        connect("mailbox", SystemKind.MAILBOX, MAILBOX.mailAddress(), "");
        connections.set("mailbox", Map.of("from", "school@hollowoak.example"));
        catalogues.readAll();
        publish(
                PublishedPastOf.NOTHING,
                thing("tag/first-timer", "{\"title\": \"First timer\"}"),
                thing("tag/guest", "{\"title\": \"Guest\"}"));
    }

    private void connect(String id, SystemKind kind, String address, String token) {
        connections.connect(new Connections.ConnectionSheet(id, kind, id, address, TestSchool.SECRET, token));
    }

    private static final class PublishedPastOf {
        static final PublishedPast NOTHING = new PublishedPast(false, List.of());
    }

    private static ThingChange thing(String thing, String to) {
        return new ThingChange(thing, JsonMapper.shared().readTree(to));
    }

    private void publish(PublishedPast past, ThingChange... things) {
        mapping.publish(rulebooks.current().number(), new Wanted(null, List.of(things), List.of()), past, "", "Owner");
    }

    private void followup(String id, String document) {
        publish(PublishedPastOf.NOTHING, thing("followup/" + id, document));
    }

    private void gone(String... ids) {
        var things = new ArrayList<ThingChange>();
        for (String id : ids) {
            things.add(new ThingChange("followup/" + id, null));
        }
        publish(PublishedPastOf.NOTHING, things.toArray(ThingChange[]::new));
    }

    private static JsonNode contact(String person) {
        var all = JsonMapper.shared().readTree(CONTACTS.get("/api/contacts?limit=1000"));
        return StreamSupport.stream(all.path("contacts").spliterator(), false)
                .filter(it -> it.path("email").asString().equals(person))
                .findFirst()
                .orElse(JsonMapper.shared().createObjectNode());
    }

    private static boolean isTagged(String person, String tag) {
        return contact(person).path("tags").toString().contains("\"" + tag + "\"");
    }

    private static List<JsonNode> letters(String to) {
        return MAILBOX.lettersTo(to).valueStream().toList();
    }

    private static JsonNode letter(String to, String subject) {
        return letters(to).stream()
                .filter(it -> it.path("subject").asString().startsWith(subject))
                .findFirst()
                .orElseThrow();
    }

    private static List<String> subjects(String to) {
        return letters(to).stream().map(it -> it.path("subject").asString()).toList();
    }

    private List<JsonNode> runs(String followup, String person) {
        return StreamSupport.stream(
                        operator.read("/api/followups/runs?followup=" + followup)
                                .path("runs")
                                .spliterator(),
                        false)
                .filter(run -> run.path("name").asString().equals(person)
                        || jdbc.sql("select person_key from person where id = ?")
                                .param(run.path("person").asLong())
                                .query(String.class)
                                .single()
                                .equals(person))
                .toList();
    }

    private void awaitRun(String followup, String person, String state) {
        await().atMost(60, SECONDS)
                .untilAsserted(() -> assertThat(runs(followup, person))
                        .singleElement()
                        .satisfies(
                                run -> assertThat(run.path("state").asString()).isEqualTo(state)));
    }

    private void awaitQuiet() {
        await().atMost(60, SECONDS).until(() -> school.quiet());
    }

    private static final String WELCOME = """
            {"title": "First course", "when": {"paid": {"products": ["HONEY", "FIRST"]}}, "once": "order",
             "only": [{"bought": {"of": {"products": ["HONEY", "FIRST"]}, "atMost": 0}}],
             "steps": [{"give": {"to": [{"tag": "first-timer"}]}},
                       {"set": {"field": "academy", "value": "a \\"quoted\\" value"}},
                       {"write": {"subject": "Welcome, {{person.name}}", "text": "Sign in at {{signIn}}.\\n\\n**Good luck** <b>x</b>"}},
                       {"tell": {"text": "{{person.name}} is new"}}]}""";

    @Test
    void aFirstTimeBuyerIsGivenSetWrittenToAndToldOfOnce() {
        followup("first-course", WELCOME);
        var person = someone();
        var order = school.buys(person, "HONEY", Instant.now());
        awaitRun("first-course", person, "DONE");
        assertThat(isTagged(person, "first-timer")).isTrue();
        assertThat(contact(person).path("fields").path("academy").asString()).isEqualTo("a \"quoted\" value");
        assertThat(subjects(person)).contains("Welcome, Ines Fitzmaurice");
        var letter = letter(person, "Welcome");
        assertThat(letter.path("text").asString()).contains("Sign in at " + school.classroom.address());
        assertThat(letter.path("html").asString()).contains("<strong>Good luck</strong>", "&lt;b&gt;x&lt;/b&gt;");
        assertThat(letters(TestSchool.EMAIL))
                .anySatisfy(it -> assertThat(it.path("text").asString()).contains("Ines Fitzmaurice is new"));

        school.buys(person, "FIRST", Instant.now());
        school.report(TestSchool.about("paid", order, person, Instant.now()));
        await().atMost(60, SECONDS).until(() -> school.classroom.has(person, "first-hive"));
        awaitQuiet();
        assertThat(runs("first-course", person)).hasSize(1);
        assertThat(subjects(person).stream().filter(it -> it.startsWith("Welcome")))
                .hasSize(1);

        school.report(TestSchool.about("refunded", order, person, Instant.now()));
        await().atMost(60, SECONDS).until(() -> !isTagged(person, "first-timer"));
        agreesWithTheCommand(person);
        gone("first-course");
    }

    /** What was kept and carried out is what the command says of the same facts without any marks. */
    private void agreesWithTheCommand(String person) {
        var facts = jdbc
                .sql("select cast(body as text) from fact where subject = ? order by seq")
                .param(person)
                .query(String.class)
                .list()
                .stream()
                .map(body -> FactReader.read(body.getBytes(StandardCharsets.UTF_8)))
                .toList();
        var without = facts.stream().filter(fact -> !Followups.isOwn(fact)).toList();
        var followups = new Followups(rulebooks.current().rulebook());
        assertThat(csv(followups, facts)).isNotEmpty().isEqualTo(csv(followups, without));
    }

    private static String csv(Followups followups, List<Fact> facts) {
        return followups.until(Ledger.of(facts), Instant.now()).rows().stream()
                .map(FollowupsCsv::row)
                .collect(Collectors.joining());
    }

    @Test
    void theNextStepBeginsWhenTheSystemsHaveAnswered() {
        followup("in-order", """
                {"when": {"paid": {"products": ["HONEY"]}},
                 "steps": [{"give": {"to": [{"tag": "first-timer"}]}},
                           {"write": {"subject": "After the tag", "text": "x"}},
                           {"give": {"to": [{"tag": "guest"}]}}]}""");
        CONTACTS.behave("down=true");
        var person = someone();
        school.buys(person, "HONEY", Instant.now());
        awaitRun("in-order", person, "HELD_UP");
        assertThat(subjects(person)).doesNotContain("After the tag");
        CONTACTS.behave("");
        var step = runs("in-order", person)
                .getFirst()
                .path("steps")
                .get(0)
                .path("id")
                .asLong();
        assertThat(operator.post("/api/followups/steps/" + step + "/again", "").statusCode())
                .isEqualTo(202);
        awaitRun("in-order", person, "DONE");
        assertThat(subjects(person)).contains("After the tag");
        assertThat(isTagged(person, "first-timer")).isTrue();
        assertThat(isTagged(person, "guest")).isTrue();
        gone("in-order");
    }

    @Test
    void aLateReportGivesAndWritesNothing() {
        followup("late", """
                {"when": {"paid": {"products": ["HONEY"]}},
                 "steps": [{"give": {"to": [{"tag": "first-timer"}]}}, {"write": {"subject": "Too late", "text": "x"}}]}""");
        var before = policies.inForce();
        var person = someone();
        policies.change(before.withLate(Period.ZERO), "Owner");
        try {
            school.buys(person, "HONEY", Instant.now());
            awaitRun("late", person, "DONE");
        } finally {
            policies.change(before, "Owner");
        }
        assertThat(isTagged(person, "first-timer")).isTrue();
        assertThat(subjects(person)).doesNotContain("Too late");
        var run = runs("late", person).getFirst();
        assertThat(run.path("silence").asString()).isEqualTo("LATE");
        assertThat(run.path("steps").get(1).path("state").asString()).isEqualTo("SILENT");
        gone("late");
    }

    @Test
    void whatWasBeforeAPublishIsServedOnlyWhereSomebodySaysSo() {
        var person = someone();
        school.buys(person, "POLLEN", Instant.now().minusSeconds(60));
        awaitQuiet();
        var document = """
                {"when": {"paid": {"products": ["POLLEN"]}},
                 "steps": [{"give": {"to": [{"tag": "guest"}]}}, {"write": {"subject": "Pollen", "text": "x"}}]}""";
        followup("pollen", document);
        awaitQuiet();
        var other = someone();
        school.buys(other, "POLLEN", Instant.now());
        awaitRun("pollen", other, "DONE");
        assertThat(runs("pollen", person)).isEmpty();
        publish(
                new PublishedPast(false, List.of(new PublishedPast.From("pollen", null, false))),
                thing("followup/pollen", document.replace("\"x\"", "\"y\"")));
        awaitRun("pollen", person, "DONE");
        assertThat(isTagged(person, "guest")).isTrue();
        assertThat(subjects(person)).doesNotContain("Pollen");
        assertThat(runs("pollen", person).getFirst().path("silence").asString()).isEqualTo("WITHOUT_LETTERS");
        assertThat(runs("pollen", other)).as("served once").hasSize(1);
        gone("pollen");
    }

    @Test
    void whatAPublishOpensByItselfIsPassedBy() {
        var person = someone();
        school.buys(person, "KIT", Instant.now().minusSeconds(30));
        awaitQuiet();
        followup("opened", """
                {"when": {"opened": [{"course": "tools"}]}, "since": "2020-01-01T00:00:00Z",
                 "steps": [{"give": {"to": [{"tag": "guest"}]}}]}""");
        publish(
                new PublishedPast(false, List.of(new PublishedPast.From("opened", null, true))),
                thing("followup/opened", """
                {"title": "Opened", "when": {"opened": [{"course": "tools"}]},
                 "steps": [{"give": {"to": [{"tag": "guest"}]}}]}"""));
        awaitQuiet();
        school.publish("KIT", "tools", "held");
        await().atMost(60, SECONDS).until(() -> school.classroom.has(person, "tools"));
        awaitQuiet();
        assertThat(runs("opened", person)).isEmpty();
        var later = someone();
        school.buys(later, "KIT", Instant.now());
        awaitRun("opened", later, "DONE");
        assertThat(isTagged(later, "guest")).isTrue();
        assertThat(isTagged(person, "guest")).isFalse();
        gone("opened");
    }

    @Test
    void aCodeOfTheirOwnIsMadeBeforeTheLetterGoes() {
        followup("code", """
                {"when": {"paid": {"products": ["HONEY"]}},
                 "steps": [{"write": {"subject": "For your next", "text": "Your code: {{code}}",
                                      "code": {"percent": 20, "of": {"products": ["FIRST"]}, "expires": "P30D", "uses": 1}}}]}""");
        // the school's other shop, a stub, makes none: it is switched off for this
        var person = someone();
        connections.become(TestSchool.SHOP, Connection.State.OFF, "Owner");
        try {
            reportFromSecond(person);
            awaitRun("code", person, "DONE");
        } finally {
            connections.become(TestSchool.SHOP, Connection.State.ON, "Owner");
        }
        var code = runs("code", person)
                .getFirst()
                .path("steps")
                .get(0)
                .path("code")
                .asString();
        assertThat(code).matches("[A-Z2-9]{10}");
        assertThat(letter(person, "For your next").path("text").asString().strip())
                .isEqualTo("Your code: " + code);
        gone("code");
    }

    private void reportFromSecond(String person) {
        var order = TestSchool.orderId();
        var now = Instant.now();
        school.reportFrom("second-shop", TestSchool.placed(order, person, now, "HONEY", "90.00"), TestSchool.SECRET);
        school.reportFrom("second-shop", TestSchool.about("paid", order, person, now), TestSchool.SECRET);
    }

    @Test
    void aRunThatWaitsCanBeStoppedAndAnotherGoesOnAfterItsWait() {
        publish(
                new PublishedPast(false, List.of(new PublishedPast.From("waits", null, true))),
                thing("followup/waits", """
                {"when": {"paid": {"products": ["HONEY"]}},
                 "steps": [{"give": {"to": [{"tag": "first-timer"}]}}, {"wait": "P1D"},
                           {"write": {"subject": "A day later", "text": "x"}}]}"""));
        var stopped = someone();
        var goesOn = someone();
        school.buys(goesOn, "HONEY", Instant.now().minus(Duration.ofHours(24)).plusSeconds(10));
        awaitRun("waits", goesOn, "WAITING");
        school.buys(stopped, "HONEY", Instant.now());
        awaitRun("waits", stopped, "WAITING");
        var run = runs("waits", stopped).getFirst();
        assertThat(operator.post("/api/followups/runs/" + run.path("id").asLong() + "/stop", "")
                        .statusCode())
                .isEqualTo(202);
        awaitRun("waits", stopped, "STOPPED");
        assertThat(operator.post("/api/followups/runs/" + run.path("id").asLong() + "/stop", "")
                        .statusCode())
                .isEqualTo(409);
        awaitRun("waits", goesOn, "DONE");
        assertThat(subjects(goesOn)).contains("A day later");
        gone("waits");
    }

    @Test
    void whatLateNewsSaysShouldNotHaveEndedIsGivenAgain() {
        followup("circle", """
                {"when": {"subscription": {"what": "started", "of": {"products": ["CIRCLE"]}}},
                 "steps": [{"give": {"to": [{"tag": "guest"}]}}]}""".replace("CIRCLE", "DAY"));
        var person = someone();
        var started = Instant.now();
        var id = "S-" + UUID.randomUUID();
        subscription(
                "started",
                person,
                started,
                Map.of(
                        "subscription",
                        id,
                        "product",
                        "DAY",
                        "paidThrough",
                        started.plusSeconds(4).toString()));
        await().atMost(60, SECONDS).until(() -> isTagged(person, "guest"));
        await().atMost(60, SECONDS).until(() -> !isTagged(person, "guest"));
        subscription(
                "renewed",
                person,
                started.plusSeconds(2),
                Map.of(
                        "subscription",
                        id,
                        "paidThrough",
                        started.plus(Duration.ofDays(30)).toString()));
        await().atMost(60, SECONDS).until(() -> isTagged(person, "guest"));
        gone("circle");
    }

    @Test
    void aLetterAboutWhatOpenedTakesThePlaceOfTheGeneralOne() {
        followup("about", """
                {"when": {"opened": [{"course": "honey"}]},
                 "steps": [{"write": {"subject": "Honey is yours", "text": "x"}}]}""");
        var person = someone();
        school.buys(person, "HONEY", Instant.now());
        awaitRun("about", person, "DONE");
        school.buys(person, "FIRST", Instant.now());
        await().atMost(60, SECONDS).until(() -> subjects(person).stream().anyMatch(it -> it.startsWith("First Hive")));
        assertThat(subjects(person)).containsExactlyInAnyOrder("Honey is yours", "First Hive is open for you");
        gone("about");
    }

    @Test
    void whoeverWantsNoUnaskedLettersGetsNoneAndAnswersGoOn() {
        followup("missed", """
                {"when": {"ended": [{"course": "first-hive"}]}, "once": "always",
                 "steps": [{"write": {"subject": "We miss you", "text": "x"}}]}""");
        followup("thanks", """
                {"when": {"paid": {"products": ["FIRST"]}}, "once": "order",
                 "steps": [{"write": {"subject": "Thanks", "text": "x"}}]}""");
        var person = someone();
        buysAndGivesBack(person);
        awaitRun("missed", person, "DONE");
        assertThat(letter(person, "Thanks").path("headers").asString()).doesNotContain("List-Unsubscribe");
        var missed = letter(person, "We miss you");
        var address = Pattern.compile("http\\S+(/letters/\\S+)")
                .matcher(missed.path("text").asString());
        assertThat(address.find()).isTrue();
        // RFC 8058, 3.1
        assertThat(missed.path("headers").asString())
                .contains(
                        "List-Unsubscribe: <" + address.group() + ">",
                        "List-Unsubscribe-Post: List-Unsubscribe=One-Click");
        await().atMost(60, SECONDS)
                .untilAsserted(() -> assertThat(keptOf(person, "We miss you"))
                        .as("once it was sent, its code is kept nowhere")
                        .contains("/letters/…")
                        .doesNotContain(address.group(1)));
        var stranger = Operator.stranger(school.address());
        assertThat(stranger.get(address.group(1)).body())
                .as("looking changes nothing")
                .contains("No more letters like this?");
        assertThat(stranger.post(address.group(1), "List-Unsubscribe=One-Click", "application/x-www-form-urlencoded")
                        .statusCode())
                .isEqualTo(200);
        assertThat(stranger.get(address.group(1)).body()).contains("no more of these letters");
        buysAndGivesBack(person);
        await().atMost(60, SECONDS)
                .untilAsserted(() -> assertThat(runs("missed", person))
                        .hasSize(2)
                        .allSatisfy(
                                run -> assertThat(run.path("state").asString()).isEqualTo("DONE")));
        awaitQuiet();
        assertThat(runs("missed", person)
                        .getFirst()
                        .path("steps")
                        .get(0)
                        .path("state")
                        .asString())
                .isEqualTo("SILENT");
        assertThat(subjects(person).stream().filter(it -> it.equals("We miss you")))
                .hasSize(1);
        assertThat(subjects(person).stream().filter(it -> it.equals("Thanks"))).hasSize(2);
        var id = runs("missed", person).getFirst().path("person").asLong();
        assertThat(operator.read("/api/followups/letters/" + id)
                        .path("stoppedAt")
                        .isString())
                .isTrue();
        assertThat(operator.put("/api/followups/letters/" + id, "{\"stopped\": false}")
                        .statusCode())
                .isEqualTo(204);
        buysAndGivesBack(person);
        await().atMost(60, SECONDS)
                .until(() -> subjects(person).stream()
                                .filter(it -> it.equals("We miss you"))
                                .count()
                        == 2);
        gone("missed", "thanks");
    }

    /** What is kept of a letter that was sent. */
    private String keptOf(String person, String subject) {
        return jdbc.sql("""
                        select cast(d.content as text) from delivery d join person p on p.id = d.person_id
                        where p.person_key = ? and d.content ->> 'subject' = ?""").params(person, subject).query(String.class).single();
    }

    private void buysAndGivesBack(String person) {
        var order = school.buys(person, "FIRST", Instant.now());
        await().atMost(60, SECONDS).until(() -> school.classroom.has(person, "first-hive"));
        school.report(TestSchool.about("refunded", order, person, Instant.now()));
        await().atMost(60, SECONDS).until(() -> !school.classroom.has(person, "first-hive"));
        // the key of an ending has whole seconds (docs/followups.md, 2): two within one are one occasion
        var ended = Instant.now().getEpochSecond();
        await().until(() -> Instant.now().getEpochSecond() > ended);
    }

    @Test
    void itIsSwitchedOffByItselfAndAllThatItHasUnderWayIsStopped() {
        followup("off", """
                {"when": {"paid": {"products": ["HONEY"]}},
                 "steps": [{"give": {"to": [{"tag": "first-timer"}]}}, {"wait": "P1D"},
                           {"write": {"subject": "A day later", "text": "x"}}]}""");
        var person = someone();
        school.buys(person, "HONEY", Instant.now());
        awaitRun("off", person, "WAITING");
        assertThat(operator.post("/api/mapping/followups/off/off", "").statusCode())
                .isEqualTo(200);
        assertThat(operator.post("/api/mapping/followups/off/off", "").statusCode())
                .isEqualTo(409);
        assertThat(operator.post("/api/mapping/followups/nowhere/off", "").statusCode())
                .isEqualTo(404);
        var later = someone();
        school.buys(later, "HONEY", Instant.now());
        await().atMost(60, SECONDS).until(() -> school.classroom.has(later, "honey"));
        awaitQuiet();
        assertThat(runs("off", later)).isEmpty();
        awaitRun("off", person, "WAITING");
        assertThat(JsonMapper.shared()
                        .readTree(operator.post("/api/followups/off/stop", "").body()))
                .isEqualTo(JsonMapper.shared().readTree("{\"runs\": 1, \"left\": false}"));
        awaitRun("off", person, "STOPPED");
        gone("off");
    }

    @Test
    void whoeverIsNoContactWaitsOrIsLeftOutAsThePolicyHasIt() {
        followup("tagged", """
                {"when": {"paid": {"products": ["HONEY"]}},
                 "steps": [{"give": {"to": [{"tag": "guest"}]}}, {"write": {"subject": "After all", "text": "x"}}]}""");
        var before = policies.inForce();
        try {
            policies.change(before.withOutwards(Policies.UnknownContacts.HOLD), "Owner");
            var held = someone();
            school.buys(held, "HONEY", Instant.now());
            awaitRun("tagged", held, "HELD_UP");
            assertThat(contact(held).has("email")).isFalse();
            var account = account(held);
            assertThat(account.path("stranger").booleanValue()).isTrue();
            assertThat(account.path("advice").asString()).contains("Make the contact");
            assertThat(operator.post("/api/deliveries/" + account.path("id").asLong() + "/make-known", "")
                            .statusCode())
                    .isEqualTo(202);
            awaitRun("tagged", held, "DONE");
            assertThat(isTagged(held, "guest")).isTrue();

            policies.change(before.withOutwards(Policies.UnknownContacts.SKIP), "Owner");
            var leftOut = someone();
            school.buys(leftOut, "HONEY", Instant.now());
            awaitRun("tagged", leftOut, "DONE");
            assertThat(contact(leftOut).has("email")).isFalse();
            assertThat(subjects(leftOut)).contains("After all");
            assertThat(account(leftOut).path("stranger").booleanValue()).isTrue();
            assertThat(operator.post(
                                    "/api/deliveries/"
                                            + account(leftOut).path("id").asLong() + "/make-known",
                                    "")
                            .statusCode())
                    .isEqualTo(202);
            await().atMost(60, SECONDS).until(() -> isTagged(leftOut, "guest"));
        } finally {
            policies.change(before, "Owner");
        }
        gone("tagged");
    }

    private JsonNode account(String person) {
        var id = jdbc.sql("select id from person where person_key = ?")
                .param(person)
                .query(Long.class)
                .single();
        return StreamSupport.stream(
                        operator.read("/api/people/" + id).path("accounts").spliterator(), false)
                .filter(it -> it.path("connection").asString().equals("contacts"))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void aLetterIsSentToWhoeverWritesIt() {
        var person = someone();
        school.buys(person, "HONEY", Instant.now());
        awaitQuiet();
        var id = jdbc.sql("select id from person where person_key = ?")
                .param(person)
                .query(Long.class)
                .single();
        var wanted = """
                {"draft": {"changes": [], "things": [{"thing": "followup/trial", "to": {
                   "when": {"paid": {"products": ["HONEY"]}},
                   "steps": [{"write": {"subject": "On trial for {{person.name}}", "text": "Hello **{{person.name}}**"}}]}}]},
                 "followup": "trial", "person": %d, "step": "%s"}""";
        assertThat(operator.post("/api/mapping/followups/to-me", wanted.formatted(id, "2"))
                        .statusCode())
                .isEqualTo(404);
        MAILBOX.behave("down=true");
        assertThat(operator.post("/api/mapping/followups/to-me", wanted.formatted(id, "1"))
                        .statusCode())
                .isEqualTo(502);
        MAILBOX.behave("");
        assertThat(operator.post("/api/mapping/followups/to-me", wanted.formatted(id, "1"))
                        .statusCode())
                .isEqualTo(200);
        var letter = letter(TestSchool.EMAIL, "On trial");
        assertThat(letter.path("html").asString()).contains("<strong>Ines Fitzmaurice</strong>");
        assertThat(subjects(person)).as("nobody else reads it").noneMatch(it -> it.startsWith("On trial"));
    }

    @Test
    void whoeverWasServedByHandBeforeIsNotServedAgain() {
        followup("once", """
                {"when": {"paid": {"products": ["HONEY"]}}, "once": "person",
                 "steps": [{"set": {"field": "seen", "value": "yes"}}]}""");
        var known = someone();
        var other = someone();
        var event = TestSchool.event("x", known, Instant.now(), "{\"tag\": \"guest\"}")
                .replace("yoru.order.x", "yoru.tag.added");
        assertThat(school.report(event).statusCode()).isEqualTo(200);
        awaitQuiet();
        var counted = operator.post("/api/mapping/followups/once/adopt", "{\"target\": \"tag/guest\"}");
        assertThat(counted.statusCode()).as(counted.body()).isEqualTo(200);
        assertThat(TestSchool.json(counted).path("people").asInt()).isPositive();
        school.buys(known, "HONEY", Instant.now());
        school.buys(other, "HONEY", Instant.now());
        awaitRun("once", other, "DONE");
        await().atMost(60, SECONDS).until(() -> school.classroom.has(known, "honey"));
        awaitQuiet();
        assertThat(runs("once", known)).isEmpty();
        gone("once");
    }

    private void subscription(String what, String person, Instant at, Map<String, String> data) {
        var event = TestSchool.event("x", person, at, JsonMapper.shared().writeValueAsString(data))
                .replace("yoru.order.x", "yoru.subscription." + what);
        assertThat(school.report(event).statusCode()).isEqualTo(200);
    }
}
