package yoru.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.apache.commons.codec.binary.Base32;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.context.properties.bind.Binder;
import org.springframework.boot.context.properties.source.MapConfigurationPropertySource;
import org.springframework.jdbc.core.simple.JdbcClient;
import yoru.server.platform.Sha256;
import yoru.server.platform.YoruSettings;

/** Signing in and what is closed without it; items of OWASP ASVS 5.0 are named where they are checked. */
@ServerTest
class SessionTests {

    private static final String PASSWORD = "drone comb under seven lids";
    private static final String NEXT = "a new hive tool for Thursday";

    @Autowired
    private TestSchool school;

    @Autowired
    private JdbcClient jdbc;

    @Test
    void nothingIsShownWithoutSigningIn() {
        var stranger = Operator.stranger(school.address());
        for (var path : new String[] {"/api/today", "/api/people", "/api/mapping", "/api/journal", "/v3/api-docs"}) {
            var answer = stranger.get(path);
            assertThat(answer.statusCode()).as(path).isEqualTo(401);
            assertThat(answer.headers().firstValue("content-type").orElse("")).startsWith("application/problem+json");
        }
        assertThat(stranger.get("/actuator/health").statusCode()).isEqualTo(200);
        assertThat(stranger.get("/actuator/env").body()).doesNotContain("yoru.key");
        assertThat(stranger.read("/api/session").has("name")).isFalse();
    }

    /** ASVS 7.2.4: a new session at sign-in; 7.4.1: a session that was ended lets nobody in. */
    @Test
    void theSessionIsKeptInTheDatabaseAndEndsAtSigningOut() {
        var operator = Operator.stranger(school.address());
        assertThat(operator.signIn(TestSchool.EMAIL.toUpperCase(java.util.Locale.ROOT), TestSchool.PASSWORD)
                        .statusCode())
                .isEqualTo(200);
        var first = operator.cookie("yoru-session");
        operator.signIn(TestSchool.EMAIL, TestSchool.PASSWORD);
        assertThat(operator.cookie("yoru-session")).isNotEqualTo(first).isNotEmpty();
        assertThat(operator.get("/api/today").statusCode()).isEqualTo(200);
        assertThat(jdbc.sql("select count(*) from spring_session where principal_name is not null")
                        .query(Long.class)
                        .single())
                .isPositive();
        jdbc.sql("delete from spring_session").update();
        assertThat(operator.get("/api/today").statusCode()).isEqualTo(401);
    }

    /** ASVS 3.5.1: a forged request from another site changes nothing. */
    @Test
    void aRequestWithoutTheTokenIsRefused() {
        var operator = Operator.signedIn(school);
        assertThat(operator.postWithoutToken("/api/mapping/consequence", "{\"changes\": []}")
                        .statusCode())
                .isEqualTo(403);
        assertThat(operator.post("/api/mapping/consequence", "{\"changes\": []}")
                        .statusCode())
                .isEqualTo(200);
    }

    @BeforeEach
    void forgetFailures() {
        jdbc.sql("delete from failed_sign_in").update();
    }

    private String someone(String role) {
        var email = "team-" + UUID.randomUUID() + "@hollowoak.example";
        Operator.signedIn(school).invites(email, PASSWORD, role);
        return email;
    }

    /**
     * ASVS 6.3.1: repeated failures are held back; 6.3.8: alike for addresses that nobody has. Whoever has signed in from
     * their browser before is not held up by others.
     */
    @Test
    void whoGuessesWaitsAndHoldsNobodyElseUp() {
        var email = someone("SUPPORT");
        var usual = Operator.stranger(school.address());
        assertThat(usual.signIn(email, PASSWORD).statusCode()).isEqualTo(200);
        var guesser = Operator.stranger(school.address());
        List<String> answers = new ArrayList<>();
        for (var address : List.of(email, "nobody-at-all@hollowoak.example")) {
            for (int failure = 0; failure < 5; failure++) {
                var wrong = guesser.signIn(address, "wrong");
                assertThat(wrong.statusCode()).isEqualTo(401);
                answers.add(wrong.body());
            }
            var held = guesser.signIn(address, PASSWORD);
            assertThat(held.statusCode()).isEqualTo(429);
            assertThat(held.headers().firstValueAsLong("retry-after").orElseThrow())
                    .isBetween(1L, 10L);
            answers.add(held.body().replaceAll("\\d+ seconds", "a while"));
        }
        assertThat(answers.subList(0, 6)).as("who has an account is not told").isEqualTo(answers.subList(6, 12));
        usual.delete("/api/session");
        assertThat(usual.signIn(email, PASSWORD).statusCode()).isEqualTo(200);
        jdbc.sql("update failed_sign_in set last_at = last_at - interval '11 seconds'")
                .update();
        assertThat(guesser.signIn(email, PASSWORD).statusCode())
                .as("after the pause")
                .isEqualTo(200);
    }

