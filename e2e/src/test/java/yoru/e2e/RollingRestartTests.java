package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpResponse.BodyHandlers;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.LongAdder;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIf;
import yoru.e2e.School.Part;

/** An update without a pause: two servers behind nginx are restarted in turn while the shop reports and an operator looks. */
@EnabledIf("yoru.e2e.LongRun#is")
class RollingRestartTests {

    private static final int AT_ONCE = 8;
    private static final int PAUSE_MS = 400;

    private final Nginx nginx = new Nginx();
    private final School school = School.behind(nginx.address());
    private final Map<String, LongAdder> reports = new ConcurrentHashMap<>();
    private final Map<String, LongAdder> screens = new ConcurrentHashMap<>();

    @AfterEach
    void close() {
        school.close();
    }

    @Test
    void everyReportIsTakenAndNobodyIsSignedOut() throws Exception {
        nginx.start(school);
        var shop = nginx.trusting().build();
        var operator = SignedIn.at(nginx.address(), nginx.trusting());
        try (var working = Executors.newScheduledThreadPool(AT_ONCE + 1)) {
            for (int n = 0; n < AT_ONCE; n++) {
                working.scheduleAtFixedRate(
                        () -> counted(reports, () -> report(shop)), 0, PAUSE_MS, TimeUnit.MILLISECONDS);
            }
            working.scheduleAtFixedRate(
                    () -> counted(screens, () -> operator.answer("/api/today").statusCode()), 0, 1, TimeUnit.SECONDS);
            for (Part server : List.of(Part.SERVER, Part.SECOND)) {
                school.stop(server);
                school.start(server);
            }
            working.shutdown();
            assertThat(working.awaitTermination(1, TimeUnit.MINUTES)).isTrue();
        }
        assertThat(reports).containsOnlyKeys("200");
        assertThat(screens).containsOnlyKeys("200");
        assertThat(school.count(Part.SERVER, "select count(*) from fact where subject like 'rolling-%'"))
                .isEqualTo(reports.get("200").sum())
                .isGreaterThan(AT_ONCE);
    }

    private interface Asked {
        int status() throws IOException, InterruptedException;
    }

    private static void counted(Map<String, LongAdder> answers, Asked asked) {
        String answer;
        try {
            answer = String.valueOf(asked.status());
        } catch (IOException e) {
            answer = e.toString();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            answer = "interrupted";
        }
        answers.computeIfAbsent(answer, _ -> new LongAdder()).increment();
    }

    private int report(HttpClient shop) throws IOException, InterruptedException {
        var id = UUID.randomUUID().toString();
        var event = """
                {"specversion": "1.0", "id": "%1$s", "source": "https://shop.example", "type": "yoru.order.placed", "subject": "rolling-%1$s@post.example", "time": "%2$s", "data": {"order": "R-%1$s", "channel": "shop", "currency": "EUR", "name": "Rolling", "lines": [{"line": "1", "product": "KIT-2", "quantity": 1, "amount": "64.00"}]}}""".formatted(id, Instant.now());
        return shop.send(school.reportTo(nginx.address(), Part.SHOP, id, event), BodyHandlers.discarding())
                .statusCode();
    }
}
