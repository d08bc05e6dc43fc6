package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.LongAdder;
import java.util.concurrent.locks.LockSupport;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import yoru.e2e.School.Part;

/**
 * A server that is reported to for minutes on end while an operator works: what it takes, how long the operator waits,
 * and whether anything grows. Run by {@code ./yoru bench load} (as many reports as it can take, at most a thousand a
 * second, for ten minutes) and {@code ./yoru bench soak} (an hour of sales that all five systems hear of); not a test.
 */
class LoadBench {

    private static final boolean SOAK = "soak".equals(System.getenv("YORU_LOAD"));
    private static final int A_SECOND = setting("YORU_RATE", SOAK ? 2 : 1_000);
    private static final Duration LASTS = Duration.ofMinutes(setting("YORU_MINUTES", SOAK ? 60 : 10));
    private static final int WARM_UP = 2_000;
    private static final int AT_ONCE = 64;
    private static final Duration IDLE = Duration.ofMinutes(1);
    private static final Duration THINKS = Duration.ofMillis(200);
    private static final List<String> LOOKED_AT =
            List.of("/api/today", "/api/people?size=50", "/api/orders?size=50", "/api/mapping", "/api/journal?size=50");
    private final School school = School.forMeasuring();
    private final AtomicInteger next = new AtomicInteger();
    private final Map<Integer, LongAdder> answered = new ConcurrentHashMap<>();
    private final ConcurrentLinkedQueue<Double> waits = new ConcurrentLinkedQueue<>();

    private static int setting(String name, int otherwise) {
        return Optional.ofNullable(System.getenv(name)).map(Integer::parseInt).orElse(otherwise);
    }

    @AfterEach
    void close() {
        school.close();
    }

    @Test
    void figures() throws Exception {
        if (!SOAK) {
            report(WARM_UP / AT_ONCE, Duration.ofMinutes(2));
            await().atMost(Duration.ofMinutes(10)).until(school::quiet);
        }
        var idle = operator(Instant.now().plus(IDLE));
        int before = next.get();
        answered.clear();
        waits.clear();
        var first = state();
        var began = Instant.now();
        var until = began.plus(LASTS);
        List<Double> busy;
        try (var threads = Executors.newVirtualThreadPerTaskExecutor()) {
            var operator = threads.submit(() -> operator(until));
            report(A_SECOND, LASTS);
            busy = operator.get();
        }
        var last = state();
        long taken = answered.getOrDefault(200, new LongAdder()).sum();
        var lastReport = Instant.now();
        print("%d reports a second offered for %d minutes, %d at once:", A_SECOND, LASTS.toMinutes(), AT_ONCE);
        print("  answers: %s; %.0f a second taken", answered, taken / (double) LASTS.toSeconds());
        print("  answered within: median %.0f ms, p95 %.0f ms", part(waits, 0.5), part(waits, 0.95));
        print(
                "  the interface: p95 %.0f ms idle, %.0f ms meanwhile; ratio %.1f (%d and %d requests)",
                part(idle, 0.95), part(busy, 0.95), part(busy, 0.95) / part(idle, 0.95), idle.size(), busy.size());
        print("  before: %s%n  after:  %s", first, last);
        await().atMost(Duration.ofHours(1)).pollInterval(Duration.ofSeconds(1)).until(school::quiet);
        print(
                "  quiet %d s after the last report",
                Duration.between(lastReport, Instant.now()).toSeconds());
        print("  quiet:  %s", state());
        assertThat(school.count(
                        Part.SERVER,
                        "select count(distinct event_id) from fact where source = 'https://shop.example' and subject like 'load-%' and subject >= ?",
                        buyer(before)))
                .as("every report that was answered 200")
                .isEqualTo(taken);
    }

    private static String buyer(int number) {
        return "load-%07d@bench.example".formatted(number);
    }

