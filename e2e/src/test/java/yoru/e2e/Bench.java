package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.standardwebhooks.Webhook;
import java.io.IOException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import yoru.e2e.School.Part;

/**
 * Measures, on this machine; run by {@code ./yoru bench}, never as a test. What depends on the machine is given as a
 * ratio to something measured in the same run.
 */
class Bench {

    private static final int WARM_UP = 60;
    private static final int SALES = 200;
    private static final int REPORTS = 5_000;
    private static final int WARM_UP_REPORTS = 3_000;
    private static final int AT_ONCE = 16;

    private final School school = School.forMeasuring();

    @AfterEach
    void close() {
        school.close();
    }

    @Test
    void sales() throws Exception {
        for (int n = 0; n < WARM_UP; n++) {
            sell("warm-up-" + n + "@bench.example");
        }
        for (int n = 0; n < SALES; n++) {
            sell("buyer-" + n + "@bench.example");
        }
        var waits = waits();
        assertThat(waits).hasSize(SALES);
        print("Order placed in the shop to enrolled in the classroom, %d sales one after another:", SALES);
        print(
                "  median %d ms, p99 %d ms, slowest %d ms",
                waits.get(SALES / 2), waits.get(SALES * 99 / 100), waits.getLast());
        print(
                "  ratio of the median to one empty HTTP request to the server: %.0f",
                waits.get(SALES / 2) / emptyRequestMs());
    }

    @Test
    void webhooks() throws Exception {
        report(bodies(WARM_UP_REPORTS, "warm"));
        await().atMost(Duration.ofMinutes(2)).until(school::quiet);
        var bodies = bodies(REPORTS, "counted");
        double intake = report(bodies);
        double empty = emptyRequests();
        await().atMost(Duration.ofMinutes(5)).until(school::quiet);
        assertThat(school.count(Part.SERVER, "select count(*) from fact where subject like 'counted-%'"))
                .isEqualTo(REPORTS);
        double inserts = pgbench(bodies.getFirst());
        print(
                "Webhooks taken in, %d of %d bytes, %d at once: %.0f a second",
                REPORTS, bodies.getFirst().length(), AT_ONCE, intake);
        print(
                "  pgbench, plain inserts of the same size, %d clients: %.0f a second; ratio %.3f",
                AT_ONCE, inserts, intake / inserts);
        print("  requests that do nothing, %d at once: %.0f a second; ratio %.2f", AT_ONCE, empty, intake / empty);
    }

    /** Through the shop's own checkout, and waits until the classroom has it. */
    private void sell(String email) throws IOException, InterruptedException {
        var form = "who=new&payment=now&name=Bench&password=bench-bench&email="
                + URLEncoder.encode(email, StandardCharsets.UTF_8);
        var answer = school.send(HttpRequest.newBuilder(URI.create(school.address(Part.SHOP) + "/checkout"))
                .header("cookie", "practice-basket=FIRST.1")
                .header("content-type", "application/x-www-form-urlencoded")
                .POST(BodyPublishers.ofString(form))
                .build());
        assertThat(answer.statusCode()).isEqualTo(302);
        await().pollInterval(Duration.ofMillis(5))
                .atMost(Duration.ofSeconds(20))
                .until(() ->
                        school.count(Part.CLASSROOM, "select count(*) from enrolment where learner = ?", email) == 1);
    }

    /** By the shop's and the classroom's own records, which share this machine's clock; milliseconds, sorted. */
    private List<Long> waits() {
        var placed = school.rows(
                Part.SHOP,
                "select email || ' ' || extract(epoch from placed_at) * 1000 from shop_order where email like 'buyer-%' order by email");
        var enrolled = school.rows(
                Part.CLASSROOM,
                "select learner || ' ' || extract(epoch from changed_at) * 1000 from enrolment where learner like 'buyer-%' order by learner");
        var waits = new ArrayList<Long>();
        for (int at = 0; at < placed.size(); at++) {
            var from = placed.get(at).split(" ");
            var to = enrolled.get(at).split(" ");
            assertThat(from[0]).isEqualTo(to[0]);
            waits.add(Math.round(Double.parseDouble(to[1]) - Double.parseDouble(from[1])));
        }
        waits.sort(null);
        return waits;
    }

