package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.about;
import static yoru.server.TestSchool.event;
import static yoru.server.TestSchool.orderId;
import static yoru.server.TestSchool.placed;
import static yoru.server.TestSchool.someone;

import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Base64;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.server.platform.SignedTexts;

/** What people without an account meet: doors in systems and on Yoru's pages, help to get in, and pages of their own. */
@ServerTest
class VisitorTests {

    private static final Pattern OWN_PAGE = Pattern.compile("/mine/([\\w-]+\\.[\\w-]+)");

    @Autowired
    private TestSchool school;

    @Autowired
    private JdbcClient jdbc;

    private Operator operator;

    @BeforeEach
    void signIn() {
        operator = Operator.signedIn(school);
        school.connectAMailbox();
        jdbc.sql("delete from claim_failure").update();
    }

    @AfterEach
    void asItWas() {
        policies("MAKE", true, false);
        publish("course/honey", null);
        school.switchTheMailboxOff();
    }

    private void policies(String guests, boolean ownPage, boolean guestsProve) {
        assertThat(operator.put("/api/policies", """
                {"guests": "%s", "unknownContacts": "MAKE", "joining": "ASK", "ownPage": %s, "guestsProve": %s}""".formatted(guests, ownPage, guestsProve))
                        .statusCode())
                .isEqualTo(200);
    }

    private static String draft(String place, String door) {
        return "{\"changes\": [], \"things\": [{\"thing\": \"door/%s\", \"to\": %s}]}".formatted(place, door);
    }

    private HttpResponse<String> publish(String place, String door) {
        var base = operator.read("/api/mapping").path("version").asInt();
        return operator.post(
                "/api/mapping/publish",
                draft(place, String.valueOf(door))
                        .replaceFirst("\\{", "{\"base\": %d, \"note\": \"\", ".formatted(base)));
    }

    private JsonNode changes(String place, String door) {
        return JsonMapper.shared()
                .readTree(
                        operator.post("/api/mapping/doors", draft(place, door)).body())
                .path("changes");
    }

    private HttpResponse<String> get(String path) {
        return TestSchool.send(
                HttpRequest.newBuilder(URI.create(school.address() + path)).build());
    }

    private HttpResponse<String> post(String path, String... form) {
        var body = new StringBuilder();
        for (int at = 0; at < form.length; at += 2) {
            body.append(body.isEmpty() ? "" : "&")
                    .append(form[at])
                    .append('=')
                    .append(URLEncoder.encode(form[at + 1], StandardCharsets.UTF_8));
        }
        return TestSchool.send(HttpRequest.newBuilder(URI.create(school.address() + path))
                .header("content-type", "application/x-www-form-urlencoded")
                .POST(HttpRequest.BodyPublishers.ofString(body.toString()))
                .build());
    }

    private String letter(String person, String subject) {
        await().atMost(30, SECONDS)
                .until(() -> school.letters(person).stream().anyMatch(letter -> letter.startsWith(subject)));
        return school.letters(person).stream()
                .filter(letter -> letter.startsWith(subject))
                .reduce((first, last) -> last)
                .orElseThrow();
    }

    private String ownPage(String letter) {
        var found = OWN_PAGE.matcher(letter);
        assertThat(found.find()).as(letter).isTrue();
        return "/mine/" + found.group(1);
    }

    private String linkIn(String letter, String path) {
        return letter.substring(letter.indexOf(path)).split("\\s", 2)[0];
    }

    @Test
    void whatADraftSaysIsWhatTheSystemShowsOnceItIsPublished() {
        var door = "{\"without\": {\"text\": \"Ask <script>us</script> about {{title}}.\"}}";
        var promised = changes("course/honey", door);
        assertThat(promised.size()).as(promised.toString()).isEqualTo(1);
        assertThat(promised.get(0).path("side").asString()).isEqualTo("WITHOUT");
        assertThat(publish("course/honey", door).statusCode()).isEqualTo(200);
        await().atMost(30, SECONDS)
                .untilAsserted(() -> assertThat(shown("course/honey")
                                .path("without")
                                .path("text")
                                .asString())
                        .isEqualTo("Ask <script>us</script> about Honey Harvest."));
        assertThat(promised.get(0).path("now").asString())
                .as("the margin said what is shown")
                .startsWith(
                        "“" + shown("course/honey").path("without").path("text").asString() + "”");
        assertThat(shown("course/honey").path("without").path("html").asString())
                .as("markup is text")
                .contains("&lt;script&gt;")
                .doesNotContain("<script>");
        assertThat(shown("course/honey").path("visitor").path("text").asString())
                .as("what is not said is as it ships")
                .contains("sign in");
        assertThat(shown("course/honey").path("help").asString()).endsWith("/door/honey");
    }

