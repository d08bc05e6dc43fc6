package yoru.server;

import static org.assertj.core.api.Assertions.assertThat;

import com.github.kagkarlsson.scheduler.Scheduler;
import java.io.IOException;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.List;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.SmartInitializingSingleton;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.TestConfiguration;
import org.springframework.context.annotation.Bean;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;

/** A server that one machine stands before, which takes TLS for it; these tests play that machine. */
@ServerTest
class BehindAProxyTests {

    private static final int METRICS = freePort();

    @DynamicPropertySource
    static void settings(DynamicPropertyRegistry registry) {
        registry.add("yoru.public-address", () -> "https://yoru.example");
        registry.add("yoru.proxies", () -> "127.0.0.1");
        registry.add("yoru.metrics-port", () -> METRICS);
        registry.add("yoru.security-contact", () -> "mailto:holes@hollowoak.example");
    }

    /** Looks at the queue when all that there is has been made, and those who listen to events are about to be known. */
    @TestConfiguration(proxyBeanMethods = false)
    static class WhileStarting {

        private static final AtomicBoolean WORKS = new AtomicBoolean();

        @Bean
        SmartInitializingSingleton looksAtTheQueue(Scheduler scheduler) {
            return () -> WORKS.set(scheduler.getSchedulerState().isStarted());
        }
    }

    @Autowired
    private Scheduler scheduler;

    @Autowired
    private TestSchool school;

    @Autowired
    private JdbcClient jdbc;

    private static int freePort() {
        try (var socket = new ServerSocket(0)) {
            return socket.getLocalPort();
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    private static HttpResponse<String> get(String address, String forwardedFor) {
        return TestSchool.send(HttpRequest.newBuilder(URI.create(address))
                .header("X-Forwarded-For", forwardedFor)
                .header("X-Forwarded-Proto", "https")
                .build());
    }

    /** ASVS 4.1.3: what the proxy says counts, not what somebody has written before it. */
    @Test
    void peopleAreToldApartByWhatTheProxySaysOfThem() {
        get(school.address() + "/claim/no-such-code", "203.0.113.7");
        get(school.address() + "/claim/no-such-code", "127.0.0.1, 198.51.100.4");
        get(school.address() + "/claim/no-such-code", "2001:db8:a:b::1");
        get(school.address() + "/claim/no-such-code", "2001:db8:a:b:ffff:2:3:4");
        assertThat(jdbc.sql("select origin from claim_failure")
                        .query(String.class)
                        .list())
                .as("whoever has one IPv6 address has its network's")
                .containsExactlyInAnyOrder("203.0.113.7", "198.51.100.4", "2001:db8:a:b:0:0:0:0/64");
    }

    /** ASVS 3.3.1 and 3.4.1. */
    @Test
    void cookiesGoByTlsToThisHostOnly() {
        var answer = get(school.address() + "/api/session", "203.0.113.7");
        assertThat(answer.headers().allValues("set-cookie"))
                .isNotEmpty()
                .allSatisfy(cookie -> assertThat(cookie).startsWith("__Host-").contains("Secure", "Path=/"));
        assertThat(answer.headers().firstValue("strict-transport-security")).isPresent();
        assertThat(signIn("XSRF-TOKEN=a").statusCode())
                .as("a token that a page of another host under the same domain has set")
                .isEqualTo(403);
        var signedIn = signIn("__Host-XSRF-TOKEN=a");
        assertThat(signedIn.statusCode()).isEqualTo(200);
        assertThat(signedIn.headers().allValues("set-cookie"))
                .anySatisfy(cookie ->
                        assertThat(cookie).startsWith("__Host-yoru-session=").contains("Secure", "HttpOnly", "Path=/"))
                .anySatisfy(cookie ->
                        assertThat(cookie).startsWith("__Host-yoru-browser=").contains("HttpOnly"));
    }

    /** With {@code a} in the header against forged requests. */
    private HttpResponse<String> signIn(String cookie) {
        return TestSchool.send(HttpRequest.newBuilder(URI.create(school.address() + "/api/session"))
                .header("X-Forwarded-For", "203.0.113.7")
                .header("X-Forwarded-Proto", "https")
                .header("cookie", cookie)
                .header("X-XSRF-TOKEN", "a")
                .header("content-type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofString(
                        "{\"email\": \"%s\", \"password\": \"%s\"}".formatted(TestSchool.EMAIL, TestSchool.PASSWORD)))
                .build());
    }

    @Test
    void theMetricsAreOnTheirOwnPortAndNothingElseIs() {
        var own = "http://127.0.0.1:" + METRICS;
        assertThat(get(own + "/actuator/prometheus", "127.0.0.1").body()).contains("hikaricp_connections");
        for (var path : List.of("/", "/api/session", "/actuator/health", "/hooks/shop")) {
            assertThat(get(own + path, "127.0.0.1").statusCode()).as(path).isEqualTo(404);
        }
        assertThat(get(school.address() + "/actuator/prometheus", "127.0.0.1").statusCode())
                .isEqualTo(404);
    }

    /** An answer that nobody hears of loses a letter. */
    @Test
    void noWorkIsBegunBeforeThoseWhoListenAreThere() {
        assertThat(WhileStarting.WORKS).isFalse();
        assertThat(scheduler.getSchedulerState().isStarted()).isTrue();
    }

    @Test
    void aRequestIsCalledWhatTheProxyCallsItOrByAnIdOfOurOwn() {
        assertThat(idOf("proxy-4f2a9c01")).isEqualTo("proxy-4f2a9c01");
        for (var odd : List.of("short", "two words are no id", "x".repeat(65))) {
            assertThat(idOf(odd)).as(odd).matches("[0-9a-f]{16}");
        }
    }

    private String idOf(String given) {
        return TestSchool.send(HttpRequest.newBuilder(URI.create(school.address() + "/no-such-page"))
                        .header("X-Request-ID", given)
                        .build())
                .headers()
                .firstValue("x-request-id")
                .orElse("");
    }

    /** Before a server takes requests, and while its database is away, a proxy sends them elsewhere. */
    @Test
    void whetherItLivesAndWhetherItIsOfUseAreToldApart() {
        for (var probe : List.of("liveness", "readiness")) {
            assertThat(get(school.address() + "/actuator/health/" + probe, "203.0.113.7")
                            .statusCode())
                    .as(probe)
                    .isEqualTo(200);
        }
    }

    /** RFC 9116, 2.5. */
    @Test
    void itIsSaidToWhomAHoleIsTold() {
        assertThat(get(school.address() + "/.well-known/security.txt", "203.0.113.7")
                        .body())
                .contains("Contact: mailto:holes@hollowoak.example\n", "Expires: 20")
                .contains("Canonical: https://yoru.example/.well-known/security.txt");
    }
}