    private double emptyRequestMs() throws IOException, InterruptedException {
        var request = HttpRequest.newBuilder(URI.create(school.server() + "/actuator/health/liveness"))
                .build();
        var times = new ArrayList<Long>();
        for (int n = 0; n < 300; n++) {
            long began = System.nanoTime();
            school.send(request);
            times.add(System.nanoTime() - began);
        }
        times.sort(null);
        return times.get(150) / 1e6;
    }

    private static List<String> bodies(int many, String who) {
        var bodies = new ArrayList<String>();
        for (int n = 0; n < many; n++) {
            bodies.add("""
                    {"specversion":"1.0","id":"%s","source":"https://shop.example","type":"yoru.order.placed","subject":"%s-%05d@bench.example","time":"%s","data":{"order":"%s-%05d","channel":"shop","currency":"EUR","name":"Bench","lines":[{"line":"1","product":"KIT-2","quantity":1,"amount":"64.00"}]}}""".formatted(UUID.randomUUID(), who, n, Instant.now(), who, n));
        }
        return bodies;
    }

    /** @return reports taken in a second */
    private double report(List<String> bodies) throws Exception {
        var webhook = new Webhook(school.setting("YORU_SHOP_SECRET"));
        var address = URI.create(school.server() + "/hooks/practice-shop");
        long now = Instant.now().getEpochSecond();
        var requests = new ArrayList<HttpRequest>();
        for (String body : bodies) {
            var id = UUID.randomUUID().toString();
            requests.add(HttpRequest.newBuilder(address)
                    .header("webhook-id", id)
                    .header("webhook-timestamp", String.valueOf(now))
                    .header("webhook-signature", webhook.sign(id, now, body))
                    .POST(BodyPublishers.ofString(body))
                    .build());
        }
        return answered(requests);
    }

    /** @return requests answered in a second to which there is nothing to do: what the server and this client cost alone */
    private double emptyRequests() throws Exception {
        return answered(Collections.nCopies(
                REPORTS,
                HttpRequest.newBuilder(URI.create(school.server() + "/actuator/health/liveness"))
                        .build()));
    }

    private double answered(List<HttpRequest> requests) throws Exception {
        var work = requests.stream()
                .<Callable<Integer>>map(request -> () -> school.send(request).statusCode())
                .toList();
        try (var threads = Executors.newFixedThreadPool(AT_ONCE)) {
            long began = System.nanoTime();
            for (var answer : threads.invokeAll(work)) {
                assertThat(answer.get()).isEqualTo(200);
            }
            return requests.size() / ((System.nanoTime() - began) / 1e9);
        }
    }

    /** @return inserts a second, each in its own transaction, into a table with the same unique key */
    private double pgbench(String body) throws IOException, InterruptedException {
        school.change(
                Part.SERVER,
                "create table bench (seq bigint generated always as identity primary key, id text unique, body jsonb)");
        var script = Files.createTempFile("yoru", ".sql");
        Files.writeString(
                script,
                "insert into bench (id, body) values (gen_random_uuid()::text, '" + body.replace("'", "''") + "');\n");
        var pgbench = List.of(
                Path.of(System.getenv("YORU_PG_BIN"), "pgbench").toString(),
                "-n",
                "-h",
                "127.0.0.1",
                "-p",
                School.pgPort(),
                "-U",
                "yoru_admin",
                "-c",
                String.valueOf(AT_ONCE),
                "-j",
                "2",
                "-t",
                String.valueOf(REPORTS / AT_ONCE),
                "-f",
                script.toString(),
                school.database(Part.SERVER));
        var builder = new ProcessBuilder(pgbench).redirectErrorStream(true);
        builder.environment().put("PGPASSWORD", School.pgPassword());
        var process = builder.start();
        var said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertThat(process.waitFor()).as(said).isZero();
        var found = Pattern.compile("tps = ([0-9.]+)").matcher(said);
        assertThat(found.find()).as(said).isTrue();
        return Double.parseDouble(found.group(1));
    }

    private static void print(String format, Object... values) {
        System.out.printf(format + "%n", values);
    }
}