    private JsonNode shown(String place) {
        return school.classroom.shows(place).orElseGet(() -> JsonMapper.shared().missingNode());
    }

    @Test
    void whatASystemShowsOtherwiseIsFoundAndPutRight() {
        await().atMost(30, SECONDS).until(() -> stateOf("course/first-hive").equals("SHOWN false"));
        school.classroom.show("course/first-hive", "{\"visitor\": {\"text\": \"Closed.\"}}");
        operator.post("/api/systems/classroom/shown/look", "");
        assertThat(stateOf("course/first-hive")).isEqualTo("SHOWN true");
        operator.post("/api/systems/classroom/shown/again", "");
        await().atMost(30, SECONDS)
                .untilAsserted(() -> assertThat(shown("course/first-hive")
                                .path("visitor")
                                .path("text")
                                .asString())
                        .contains("First Hive"));
        operator.post("/api/systems/classroom/shown/look", "");
        assertThat(stateOf("course/first-hive")).isEqualTo("SHOWN false");
    }

    @Test
    void whatWasToldWhileItWasLookedAtIsNotTakenForWrong() {
        await().atMost(30, SECONDS).until(() -> stateOf("course/honey").startsWith("SHOWN"));
        school.classroom.meanwhile(StubClassroom.Asked.WHAT_IT_SHOWS, () -> {
            publish("course/honey", "{\"without\": {\"text\": \"Told while somebody looks.\"}}");
            await().atMost(30, SECONDS)
                    .until(() -> shown("course/honey").toString().contains("Told while somebody looks."));
            await().atMost(30, SECONDS).until(() -> stateOf("course/honey").startsWith("SHOWN"));
        });
        operator.post("/api/systems/classroom/shown/look", "");
        assertThat(shown("course/honey").toString()).contains("Told while somebody looks.");
        assertThat(stateOf("course/honey")).isEqualTo("SHOWN false");
    }

    private String stateOf(String place) {
        return operator.read("/api/systems/classroom/shown")
                .valueStream()
                .filter(sign -> sign.path("place").asString().equals(place))
                .map(sign -> sign.path("state").asString() + " "
                        + sign.path("differs").asBoolean())
                .findFirst()
                .orElse("");
    }

    @ParameterizedTest
    @ValueSource(strings = {"javascript:alert(1)", "https://elsewhere.example/", "//elsewhere.example", "LONG"})
    void nobodyIsSentToWhereTheSchoolHasNothing(String address) {
        var to = address.equals("LONG") ? "https://x.example/" + "a".repeat(4_000) : address;
        var refused = publish("course/honey", "{\"visitor\": {\"to\": \"%s\"}}".formatted(to));
        assertThat(refused.statusCode()).as(refused.body()).isEqualTo(400);
        assertThat(refused.headers().firstValue("content-type").orElse("")).contains("application/problem+json");
        assertThat(refused.body()).contains("doors");
    }

    @Test
    void theDoorPageSendsOnlyWhereTheSchoolSays() {
        var to = school.classroom.address() + "/classroom/how";
        assertThat(publish(
                                "course/honey",
                                "{\"visitor\": {\"to\": \"%s\"}, \"without\": {\"text\": \"<b>No</b>\"}}".formatted(to))
                        .statusCode())
                .isEqualTo(200);
        var sent = get("/door/honey");
        assertThat(sent.statusCode()).isEqualTo(302);
        assertThat(sent.headers().firstValue("location")).contains(to);
        assertThat(get("/door/honey?without=true").body()).contains("&lt;b&gt;No&lt;/b&gt;");
        assertThat(get("/door/first-hive?to=https://evil.example/x").body())
                .as("a lesson that is none of the course's is not followed")
                .doesNotContain("evil.example");
        assertThat(get("/door/nothing").statusCode()).isEqualTo(404);
        assertThat(get("/door/area/nothing").statusCode()).isEqualTo(404);
        await().atMost(30, SECONDS)
                .untilAsserted(() -> assertThat(operator.read("/api/findings").toString())
                        .as("the page does not exist")
                        .contains("LEADS_NOWHERE"));
    }