    /** ASVS 6.3.3 and 6.5.1: a second factor, each code of which is good once. */
    @Test
    void aSecondFactorIsAskedForAndEachCodeIsGoodOnce() {
        var email = someone("OPERATOR");
        var operator = Operator.stranger(school.address());
        operator.signIn(email, PASSWORD);
        var begun = TestSchool.json(operator.post("/api/session/second-factor", "{}"));
        var secret = new Base32().decode(begun.path("secret").asString());
        assertThat(begun.path("address").asString())
                .startsWith("otpauth://totp/Hollow%20Oak%20Bee%20School:")
                .contains("secret=" + begun.path("secret").asString());
        assertThat(operator.put("/api/session/second-factor", "{\"code\": \"12345\"}")
                        .statusCode())
                .isEqualTo(422);
        long step = Instant.now().getEpochSecond() / 30;
        var codes = TestSchool.json(
                        operator.put("/api/session/second-factor", "{\"code\": \"%s\"}".formatted(code(secret, step))))
                .path("codes");
        assertThat(codes.size()).isEqualTo(10);

        var again = Operator.stranger(school.address());
        var asked = again.signIn(email, PASSWORD);
        assertThat(asked.statusCode()).isEqualTo(401);
        assertThat(TestSchool.json(asked).path("secondFactor").asBoolean()).isTrue();
        assertThat(again.get("/api/people").statusCode()).isEqualTo(401);
        assertThat(TestSchool.json(again.signIn(email, "wrong")).has("secondFactor"))
                .as("whether there is one is told only to who has the password")
                .isFalse();
        assertThat(again.signIn(email, PASSWORD, code(secret, step)).statusCode())
                .as("used already")
                .isEqualTo(401);
        assertThat(again.signIn(email, PASSWORD, code(secret, step + 1)).statusCode())
                .as("a clock half a minute ahead")
                .isEqualTo(200);
        var spare = codes.get(3).asString();
        assertThat(again.signIn(email, PASSWORD, spare.toLowerCase(Locale.ROOT)).statusCode())
                .isEqualTo(200);
        assertThat(again.signIn(email, PASSWORD, spare).statusCode()).isEqualTo(401);
        assertThat(jdbc.sql("select encode(factor_secret, 'escape') from operator where email = ?")
                        .param(email)
                        .query(String.class)
                        .single())
                .doesNotContain(begun.path("secret").asString());
    }

    /** RFC 4226, 5.3, in this test's own words; RFC 6238, appendix B has 94287082 at second 59 for the RFC's own secret. */
    private static String code(byte[] secret, long step) {
        try {
            var mac = Mac.getInstance("HmacSHA1");
            mac.init(new SecretKeySpec(secret, "HmacSHA1"));
            var digest = mac.doFinal(ByteBuffer.allocate(8).putLong(step).array());
            int at = digest[19] & 0xf;
            int number = ByteBuffer.wrap(digest, at, 4).getInt() & 0x7fffffff;
            return "%06d".formatted(number % 1_000_000);
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException(e);
        }
    }

    @Test
    void theTestsOwnCodesAreThoseOfTheStandard() {
        assertThat(code("12345678901234567890".getBytes(StandardCharsets.US_ASCII), 59 / 30))
                .isEqualTo("287082");
    }

