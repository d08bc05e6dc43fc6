package yoru.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.security.GeneralSecurityException;
import java.util.UUID;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;
import yoru.server.platform.SchoolSettings;

/** Signing in with a passkey (OWASP ASVS 5.0, 6.3.3 and 6.5): a device of this test's own answers what real browsers answer. */
@ServerTest
class PasskeyTests {

    private static final String PASSWORD = "smoke under seven lids";

    @Autowired
    private TestSchool school;

    @Autowired
    private SchoolSettings settings;

    @Autowired
    private JdbcClient jdbc;

    private String email;
    private Operator member;
    private TestDevice device;

    /** Browsers make passkeys for names only. */
    @BeforeEach
    void begin() throws GeneralSecurityException {
        device = new TestDevice(name());
        address(name());
        email = "team-" + UUID.randomUUID() + "@hollowoak.example";
        Operator.signedIn(school).invites(email, PASSWORD, "OPERATOR");
        member = Operator.stranger(school.address());
        member.signIn(email, PASSWORD);
    }

    /** All tests share the school. */
    @AfterEach
    void asBefore() {
        jdbc.sql("delete from school").update();
        settings.changed();
    }

    private String name() {
        return school.address().replace("127.0.0.1", "localhost");
    }

    private void address(String address) {
        var owner = Operator.signedIn(school);
        var wanted = ((ObjectNode) owner.read("/api/school")).put("publicAddress", address);
        assertThat(owner.put("/api/school", wanted.toString()).statusCode()).isEqualTo(200);
    }

    private HttpResponse<String> added(TestDevice by) throws GeneralSecurityException {
        var offered = TestSchool.json(member.post("/api/session/passkeys/offer", "{}"));
        return member.post(
                "/api/session/passkeys", "{\"name\": \"Telephone\", \"credential\": %s}".formatted(by.make(offered)));
    }

    private static JsonNode asked(Operator who) {
        return TestSchool.json(who.post("/api/session/passkey/ask", "{}"));
    }

    private static int shown(Operator who, String shown) {
        return who.post("/api/session/passkey", "{\"credential\": %s}".formatted(shown))
                .statusCode();
    }

    @Test
    void letsItsOwnerInWithoutAPasswordAndCountsAsProof() throws GeneralSecurityException {
        assertThat(member.read("/api/session").path("passkeyHost").asString()).isEqualTo("localhost");
        assertThat(added(device).statusCode()).isEqualTo(201);
        var kept = member.read("/api/session/passkeys").get(0);
        assertThat(kept.path("name").asString()).isEqualTo("Telephone");
        assertThat(kept.path("good").asBoolean()).isTrue();
        assertThat(kept.has("usedAt")).isFalse();

        var visitor = Operator.stranger(school.address());
        var asked = asked(visitor);
        assertThat(asked.path("allowCredentials").size())
                .as("nobody is told who has one")
                .isZero();
        var before = visitor.cookie("yoru-session");
        var answer = device.show(asked);
        assertThat(shown(visitor, answer)).isEqualTo(204);
        assertThat(visitor.cookie("yoru-session")).as("ASVS 7.2.4").isNotEqualTo(before);
        assertThat(visitor.read("/api/session").path("email").asString()).isEqualTo(email);
        assertThat(visitor.read("/api/session/passkeys").get(0).has("usedAt")).isTrue();
        assertThat(shown(visitor, answer)).as("each answer is good once").isEqualTo(409);
        asked(visitor);
        assertThat(shown(visitor, answer)).as("and for its question only").isEqualTo(401);
        assertThat(Operator.signedIn(school)
                        .read("/api/journal?q=with%20a%20passkey")
                        .toString())
                .contains(email);

        assertThat(visitor.post(
                                "/api/session/proof/passkey",
                                "{\"credential\": %s}".formatted(device.show(asked(visitor))))
                        .statusCode())
                .isEqualTo(204);
        var others = new TestDevice(name());
        assertThat(visitor.post(
                                "/api/session/proof/passkey",
                                "{\"credential\": %s}".formatted(others.show(asked(visitor))))
                        .statusCode())
                .isEqualTo(422);
    }

