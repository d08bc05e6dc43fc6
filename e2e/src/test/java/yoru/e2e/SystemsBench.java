package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import yoru.e2e.School.Part;

/** How fast the connected systems learn of things, and are compared. Run by {@code ./yoru bench systems}; not a test. */
class SystemsBench {

    private static final int WARM_UP = 30;
    private static final int SALES = 200;
    private static final int TOLD = 3_000;
    private static final int COMPARED = 100_000;
    private static final int PAGE = 500;
    private static final int AT_ONCE = 4;

    private final School school = School.forMeasuring();
    private final AtomicInteger told = new AtomicInteger();
    private final AtomicLong first = new AtomicLong();
    private final AtomicLong last = new AtomicLong();
    private final HttpServer stub;

    SystemsBench() throws IOException {
        stub = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 200);
        stub.setExecutor(Executors.newVirtualThreadPerTaskExecutor());
        stub.createContext("/catalogue", exchange -> say(exchange, """
                {"courses": [{"id": "bench", "title": "Bench", "category": "Bench", "content": true, "published": true,
                  "door": "by-enrolment", "sections": []}]}"""));
        stub.createContext("/api/enrolments/", exchange -> {
            exchange.getRequestBody().readAllBytes();
            first.compareAndSet(0, System.nanoTime());
            last.set(System.nanoTime());
            told.incrementAndGet();
            say(exchange, "{\"state\": \"open\"}");
        });
        stub.createContext("/api/enrolments", this::list);
        stub.start();
    }

    @AfterEach
    void close() {
        stub.stop(0);
        school.close();
    }

    @Test
    void figures() throws Exception {
        toAllFive();
        var operator = SignedIn.to(school);
        var id = "bench-classroom";
        operator.post(
                "/api/systems",
                "{\"kind\": \"CLASSROOM\", \"title\": \"Bench classroom\", \"address\": \"http://127.0.0.1:%d\", \"settings\": {\"perSecond\": \"0\"}}"
                        .formatted(stub.getAddress().getPort()));
        operator.post("/api/systems/" + id + "/catalogue", "");
        var version = operator.get("/api/mapping").replaceAll(".*\"version\":(\\d+).*", "$1");
        operator.post(
                "/api/mapping/publish",
                "{\"base\": %s, \"note\": \"\", \"changes\": [{\"source\": \"product/POLLEN\", \"target\": \"course/bench\", \"terms\": {\"length\": \"held\", \"refund\": \"end\"}}]}"
                        .formatted(version));
        // everybody is looked over after a publish; whoever is put in meanwhile would be, too
        await().atMost(Duration.ofMinutes(2)).until(school::quiet);
        perSecond(operator, id);
        compare(operator, id);
    }

    private void toAllFive() throws Exception {
        for (int n = 0; n < WARM_UP + SALES; n++) {
            sell((n < WARM_UP ? "warm-" : "buyer-") + n + "@bench.example");
        }
        var waits = school.rows(Part.SERVER, """
                        select round(extract(epoch from max(d.last_answer_at) - min(f.happened_at)) * 1000)::bigint
                        from person p join delivery d on d.person_id = p.id join fact f on f.subject = p.person_key
                        where p.person_key like 'buyer-%' group by p.id""").stream()
                .map(Long::parseLong)
                .sorted()
                .toList();
        assertThat(waits).hasSize(SALES);
        System.out.printf(
                "Order placed in the shop to the last answer of all five systems (8 things told), %d sales one after another:%n"
                        + "  median %d ms, p99 %d ms, slowest %d ms%n",
                SALES, waits.get(SALES / 2), waits.get(SALES * 99 / 100), waits.getLast());
    }

    private void sell(String email) throws IOException, InterruptedException {
        var answer = school.send(HttpRequest.newBuilder(URI.create(school.address(Part.SHOP) + "/checkout"))
                .header("cookie", "practice-basket=QUEEN-LIVE.1")
                .header("content-type", "application/x-www-form-urlencoded")
                .POST(BodyPublishers.ofString("who=new&payment=now&name=Bench&password=bench-bench&email="
                        + URLEncoder.encode(email, StandardCharsets.UTF_8)))
                .build());
        assertThat(answer.statusCode()).isEqualTo(302);
        await().pollInterval(Duration.ofMillis(10))
                .atMost(Duration.ofSeconds(60))
                .until(() -> school.count(
                                Part.SERVER,
                                "select count(*) from delivery d join person p on p.id = d.person_id where p.person_key = ? and d.status = 'ANSWERED'",
                                email)
                        == 8);
    }

    /** Switched on, a system is told about everybody. */
    private void perSecond(SignedIn operator, String id) throws Exception {
        school.change(
                Part.SERVER,
                "insert into person (person_key, name, first_seen_at) select 'told-' || n || '@bench.example', 'Bench', now() from generate_series(1, %d) n"
                        .formatted(TOLD));
        school.change(
                Part.SERVER,
                "insert into standing (person_id, target) select id, 'course/bench' from person where person_key like 'told-%'");
        operator.post("/api/systems/" + id + "/state", "{\"state\": \"ON\"}");
        await().atMost(Duration.ofMinutes(10)).until(() -> told.get() >= TOLD && school.quiet());
        double yoru = (TOLD - 1) / ((last.get() - first.get()) / 1e9);
        double bare = bareCalls();
        System.out.printf(
                "Told by one server to a system that answers at once, %d things, %d at once: %.0f a second%n"
                        + "  the same calls from a plain client, %d at once: %.0f a second; ratio %.3f%n",
                TOLD, AT_ONCE, yoru, AT_ONCE, bare, yoru / bare);
    }

    private double bareCalls() throws Exception {
        var client = HttpClient.newHttpClient();
        var work = new ArrayList<Callable<Integer>>();
        for (int n = 0; n < TOLD; n++) {
            var request = HttpRequest.newBuilder(
                            URI.create("http://127.0.0.1:%d/api/enrolments/bench/told-%d%%40bench.example"
                                    .formatted(stub.getAddress().getPort(), n)))
                    .header("Idempotency-Key", "bare-" + n)
                    .header("content-type", "application/json")
                    .PUT(BodyPublishers.ofString("{\"name\": \"Bench\", \"state\": \"open\", \"revision\": 1}"))
                    .build();
            work.add(() -> client.send(request, BodyHandlers.discarding()).statusCode());
        }
        try (var threads = Executors.newFixedThreadPool(AT_ONCE)) {
            threads.invokeAll(work.subList(0, TOLD / 4)); // warms the client up
            long began = System.nanoTime();
            for (var answer : threads.invokeAll(work)) {
                assertThat(answer.get()).isEqualTo(200);
            }
            return TOLD / ((System.nanoTime() - began) / 1e9);
        }
    }

    /** A hundredth of the people is missing there, and as many are there without a reason. */
    private void compare(SignedIn operator, String id) throws Exception {
        school.change(Part.SERVER, "delete from delivery where connection_id = '%s'".formatted(id));
        school.change(
                Part.SERVER,
                "insert into person (person_key, name, first_seen_at) select 'seen-' || lpad(n::text, 6, '0') || '@bench.example', 'Bench', now() from generate_series(1, %d) n"
                        .formatted(COMPARED));
        school.change(Part.SERVER, """
                insert into delivery (connection_id, person_id, matter, open, revision, status, attempts, wanted_at, last_answer_at)
                select '%s', id, 'course/bench', true, 1, 'ANSWERED', 1, now(), now() from person where person_key like 'seen-%%'""".formatted(id));
        school.change(Part.SERVER, "analyze");
        operator.post("/api/systems/" + id + "/check", "");
        await().atMost(Duration.ofMinutes(10))
                .until(() -> school.count(
                                Part.SERVER,
                                "select count(*) from state_check where connection_id = ? and ended_at is not null",
                                id)
                        == 1);
        assertThat(school.count(
                        Part.SERVER,
                        "select count(*) from out_of_step where connection_id = ? and kind = 'MISSING'",
                        id))
                .isEqualTo(COMPARED / 100);
        assertThat(school.count(
                        Part.SERVER, "select count(*) from out_of_step where connection_id = ? and kind = 'EXTRA'", id))
                .isEqualTo(COMPARED / 100);
        double took = Double.parseDouble(school.rows(
                        Part.SERVER,
                        "select extract(epoch from ended_at - begun_at) from state_check where connection_id = ?",
                        id)
                .getFirst());
        double reading = reading();
        System.out.printf(
                "Comparing a system that has %,d entries, %d out of step: %.1f s%n  merely reading its pages with a plain client: %.1f s; ratio %.1f%n",
                COMPARED, COMPARED / 50, took, reading, took / reading);
    }

    private double reading() throws Exception {
        var client = HttpClient.newHttpClient();
        long began = System.nanoTime();
        for (int after = 0; after <= COMPARED; after += PAGE) {
            client.send(
                    HttpRequest.newBuilder(URI.create("http://127.0.0.1:%d/api/enrolments?after=%d&limit=%d"
                                    .formatted(stub.getAddress().getPort(), after, PAGE)))
                            .build(),
                    BodyHandlers.ofString());
        }
        return (System.nanoTime() - began) / 1e9;
    }

    /** Everybody but each hundredth, and somebody else instead. */
    private void list(HttpExchange exchange) throws IOException {
        var query = exchange.getRequestURI().getQuery();
        var after = query.replaceAll(".*after=(\\d*).*", "$1");
        int from = after.isEmpty() ? 0 : Integer.parseInt(after);
        var rows = new ArrayList<String>();
        for (int n = from + 1; n <= Math.min(from + PAGE, COMPARED); n++) {
            rows.add("{\"learner\": \"%s-%06d@bench.example\", \"course\": \"bench\", \"state\": \"open\"}"
                    .formatted(n % 100 == 0 ? "other" : "seen", n));
        }
        int to = from + PAGE;
        say(
                exchange,
                "{\"enrolments\": [%s]%s}"
                        .formatted(String.join(",", rows), to < COMPARED ? ", \"next\": \"" + to + "\"" : ""));
    }

    private static void say(HttpExchange exchange, String body) throws IOException {
        var bytes = body.getBytes(StandardCharsets.UTF_8);
        exchange.getResponseHeaders().add("content-type", "application/json");
        exchange.sendResponseHeaders(200, bytes.length);
        try (var out = exchange.getResponseBody()) {
            out.write(bytes);
        }
    }
}