    @Test
    void whoeverHasAnOrdersCodeReadsWhatItOpened() {
        var person = someone();
        var order = orderId();
        assertThat(get("/thanks/" + code(order)).body())
                .as("it has not arrived")
                .contains("on its way");
        school.report(placed(order, person, Instant.now(), "HONEY", "110.00"));
        assertThat(get("/thanks/" + code(order)).body())
                .contains("not paid yet")
                .contains("Honey Harvest");
        school.report(about("paid", order, person, Instant.now()));
        await().atMost(30, SECONDS)
                .untilAsserted(() -> assertThat(get("/thanks/" + code(order)).body())
                        .contains("Thank you, Ines")
                        .contains("<span class=\"open\">open</span>")
                        .contains("Begin: Honey Harvest"));
        school.report(about("refunded", order, person, Instant.now()));
        await().atMost(30, SECONDS)
                .untilAsserted(() -> assertThat(get("/thanks/" + code(order)).body())
                        .as("what was given back is neither open nor to be opened")
                        .contains("The school has your order.")
                        .doesNotContain("not open yet", "Begin:"));
        assertThat(get("/thanks/" + order + ".wrong").statusCode()).isEqualTo(404);
        assertThat(get("/thanks/" + order).body())
                .as("the order's own id opens nothing, and is answered like one that is none")
                .isEqualTo(get("/thanks/O-unknown").body());
        for (int n = 0; n < 25; n++) {
            get("/thanks/" + order + ".wrong-" + n);
        }
        assertThat(get("/thanks/" + order + ".wrong").statusCode()).isEqualTo(429);
        assertThat(get("/thanks/" + code(order)).statusCode())
                .as("a good code is answered, whatever others send from the same place")
                .isEqualTo(200);
        jdbc.sql("delete from claim_failure").update();
    }

    private static String code(String order) {
        return order + "."
                + Base64.getUrlEncoder()
                        .withoutPadding()
                        .encodeToString(
                                SignedTexts.mac(TestSchool.SECRET.getBytes(StandardCharsets.UTF_8), "thanks " + order));
    }

    @Test
    void theAnswerIsTheSameForEveryAddressAndTheLetterIsNot() {
        var known = someone();
        school.buys(known, "FIRST", Instant.now());
        await().atMost(30, SECONDS).until(() -> !school.letters(known).isEmpty());
        var stranger = someone();
        var said = post("/door", "address", known);
        assertThat(said.statusCode()).isEqualTo(200);
        assertThat(post("/door", "address", stranger).body()).isEqualTo(said.body());
        assertThat(letter(known, "How to get in")).contains("First Hive, until", "Sign in as " + known, "/mine/");
        post("/door", "address", known);
        await().atMost(30, SECONDS).until(() -> noHelpIsQueued());
        assertThat(school.letters(known).stream().filter(it -> it.startsWith("How to get in")))
                .as("nobody is flooded")
                .hasSize(1);
        assertThat(jdbc.sql("select count(*) from person where person_key = ?")
                        .param(stranger)
                        .query(Integer.class)
                        .single())
                .as("who is nobody stays nobody")
                .isZero();
        assertThat(operator.read("/api/journal").toString()).contains("Asked how to get in");
        for (int n = 0; n < 20; n++) {
            post("/door", "address", stranger);
        }
        assertThat(post("/door", "address", known).statusCode()).isEqualTo(429);
    }

    private boolean noHelpIsQueued() {
        return jdbc.sql("select count(*) from scheduled_tasks where task_name = 'help-to-get-in'")
                        .query(Integer.class)
                        .single()
                == 0;
    }