    /** ASVS 7.5.3: before what opens everything else, somebody proves again that it is them. */
    @Test
    void beforeTheTeamOrASecretIsChangedSomebodyProvesAgainWhoTheyAre() {
        var owner = Operator.signedIn(school);
        var member = "{\"email\": \"%s\", \"name\": \"Later\", \"role\": \"READER\"}";
        jdbc.sql("delete from spring_session_attributes where attribute_name = 'yoru.provedAt'")
                .update();
        var refused = owner.post("/api/team", member.formatted("later@hollowoak.example"));
        assertThat(refused.statusCode()).isEqualTo(403);
        assertThat(TestSchool.json(refused).path("proof").asBoolean()).isTrue();
        assertThat(owner.post("/api/systems/shop/secret", "{}").statusCode()).isEqualTo(403);
        assertThat(owner.get("/api/team").statusCode()).isEqualTo(200);
        assertThat(owner.post("/api/session/proof", "{\"password\": \"wrong\"}").statusCode())
                .isEqualTo(422);
        assertThat(owner.post("/api/session/proof", "{\"password\": \"%s\"}".formatted(TestSchool.PASSWORD))
                        .statusCode())
                .isEqualTo(204);
        assertThat(owner.post("/api/team", member.formatted("later@hollowoak.example"))
                        .statusCode())
                .isEqualTo(201);
    }

    /** ASVS 7.3.1 and 7.3.2: a session ends after hours without a request, and after a day whatever is done. */
    @Test
    void aSessionEndsByItself() {
        var operator = Operator.signedIn(school);
        assertThat(operator.get("/api/people").statusCode()).isEqualTo(200);
        assertThat(jdbc.sql("select max(max_inactive_interval) from spring_session")
                        .query(Integer.class)
                        .single())
                .isEqualTo((int) Duration.ofHours(4).toSeconds());
        jdbc.sql("update spring_session set creation_time = creation_time - 86400001")
                .update();
        assertThat(operator.get("/api/people").statusCode()).isEqualTo(401);
        assertThat(operator.read("/api/session").has("name")).isFalse();
    }

    /** ASVS 3.5.1: nobody who has seen the token before somebody signed in knows the one after. */
    @Test
    void theTokenAgainstForgedRequestsIsAnotherOneAfterSigningIn() {
        var operator = Operator.stranger(school.address());
        var before = operator.cookie("XSRF-TOKEN");
        operator.signIn(TestSchool.EMAIL, TestSchool.PASSWORD);
        assertThat(operator.cookie("XSRF-TOKEN")).isNotEmpty().isNotEqualTo(before);
    }

    /** NIST SP 800-63B-4, 3.1.1.2; ASVS 6.2.4 and 6.2.11: what many use, and what stands all around. */
    @ParameterizedTest
    @ValueSource(strings = {"aaaaaaaaaa", "password123", "qwertyuiop", "hollowoakbees", "Yoru2026Yoru", "short"})
    void whatIsSoonGuessedIsNoPassword(String password) {
        var email = someone("READER");
        var operator = Operator.stranger(school.address());
        operator.signIn(email, PASSWORD);
        assertThat(changed(operator, PASSWORD, password)).isEqualTo(400);
        assertThat(operator.signIn(email, password).statusCode()).isEqualTo(401);
    }

    /** ASVS 6.2.3: the present password is asked for; 7.4.3: the other sessions end. */
    @Test
    void anotherPasswordEndsTheOtherSessionsAndGuessingTheOldOneIsHeldBack() {
        var email = someone("READER");
        var here = Operator.stranger(school.address());
        var there = Operator.stranger(school.address());
        here.signIn(email, PASSWORD);
        there.signIn(email, PASSWORD);
        assertThat(changed(here, "wrong", NEXT)).isEqualTo(422);
        assertThat(there.get("/api/people").statusCode()).isEqualTo(200);
        assertThat(changed(here, PASSWORD, NEXT)).isEqualTo(200);
        assertThat(here.get("/api/people").statusCode()).isEqualTo(200);
        assertThat(there.get("/api/people").statusCode()).isEqualTo(401);
        assertThat(there.get("/api/session").body()).doesNotContain(email);
        assertThat(there.signIn(email, PASSWORD).statusCode()).isEqualTo(401);
        assertThat(there.signIn(email, NEXT).statusCode()).isEqualTo(200);
        for (int failure = 0; failure < 5; failure++) {
            assertThat(changed(here, "wrong", "yet another seven lids")).isEqualTo(422);
        }
        assertThat(changed(here, NEXT, "yet another seven lids")).isEqualTo(429);
    }