    /** W3C Web Authentication, level 2: 7.2, steps 11 to 22. */
    @Test
    void whateverDoesNotBelongTogetherIsRefused() throws GeneralSecurityException {
        added(device);
        var visitor = Operator.stranger(school.address());
        device.verifies = false;
        assertThat(shown(visitor, device.show(asked(visitor))))
                .as("the device has not seen who holds it")
                .isEqualTo(401);
        device.verifies = true;
        assertThat(shown(visitor, device.show(((ObjectNode) asked(visitor)).put("rpId", "yoru.example"))))
                .as("made for another school")
                .isEqualTo(401);
        assertThat(shown(visitor, device.show(((ObjectNode) asked(visitor)).put("challenge", "AAAA"))))
                .as("an answer to something else")
                .isEqualTo(401);
        assertThat(shown(visitor, new TestDevice(name()).show(asked(visitor))))
                .as("known to nobody")
                .isEqualTo(401);
        assertThat(shown(visitor, device.show(asked(visitor)))).isEqualTo(204);
        device.count = 2;
        assertThat(shown(visitor, device.show(asked(visitor))))
                .as("a copy counts what was counted already")
                .isEqualTo(401);
        assertThat(visitor.get("/api/people").statusCode())
                .as("who is signed in stays so")
                .isEqualTo(200);
        assertThat(Operator.signedIn(school).read("/api/journal?q=passkey").toString())
                .contains("A passkey was refused");
    }

    /** 7.1, steps 7 to 16. */
    @Test
    void isKeptOnlyWhereItAnswersWhatWasAsked() throws GeneralSecurityException {
        assertThat(added(new TestDevice("https://yoru.example")).statusCode())
                .as("another page asked")
                .isEqualTo(422);
        device.verifies = false;
        assertThat(added(device).statusCode()).isEqualTo(422);
        device.verifies = true;
        assertThat(added(device).statusCode()).isEqualTo(201);
        assertThat(added(device).statusCode()).as("a second time").isEqualTo(422);
        assertThat(member.post("/api/session/passkeys", "{\"name\": \"x\", \"credential\": {}}")
                        .statusCode())
                .as("nothing was asked")
                .isEqualTo(409);
        assertThat(member.read("/api/session/passkeys").size()).isEqualTo(1);
    }

    @Test
    void aDeviceThatIsLostIsForgotten() throws GeneralSecurityException {
        added(device);
        var id = member.read("/api/session/passkeys").get(0).path("id").asString();
        var owner = Operator.signedIn(school);
        assertThat(owner.delete("/api/session/passkeys/" + id).statusCode())
                .as("another's")
                .isEqualTo(404);
        assertThat(member.delete("/api/session/passkeys/" + id).statusCode()).isEqualTo(204);
        var visitor = Operator.stranger(school.address());
        assertThat(shown(visitor, device.show(asked(visitor)))).isEqualTo(401);

        added(device);
        var account = ofMember(owner);
        assertThat(account.path("passkeys").asInt()).isEqualTo(1);
        assertThat(owner.delete("/api/team/" + account.path("id").asString() + "/passkeys")
                        .statusCode())
                .isEqualTo(204);
        assertThat(shown(visitor, device.show(asked(visitor)))).isEqualTo(401);

        added(device);
        owner.delete("/api/team/" + account.path("id").asString());
        assertThat(shown(visitor, device.show(asked(visitor))))
                .as("who has left the team")
                .isEqualTo(401);
    }

    private JsonNode ofMember(Operator owner) {
        return owner.read("/api/team")
                .valueStream()
                .filter(it -> it.path("email").asString().equals(email))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void whereTheAddressIsANumberThereAreNone() throws GeneralSecurityException {
        added(device);
        address(school.address());
        assertThat(member.read("/api/session").has("passkeyHost")).isFalse();
        assertThat(member.post("/api/session/passkeys/offer", "{}").statusCode())
                .isEqualTo(409);
        assertThat(member.read("/api/session/passkeys").get(0).path("good").asBoolean())
                .as("made for another address")
                .isFalse();
    }
}