    @Test
    void aGuestWhoProvesTheirAddressIsLetInWhereThePolicySaysSo() {
        policies("HOLD", true, true);
        var guest = someone();
        var order = orderId();
        school.report(event("placed", guest, Instant.now(), """
                {"order": "%s", "channel": "shop", "currency": "EUR", "name": "Gus Guest", "guest": true,
                 "lines": [{"line": "1", "product": "FIRST", "amount": "90.00"}]}""".formatted(order)));
        school.report(about("paid", order, guest, Instant.now()));
        assertThat(get("/thanks/" + code(order)).body()).contains("on its way");
        post("/door", "address", guest);
        var proof = linkIn(letter(guest, "How to get in"), "/mine/proof/");
        assertThat(get(proof).body()).contains("Is this your address?");
        assertThat(school.classroom.has(guest, "first-hive"))
                .as("following the link alone does nothing")
                .isFalse();
        assertThat(get(proof.substring(0, proof.length() - 2) + "xx").statusCode())
                .isEqualTo(404);
        assertThat(post(proof).body()).contains("It is yours");
        await().atMost(30, SECONDS).until(() -> school.classroom.has(guest, "first-hive"));
        assertThat(post(proof).body()).contains("Nothing waits any more");
    }

    @Test
    void withoutThePolicyAGuestIsToldThatSomebodyLooksAtIt() {
        policies("HOLD", true, false);
        var guest = someone();
        school.report(event("placed", guest, Instant.now(), """
                {"order": "%s", "channel": "shop", "currency": "EUR", "guest": true,
                 "lines": [{"line": "1", "product": "FIRST", "amount": "90.00"}]}""".formatted(orderId())));
        post("/door", "address", guest);
        assertThat(letter(guest, "How to get in"))
                .contains("Somebody at the school looks at it")
                .doesNotContain("/mine/proof/");
    }

    @Test
    void theLinkInALetterLeadsToAllThatSomebodyHasUntilItIsRevoked() {
        var person = someone();
        var order = school.buys(person, "HONEY", Instant.now());
        var page = ownPage(letter(person, "Honey Harvest is open"));
        assertThat(get(page).body())
                .contains("Honey Harvest", "without an end", "Order " + order, "paid", person)
                .doesNotContain("First Hive");
        assertThat(get(page + "/orders/" + order).body()).contains("€90.00");
        assertThat(get(page + "/orders/O-of-another").statusCode()).isEqualTo(404);
        var forged = get(page.substring(0, page.length() - 2) + "AA");
        assertThat(forged.statusCode()).isEqualTo(404);
        assertThat(post(page + "/send", "order", "O-of-another", "line", "1", "seat", "1", "address", someone())
                        .statusCode())
                .isEqualTo(404);
        assertThat(post(page + "/choose", "course", "pollen", "once", "1").body())
                .as("nothing lets them choose")
                .contains("role=\"alert\"");
        var id = jdbc.sql("select id from person where person_key = ?")
                .param(person)
                .query(Long.class)
                .single();
        assertThat(operator.post("/api/people/" + id + "/own-page/revoke", "").statusCode())
                .isEqualTo(204);
        assertThat(get(page).body()).isEqualTo(forged.body());
        policies("MAKE", false, false);
        var other = someone();
        school.buys(other, "HONEY", Instant.now());
        assertThat(letter(other, "Honey Harvest is open")).doesNotContain("/mine/");
    }

    @Test
    void anotherAddressIsTakenOnceItsOwnerSaysSo() {
        var person = someone();
        school.buys(person, "HONEY", Instant.now());
        var page = ownPage(letter(person, "Honey Harvest is open"));
        var other = someone();
        assertThat(post(page + "/address", "address", "no address").body()).contains("This is no e-mail address.");
        assertThat(post(page + "/address", "address", person).body()).contains("your address already");
        assertThat(post(page + "/address", "address", other).body()).contains("A letter went to both");
        assertThat(letter(person, "Another address?")).contains(other);
        assertThat(post(page + "/address", "address", someone()).statusCode()).isEqualTo(429);
        var link = linkIn(letter(other, "Is this your address"), "/mine/address/");
        assertThat(get(link).body()).contains("Yes, change it");
        assertThat(school.classroom.has(other, "honey")).isFalse();
        assertThat(post(link).body()).contains("It is changed");
        await().atMost(30, SECONDS)
                .until(() -> school.classroom.has(other, "honey") && !school.classroom.has(person, "honey"));
        assertThat(letter(person, "Your address was changed")).contains(other);
        assertThat(letter(other, "This is your address now")).contains("Sign in with it");
        assertThat(post(link).body()).as("once more changes nothing").contains("It is changed");
        assertThat(get(page).body()).as("the old link shows the same person").contains(other);
    }
}
