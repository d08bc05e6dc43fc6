package yoru.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;

/** What each role may do is decided by the server, at every request (OWASP ASVS 5.0, 8.2.1 and 8.3.1). */
@ServerTest
class TeamTests {

    private static final String PASSWORD = "smoke under seven lids";

    @Autowired
    private TestSchool school;

    private Operator owner;

    @BeforeEach
    void signIn() {
        owner = Operator.signedIn(school);
    }

    private String add(String email, String role) {
        return owner.invites(email, PASSWORD, role);
    }

    private Operator signedIn(String email) {
        var operator = Operator.stranger(school.address());
        assertThat(operator.signIn(email, PASSWORD).statusCode()).isEqualTo(200);
        return operator;
    }

    private static String someone() {
        return "team-" + UUID.randomUUID() + "@hollowoak.example";
    }

    @Test
    void aDraftIsTheSameOnEachMachineOfItsOperatorAndSeenByTheOthers() {
        var email = someone();
        add(email, "OPERATOR");
        var here = signedIn(email);
        var there = signedIn(email);
        int revision = here.read("/api/mapping/draft").path("revision").asInt();
        assertThat(here.put("/api/mapping/draft", draft(revision, "first")).statusCode())
                .isEqualTo(200);
        assertThat(there.read("/api/mapping/draft")
                        .path("draft")
                        .path("changes")
                        .asString())
                .isEqualTo("first");
        assertThat(owner.read("/api/mapping/draft").path("others").valueStream())
                .anySatisfy(other -> {
                    assertThat(other.path("many").asInt()).isEqualTo(2);
                    assertThat(other.path("places").get(0).asString()).isEqualTo("First Hive → Honey");
                });
        assertThat(there.put("/api/mapping/draft", draft(revision, "of before")).statusCode())
                .as("changed elsewhere meanwhile")
                .isEqualTo(409);
        assertThat(here.read("/api/mapping/draft").path("draft").path("changes").asString())
                .isEqualTo("first");
        assertThat(there.put(
                                "/api/mapping/draft",
                                "{\"revision\": %d, \"places\": [], \"many\": 0}".formatted(revision + 1))
                        .statusCode())
                .isEqualTo(200);
        assertThat(here.read("/api/mapping/draft").has("draft")).isFalse();
        assertThat(owner.read("/api/mapping/draft").path("others").toString()).doesNotContain("First Hive → Honey");
    }

    private static String draft(int revision, String changes) {
        return """
                {"revision": %d, "draft": {"changes": "%s"}, "places": ["First Hive → Honey"], "many": 2}""".formatted(revision, changes);
    }

    @ParameterizedTest
    @CsvSource({
        // role, people, orders, today, an act, the mapping, the systems, findings, the team
        "OWNER,    200, 200, 200, 200, 200, 200, 200, 200",
        "OPERATOR, 200, 200, 200, 200, 200, 200, 200, 403",
        "SUPPORT,  200, 200, 200, 200, 403, 403, 403, 403",
        "READER,   200, 200, 200, 403, 403, 403, 403, 403",
    })
    void eachMayDoWhatTheirRoleSays(
            String role, int people, int orders, int today, int act, int mapping, int systems, int findings, int team) {
        var email = someone();
        add(email, role);
        var operator = signedIn(email);
        assertThat(operator.read("/api/session").path("role").asString()).isEqualTo(role);
        assertThat(operator.get("/api/people").statusCode()).isEqualTo(people);
        assertThat(operator.get("/api/orders").statusCode()).isEqualTo(orders);
        assertThat(operator.get("/api/today").statusCode()).isEqualTo(today);
        assertThat(operator.post("/api/desk/consequence", """
                        {"kind": "GIVE", "person": "a@b.example", "to": ["course/honey"], "reason": "prize"}""").statusCode()).isEqualTo(act);
        assertThat(operator.get("/api/mapping/rulebook").statusCode()).isEqualTo(mapping);
        assertThat(operator.get("/api/systems").statusCode()).isEqualTo(systems);
        assertThat(operator.get("/api/findings").statusCode()).isEqualTo(findings);
        assertThat(operator.get("/api/team").statusCode()).isEqualTo(team);
    }

    @Test
    void aChangeCountsAtOnceAndAnOwnerStays() {
        var email = someone();
        var id = add(email, "SUPPORT");
        var operator = signedIn(email);
        assertThat(operator.get("/api/systems").statusCode()).isEqualTo(403);
        assertThat(owner.put("/api/team/" + id, "{\"role\": \"OPERATOR\"}").statusCode())
                .isEqualTo(200);
        assertThat(operator.get("/api/systems").statusCode()).isEqualTo(200);
        assertThat(owner.delete("/api/team/" + id).statusCode()).isEqualTo(204);
        assertThat(operator.get("/api/people").statusCode())
                .as("also where they are signed in")
                .isEqualTo(401);
        assertThat(owner.delete("/api/team/" + id).statusCode()).isEqualTo(404);
        add(email, "OPERATOR");
        assertThat(operator.get("/api/people").statusCode())
                .as("added again, they sign in again")
                .isEqualTo(401);

        var first = owner.read("/api/team")
                .valueStream()
                .filter(member -> member.path("email").asString().equals(TestSchool.EMAIL))
                .findFirst()
                .orElseThrow()
                .path("id")
                .asString();
        var owners = owner.read("/api/team")
                .valueStream()
                .filter(member -> member.path("role").asString().equals("OWNER"))
                .toList();
        owners.stream()
                .map(member -> member.path("id").asString())
                .filter(other -> !other.equals(first))
                .forEach(other -> owner.delete("/api/team/" + other));
        assertThat(owner.put("/api/team/" + first, "{\"role\": \"READER\"}").statusCode())
                .as("the last owner")
                .isEqualTo(409);
        assertThat(owner.delete("/api/team/" + first).statusCode()).isEqualTo(409);
        assertThat(owner.post("/api/team", """
                        {"email": "%s", "name": "Again", "role": "READER"}""".formatted(TestSchool.EMAIL)).statusCode())
                .isEqualTo(409);
    }
}
