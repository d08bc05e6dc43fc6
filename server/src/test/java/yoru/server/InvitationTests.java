package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Passwords that nobody but their owner has ever known (OWASP ASVS 5.0, 6.4). Letters go through a real SMTP server. */
@ServerTest
class InvitationTests {

    private static final String MAILBOX = "mailbox-of-invitations";
    private static final String PASSWORD = "smoke under seven lids";
    private static final Pattern CODE = Pattern.compile("/password#([\\w-]+)");

    @Autowired
    private TestSchool school;

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

    @AfterEach
    void switchOff() {
        school.switchOff(MAILBOX);
    }

    private static String someone() {
        return "team-" + UUID.randomUUID() + "@hollowoak.example";
    }

    private String invited(String email) {
        return owner.post("/api/team", """
                {"email": "%s", "name": "Petra", "role": "SUPPORT"}""".formatted(email)).body();
    }

    private int chosen(String code, String password) {
        return Operator.stranger(school.address())
                .post("/api/session/new-password", """
                {"code": "%s", "password": "%s"}""".formatted(code, password))
                .statusCode();
    }

    private int signsIn(String email, String password) {
        return Operator.stranger(school.address()).signIn(email, password).statusCode();
    }

    private static Optional<String> code(String text) {
        return CODE.matcher(text).results().map(found -> found.group(1)).findFirst();
    }

    private static String letters(String email) {
        return StandIn.of("mailbox").lettersTo(email).toString();
    }

    private static String codeInLetter(String email) {
        return await().atMost(30, SECONDS)
                .until(() -> code(letters(email)), Optional::isPresent)
                .orElseThrow();
    }

    @Test
    void withoutAMailboxTheOwnerHandsTheInvitationOver() {
        var email = someone();
        var code = code(invited(email)).orElseThrow();
        assertThat(signsIn(email, "")).isEqualTo(400);
        assertThat(signsIn(email, "anything at all"))
                .as("no password is set yet")
                .isEqualTo(401);
        assertThat(chosen(code, "password123")).isEqualTo(400);
        assertThat(chosen(code, PASSWORD)).isEqualTo(204);
        assertThat(signsIn(email, PASSWORD)).isEqualTo(200);
        assertThat(chosen(code, "another under seven lids")).as("used already").isEqualTo(403);
        assertThat(jdbc.sql("select count(*) from password_code where hash = ?")
                        .param(code)
                        .query(Long.class)
                        .single())
                .as("only its digest was kept")
                .isZero();
    }

    @Test
    void anInvitationGoesByLetterAndIsGoodForAWhileOnly() {
        school.connectThePracticeMailbox(MAILBOX);
        var email = someone();
        assertThat(invited(email)).doesNotContain("link");
        var first = codeInLetter(email);
        jdbc.sql("update password_code set until = now() - interval '1 second'").update();
        assertThat(chosen(first, PASSWORD)).isEqualTo(403);
        var id = owner.read("/api/team")
                .valueStream()
                .filter(member -> member.path("email").asString().equals(email))
                .findFirst()
                .orElseThrow();
        assertThat(id.path("invited").asBoolean()).isTrue();
        owner.post("/api/team/" + id.path("id").asString() + "/invitation", "{}");
        var second = await().atMost(30, SECONDS)
                .until(
                        () -> CODE.matcher(letters(email))
                                .results()
                                .map(found -> found.group(1))
                                .filter(code -> !code.equals(first))
                                .findFirst(),
                        Optional::isPresent)
                .orElseThrow();
        assertThat(chosen(second, PASSWORD)).isEqualTo(204);
    }

    /** The answer is the same for an address that nobody has; only its owner gets a letter. */
    @Test
    void whoHasForgottenTheirPasswordIsWrittenTo() {
        var email = someone();
        owner.invites(email, PASSWORD, "READER");
        school.connectThePracticeMailbox(MAILBOX);
        var there = Operator.stranger(school.address());
        there.signIn(email, PASSWORD);
        var nobody = someone();
        var stranger = Operator.stranger(school.address());
        var answers = List.of(email, nobody).stream()
                .map(address -> stranger.post("/api/session/forgotten", "{\"email\": \"%s\"}".formatted(address)))
                .toList();
        assertThat(answers).allSatisfy(answer -> assertThat(answer.statusCode()).isEqualTo(202));
        assertThat(answers.get(0).body()).isEqualTo(answers.get(1).body());
        var code = codeInLetter(email);
        assertThat(signsIn(email, PASSWORD)).as("nothing changes by asking").isEqualTo(200);
        assertThat(chosen(code, "another under seven lids")).isEqualTo(204);
        assertThat(there.get("/api/people").statusCode())
                .as("their other sessions end")
                .isEqualTo(401);
        assertThat(signsIn(email, PASSWORD)).isEqualTo(401);
        await().atMost(30, SECONDS).until(school::quiet);
        assertThat(letters(nobody)).isEqualTo("[]");
    }

    /** Anybody may ask for anybody: nobody's mailbox is filled by it, and no invitation becomes worthless. */
    @Test
    void whoeverAsksAgainAndAgainFillsNobodysMailbox() {
        school.connectThePracticeMailbox(MAILBOX);
        var email = someone();
        invited(email);
        codeInLetter(email);
        var stranger = Operator.stranger(school.address());
        for (int asked = 0; asked < 6; asked++) {
            assertThat(stranger.post("/api/session/forgotten", "{\"email\": \"%s\"}".formatted(email))
                            .statusCode())
                    .isEqualTo(202);
        }
        await().atMost(30, SECONDS)
                .until(() ->
                        jdbc.sql("select count(*) from scheduled_tasks where task_name = 'letter-to-set-a-password'")
                                        .query(Long.class)
                                        .single()
                                == 0);
        var letters = StandIn.of("mailbox").lettersTo(email);
        assertThat(letters).as("the invitation, and three more").hasSize(4);
        assertThat(letters.toString()).contains("within four days").doesNotContain("within two hours");
        jdbc.sql("update failed_sign_in set last_at = last_at - interval '6 minutes'")
                .update();
        stranger.post("/api/session/forgotten", "{\"email\": \"%s\"}".formatted(email));
        await().atMost(30, SECONDS)
                .untilAsserted(
                        () -> assertThat(StandIn.of("mailbox").lettersTo(email)).hasSize(5));
    }

    /** What PostgreSQL cannot even look for would be tried again and again, and stand on Today as work that has stopped. */
    @ParameterizedTest
    @ValueSource(strings = {"a\\u0000@post.example", "nobody", "a@b@c"})
    void whatIsNoAddressIsNotLookedFor(String address) {
        await().atMost(30, SECONDS).until(school::quiet);
        var stranger = Operator.stranger(school.address());
        assertThat(stranger.post("/api/session/forgotten", "{\"email\": \"%s\"}".formatted(address))
                        .statusCode())
                .isEqualTo(400);
        assertThat(school.quiet()).as("nothing has to be done").isTrue();
    }
}
