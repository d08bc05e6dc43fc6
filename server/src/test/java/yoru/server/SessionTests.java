package yoru.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.context.properties.bind.Binder;
import org.springframework.boot.context.properties.source.MapConfigurationPropertySource;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.security.crypto.password.PasswordEncoder;
import yoru.server.platform.YoruSettings;

/** Signing in and what is closed without it; items of OWASP ASVS 5.0 are named where they are checked. */
@ServerTest
class SessionTests {

    @Autowired
    private TestSchool school;

    @Autowired
    private JdbcClient jdbc;

    @Autowired
    private PasswordEncoder passwords;

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

    /** ASVS 6.3.1: repeated failures are held back. */
    @Test
    void fiveFailuresLockTheAccountForAWhile() {
        jdbc.sql("""
                        insert into operator (id, email, name, password_hash, role)
                        values (gen_random_uuid(), 'second@hollowoak.example', 'Second', ?, 'SUPPORT')""").param(passwords.encode(TestSchool.PASSWORD)).update();
        var operator = Operator.stranger(school.address());
        for (int failure = 0; failure < 5; failure++) {
            assertThat(operator.signIn("second@hollowoak.example", "wrong").statusCode())
                    .isEqualTo(401);
        }
        var locked = operator.signIn("second@hollowoak.example", TestSchool.PASSWORD);
        assertThat(locked.statusCode()).isEqualTo(429);
        assertThat(locked.body()).contains("15 minutes");
        jdbc.sql("update operator set locked_until = now() - interval '1 second' where name = 'Second'")
                .update();
        assertThat(operator.signIn("second@hollowoak.example", TestSchool.PASSWORD)
                        .statusCode())
                .isEqualTo(200);
        assertThat(operator.signIn("nobody@hollowoak.example", "wrong").body())
                .as("who has an account is not told")
                .contains("No account has this address and password");
    }

    /** ASVS 6.2.3: the present password is asked for; 7.4.3: the other sessions end. */
    @Test
    void anotherPasswordEndsTheOtherSessionsAndGuessingTheOldOneIsHeldBack() {
        jdbc.sql("""
                        insert into operator (id, email, name, password_hash, role)
                        values (gen_random_uuid(), 'third@hollowoak.example', 'Third', ?, 'READER')""").param(passwords.encode(TestSchool.PASSWORD)).update();
        var here = Operator.stranger(school.address());
        var there = Operator.stranger(school.address());
        here.signIn("third@hollowoak.example", TestSchool.PASSWORD);
        there.signIn("third@hollowoak.example", TestSchool.PASSWORD);
        assertThat(changed(here, "wrong", "a new hive tool")).isEqualTo(422);
        assertThat(changed(here, TestSchool.PASSWORD, "short")).isEqualTo(400);
        assertThat(there.get("/api/people").statusCode()).isEqualTo(200);
        assertThat(changed(here, TestSchool.PASSWORD, "a new hive tool")).isEqualTo(200);
        assertThat(here.get("/api/people").statusCode()).isEqualTo(200);
        assertThat(there.get("/api/people").statusCode()).isEqualTo(401);
        assertThat(there.get("/api/session").body()).doesNotContain("third@hollowoak.example");
        assertThat(there.signIn("third@hollowoak.example", TestSchool.PASSWORD).statusCode())
                .isEqualTo(401);
        assertThat(there.signIn("third@hollowoak.example", "a new hive tool").statusCode())
                .isEqualTo(200);
        for (int failure = 0; failure < 5; failure++) {
            assertThat(changed(here, "wrong", "yet another tool")).isEqualTo(422);
        }
        assertThat(changed(here, "a new hive tool", "yet another tool")).isEqualTo(429);
    }

    private static int changed(Operator operator, String present, String next) {
        return operator.put("/api/session/password", "{\"present\": \"%s\", \"next\": \"%s\"}".formatted(present, next))
                .statusCode();
    }

    @Test
    void thereIsOneOwnerOnly() {
        var stranger = Operator.stranger(school.address());
        var second = stranger.post("/api/owner", """
                {"email": "me@too.example", "name": "Me", "password": "long enough for all"}""");
        assertThat(second.statusCode()).isEqualTo(409);
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