    /** Keeps to the rate, or sends as fast as it is answered. */
    private void report(int perSecond, Duration lasts) throws Exception {
        int from = next.get();
        long began = System.nanoTime();
        long end = began + lasts.toNanos();
        var work = new ArrayList<Callable<Void>>();
        for (int n = 0; n < AT_ONCE; n++) {
            work.add(() -> {
                while (System.nanoTime() < end) {
                    int number = next.getAndIncrement();
                    long due = began + (number - from) * 1_000_000_000L / perSecond;
                    LockSupport.parkNanos(due - System.nanoTime());
                    if (due < end) {
                        sell(number);
                    }
                }
                return null;
            });
        }
        try (var threads = Executors.newFixedThreadPool(AT_ONCE)) {
            for (var done : threads.invokeAll(work)) {
                done.get();
            }
        }
    }

    /** For the load an order of something that opens nothing; for the soak one that is paid and opens a course. */
    private void sell(int number) throws IOException, InterruptedException {
        tell(number, "order.placed", """
                {"order": "L-%d", "channel": "shop", "currency": "EUR", "name": "Bench", "lines": [{"line": "1", "product": "%s", "quantity": 1, "amount": "64.00"}]}""".formatted(number, SOAK ? "FIRST" : "KIT-2"));
        if (SOAK) {
            tell(number, "order.paid", "{\"order\": \"L-%d\"}".formatted(number));
        }
    }

    private void tell(int number, String what, String data) throws IOException, InterruptedException {
        var id = UUID.randomUUID().toString();
        long began = System.nanoTime();
        int status = school.report(Part.SERVER, id, """
                {"specversion": "1.0", "id": "%s", "source": "https://shop.example", "type": "yoru.%s", "subject": "%s", "time": "%s", "data": %s}""".formatted(id, what, buyer(number), Instant.now(), data))
                .statusCode();
        waits.add((System.nanoTime() - began) / 1e6);
        answered.computeIfAbsent(status, _ -> new LongAdder()).increment();
    }

    /** Looks at one screen after another. @return how long each took, in milliseconds */
    private List<Double> operator(Instant until) throws IOException, InterruptedException {
        var operator = SignedIn.to(school);
        var took = new ArrayList<Double>();
        for (int n = 0; Instant.now().isBefore(until); n++) {
            long began = System.nanoTime();
            operator.get(LOOKED_AT.get(n % LOOKED_AT.size()));
            took.add((System.nanoTime() - began) / 1e6);
            LockSupport.parkNanos(THINKS.toNanos());
        }
        return took;
    }

    private static double part(Iterable<Double> values, double part) {
        var sorted = new ArrayList<Double>();
        values.forEach(sorted::add);
        sorted.sort(null);
        return sorted.get((int) ((sorted.size() - 1) * part));
    }

    /** What should not grow with time. */
    private String state() throws IOException, InterruptedException {
        long pid = school.pid(Part.SERVER);
        jcmd(pid, "GC.run");
        var heap = Pattern.compile("(?:total|committed) *\\d+K, used (\\d+)K")
                .matcher(jcmd(pid, "GC.heap_info"))
                .results()
                .mapToLong(found -> Long.parseLong(found.group(1)))
                .sum();
        var status = Files.readString(Path.of("/proc/" + pid + "/status"));
        return "heap after a collection %d MB, %s, threads %s, connections %s; %s"
                .formatted(
                        heap / 1024,
                        line(status, "VmRSS"),
                        line(status, "Threads"),
                        school.rows(
                                        Part.SERVER,
                                        "select count(*) from pg_stat_activity where datname = current_database()")
                                .getFirst(),
                        TableSizes.of(school));
    }

    private static String line(String status, String name) {
        var found = Pattern.compile(name + ":\\s*(.*)").matcher(status);
        return found.find() ? found.group(1) : "?";
    }

    private static String jcmd(long pid, String what) throws IOException, InterruptedException {
        var process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "jcmd").toString(), String.valueOf(pid), what)
                .redirectErrorStream(true)
                .start();
        var said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertThat(process.waitFor()).as(said).isZero();
        return said;
    }

    private static void print(String format, Object... values) {
        System.out.printf(format + "%n", values);
    }
}
