package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import yoru.server.platform.SchoolSettings;

/** Who the school is, as its owner says it in the browser. */
@ServerTest
class SchoolTests {

    private static final String MAILBOX = "mailbox-of-the-school";

    @Autowired
    private TestSchool school;

    @Autowired
    private SchoolSettings settings;

    @Autowired
    private JdbcClient jdbc;

    private Operator owner;

    @BeforeAll
    static void start() {
        StandIn.startAll("mailbox");
    }

    @BeforeEach
    void signIn() {
        owner = Operator.signedIn(school);
    }

    /** All tests share the school. */
    @AfterEach
    void asBefore() {
        jdbc.sql("delete from school").update();
        settings.changed();
        school.switchOff(MAILBOX);
    }

    /** What is there, with a field of it changed. */
    private ObjectNode with(String field, String value) {
        return ((ObjectNode) owner.read("/api/school")).put(field, value);
    }

    private JsonNode refused(ObjectNode wanted, int status) {
        var answer = owner.put("/api/school", wanted.toString());
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(status);
        return JsonMapper.shared().readTree(answer.body());
    }

    @Test
    void whatTheOwnerSaysCountsAtOnceAndOnTheOtherServerWithinSeconds() {
        var before = owner.read("/api/school");
        assertThat(before.path("version").asInt()).isZero();
        assertThat(owner.put(
                                "/api/school",
                                with("name", " Under the Lime Trees ").toString())
                        .statusCode())
                .isEqualTo(200);
        assertThat(owner.read("/api/session").path("school").asString()).isEqualTo("Under the Lime Trees");
        assertThat(owner.read("/api/journal?q=Lime").toString()).contains("name: Under the Lime Trees, before Hollow");
        assertThat(refused((ObjectNode) before, 409).path("title").asString()).contains("Somebody else");
        // as the other server writes it
        jdbc.sql("update school set name = 'Below the Lime Trees', version = 2").update();
        await().atMost(10, SECONDS)
                .until(() ->
                        owner.read("/api/session").path("school").asString().equals("Below the Lime Trees"));
    }

    @ParameterizedTest
    @CsvSource({
        "zone, Europe/Atlantis",
        "zone, +01:00",
        "currency, XYZ",
        "publicAddress, yoru.example",
        "publicAddress, ftp://yoru.example",
        "publicAddress, http://yoru.example/path",
        "publicAddress, http://user@yoru.example",
        "publicAddress, https://yoru.example"
    })
    void whatCannotBeIsSaidAtItsField(String field, String value) {
        assertThat(refused(with(field, value), 400)
                        .path("errors")
                        .get(0)
                        .path("field")
                        .asString())
                .isEqualTo(field);
    }

    @Test
    void zoneAndCurrencyStayOnceSomethingIsPublished() {
        assertThat(owner.read("/api/school").path("settled").asBoolean()).isTrue();
        assertThat(refused(with("zone", "Asia/Tokyo"), 409).path("title").asString())
                .contains("stay as they are");
        assertThat(owner.put("/api/school", with("name", "Another name").toString())
                        .statusCode())
                .isEqualTo(200);
    }

    @Test
    void whetherAnAddressLeadsHereIsAskedThere() throws IOException {
        assertThat(outcome(school.address())).isEqualTo("REACHED");
        assertThat(outcome(StandIn.of("mailbox").address())).isEqualTo("SOMETHING_ELSE");
        int closed;
        try (var socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            closed = socket.getLocalPort();
        }
        assertThat(outcome("http://127.0.0.1:" + closed)).isEqualTo("NOTHING");
    }

    private String outcome(String address) {
        var answer = owner.post("/api/school/reach", "{\"publicAddress\": \"%s\"}".formatted(address));
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
        return JsonMapper.shared().readTree(answer.body()).path("outcome").asString();
    }

    @Test
    void aLetterShowsWhoTheSenderIs() {
        assertThat(owner.post("/api/school/letter", "").statusCode())
                .as("nobody carries letters")
                .isEqualTo(409);
        school.connectThePracticeMailbox(MAILBOX);
        assertThat(owner.post("/api/school/letter", "").statusCode()).isEqualTo(200);
        assertThat(StandIn.of("mailbox").lettersTo(TestSchool.EMAIL).toString())
                .contains("A letter from Hollow Oak Bee School", "From: Hollow Oak <hello@hollowoak.example>");
    }

    @Test
    void nobodyElseSaysIt() {
        var email = "school-" + java.util.UUID.randomUUID() + "@hollowoak.example";
        owner.invites(email, TestSchool.PASSWORD + " more", "OPERATOR");
        var operator = Operator.stranger(school.address());
        operator.signIn(email, TestSchool.PASSWORD + " more");
        assertThat(operator.put("/api/school", with("name", "Mine").toString()).statusCode())
                .isEqualTo(403);
        assertThat(operator.post("/api/school/reach", "{\"publicAddress\": \"http://127.0.0.1:1\"}")
                        .statusCode())
                .isEqualTo(403);
    }
}