    private static int changed(Operator operator, String present, String next) {
        return operator.put("/api/session/password", "{\"present\": \"%s\", \"next\": \"%s\"}".formatted(present, next))
                .statusCode();
    }

    /** Nobody is told whether there is an owner, and nobody becomes one without what the start has printed. */
    @Test
    void theOwnersAccountIsMadeOnceAndOnlyWithTheCode() {
        var stranger = Operator.stranger(school.address());
        assertThat(stranger.read("/api/session").toString()).doesNotContain("first", "owner");
        var owner = """
                {"code": "%s", "email": "me@too.example", "name": "Me", "password": "long enough for seven lids"}""";
        var wrong = stranger.post("/api/owner", owner.formatted("WRONG"));
        assertThat(wrong.statusCode()).isEqualTo(403);
        jdbc.sql("insert into first_code (hash, made_at) values (?, now())")
                .param(Sha256.of("RIGHTCODE"))
                .update();
        var right = stranger.post("/api/owner", owner.formatted("right-code"));
        assertThat(right.statusCode()).as("there is an owner").isEqualTo(403);
        assertThat(right.body()).isEqualTo(wrong.body());
        jdbc.sql("delete from first_code").update();
        assertThat(jdbc.sql("select count(*) from operator where email = 'me@too.example'")
                        .query(Long.class)
                        .single())
                .isZero();
    }

    /** ASVS 3.4: content policy, no sniffing, no framing; 3.3: cookies closed to scripts; 14.3.2: not cached. */
    @Test
    void headersAndCookiesAreStrict() {
        var operator = Operator.stranger(school.address());
        var answer = operator.signIn(TestSchool.EMAIL, TestSchool.PASSWORD);
        var headers = answer.headers();
        assertThat(headers.firstValue("content-security-policy").orElse(""))
                .contains("default-src 'self'", "frame-ancestors 'none'", "object-src 'none'")
                .doesNotContain("unsafe-eval", "script-src");
        assertThat(headers.firstValue("x-content-type-options")).hasValue("nosniff");
        assertThat(headers.firstValue("cache-control").orElse("")).contains("no-store");
        assertThat(headers.allValues("set-cookie"))
                .filteredOn(cookie -> cookie.startsWith("yoru-session="))
                .singleElement()
                .asString()
                .contains("HttpOnly", "SameSite=Lax");
    }

    /** Secrets stand encrypted in the database and are never sent to the browser. */
    @Test
    void secretsStayIn() {
        assertThat(jdbc.sql(
                                "select encode(signing_secret, 'escape') || encode(token, 'escape') from connection where id in ('shop', 'classroom')")
                        .query(String.class)
                        .list())
                .hasSize(2)
                .allSatisfy(kept -> assertThat(kept).doesNotContain("whsec_", "-token"));
        var operator = Operator.signedIn(school);
        assertThat(operator.get("/api/today").body()).doesNotContain("whsec_", "-token");
        assertThat(jdbc.sql("select password_hash from operator where name = 'Owner'")
                        .query(String.class)
                        .single())
                .as("bcrypt, in tests as cheap as it gets")
                .startsWith("$2a$04$");
    }

    /** OWASP's Password Storage Cheat Sheet asks for 10 at least. */
    @Test
    void tryingAPasswordIsDearWhereNothingElseIsSet() {
        var settings = new Binder(new MapConfigurationPropertySource(Map.of("yoru.key", "")))
                .bind("yoru", YoruSettings.class)
                .get();
        assertThat(settings.passwordCost()).isEqualTo(12);
    }
}
