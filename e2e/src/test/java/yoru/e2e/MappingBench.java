package yoru.e2e;

import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Executors;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import yoru.e2e.School.Part;

/** How the mapping behaves in a large school. Run by {@code ./yoru bench mapping}; not a test. */
class MappingBench {

    private static final int PRODUCTS = 300;
    private static final int COURSES = 400;
    private static final int FRAMES = 240;
    private static final int TIMES = 15;
    private static final int MANY = 20_000;

    @RegisterExtension
    final Chromium chromium = new Chromium();

    private final School school = School.forMeasuring(
            "insert into product (id, title, category, price, thing, about) values "
                    + range(PRODUCTS, "('P-%1$03d', 'Product %1$03d', 'Shelf %2$d', 40.00, false, '')"),
            "insert into course (id, title, category, content, published, door, about) values "
                    + range(COURSES, "('c-%1$03d', 'Course %1$03d', 'Room %2$d', true, true, 'by-enrolment', '')"));

    private static String range(int count, String row) {
        return IntStream.rangeClosed(1, count)
                .mapToObj(n -> row.formatted(n, n % 20))
                .collect(Collectors.joining(", "));
    }

    @AfterEach
    void close() {
        school.close();
    }

    @Test
    void figures() throws Exception {
        var operator = SignedIn.to(school);
        mapEach(operator);
        scrolling();
        impact(operator, 10_000);
        impact(operator, 100_000);
    }

    /** Each product to two courses, so that the grid is not empty. */
    private void mapEach(SignedIn operator) throws Exception {
        var cells = IntStream.rangeClosed(1, PRODUCTS)
                .mapToObj(n -> cell("P-%03d".formatted(n), "c-%03d".formatted(n), "P1Y") + ", "
                        + cell("P-%03d".formatted(n), "c-%03d".formatted(n % 100 + 300), "held"))
                .collect(Collectors.joining(", "));
        publish(operator, cells);
    }

    private void scrolling() {
        var yoru = chromium.operator(school);
        yoru.navigate(school.server() + "/mapping");
        yoru.getByRole(AriaRole.GRIDCELL).first().waitFor();
        var nodes = yoru.evaluate("document.querySelectorAll('.grid-place *').length");
        var down = frames(yoru, ".grid-place", 90, 0);
        var across = frames(yoru, ".grid-place", 0, 90);
        yoru.evaluate("""
                () => { const plain = document.createElement('div'); plain.id = 'plain';
                  plain.style = 'overflow: auto; height: 560px; width: 900px'; plain.innerHTML = '<div style="width: 40000px; height: 40000px"></div>';
                  document.querySelector('main').prepend(plain); }""");
        var plain = frames(yoru, "#plain", 90, 90);
        System.out.printf(
                "Grid of %d x %d: %s elements in the page; frames while scrolling: down median %.1f ms, p95 %.1f ms; across median %.1f ms, p95 %.1f ms%n"
                        + "  an empty box scrolled in the same page: median %.1f ms, p95 %.1f ms; ratio of p95 down %.2f, across %.2f%n",
                PRODUCTS,
                COURSES,
                nodes,
                at(down, 0.5),
                at(down, 0.95),
                at(across, 0.5),
                at(across, 0.95),
                at(plain, 0.5),
                at(plain, 0.95),
                at(down, 0.95) / at(plain, 0.95),
                at(across, 0.95) / at(plain, 0.95));
    }

    /** The time from each frame to the next, while something is scrolled by so many pixels a frame. */
    private static List<Double> frames(Page page, String place, int down, int across) {
        var times = page.evaluate("""
                ([place, down, across, frames]) => new Promise((done) => {
                  const box = document.querySelector(place); box.scrollTo(0, 0);
                  const times = []; let last = performance.now();
                  const step = (now) => { times.push(now - last); last = now; box.scrollBy(across, down);
                    if (times.length < frames) requestAnimationFrame(step); else done(times); };
                  requestAnimationFrame(step);
                })""", List.of(place, down, across, FRAMES));
        return ((List<?>) times)
                .stream().map(time -> ((Number) time).doubleValue()).sorted().toList();
    }

    private static double at(List<Double> sorted, double share) {
        return sorted.get((int) Math.min(sorted.size() - 1, sorted.size() * share));
    }

    /** One cell of a product that a twentieth of the people bought. */
    private void impact(SignedIn operator, int people) throws Exception {
        long known = school.count(Part.SERVER, "select count(*) from person");
        sell(known, people, "1 + n % 20");
        school.change(Part.SERVER, "analyze");
        var draft = "{\"changes\": [%s]}".formatted(cell("P-001", "c-001", "P2Y"));
        var everybody = "{\"changes\": [], \"things\": [{\"thing\": \"school/opensOn\", \"to\": \"placed\"}]}";
        var one = new ArrayList<Double>();
        for (int n = 0; n < TIMES; n++) {
            one.add(millis(() -> operator.post("/api/mapping/consequence", draft)));
        }
        one.sort(null);
        double all = millis(() -> operator.post("/api/mapping/consequence", everybody));
        double reading = millis(() -> school.rows(Part.SERVER, "select body::text from fact"));
        System.out.printf(
                "Consequence over %,d people: one cell, a twentieth of them concerned, median %.0f ms, slowest %.0f ms; everybody concerned %.1f s%n"
                        + "  merely reading all facts with plain JDBC: %.0f ms; ratios %.2f and %.1f%n",
                people, at(one, 0.5), one.getLast(), all / 1000, reading, at(one, 0.5) / reading, all / reading);
    }

    /** A product that twenty thousand people have: published, while somebody else works. */
    @Test
    void publishing() throws Exception {
        var operator = SignedIn.to(school);
        long known = school.count(Part.SERVER, "select count(*) from person");
        sell(known, known + MANY, "300");
        var screens = List.of("/api/today", "/api/mapping", "/api/people?sort=NAME");
        var another = SignedIn.to(school);
        var before = asked(another, screens, 40);
        try (var other = Executors.newFixedThreadPool(2)) {
            var published = other.submit(() -> {
                long began = System.nanoTime();
                publish(operator, cell("P-300", "c-299", "P2Y"));
                return (System.nanoTime() - began) / 1e9;
            });
            var computed = other.submit(() -> MANY / secondsUntilComputed());
            var meanwhile = new ArrayList<Double>();
            long began = System.nanoTime();
            while (!published.isDone() || meanwhile.size() < 120) {
                meanwhile.addAll(asked(another, screens, 1));
            }
            double seen = (System.nanoTime() - began) / 1e9;
            meanwhile.sort(null);
            System.out.printf(
                    "Publishing what touches %,d people: %.1f s to publish, then %.0f people a second computed anew and put down to be told%n"
                            + "  answers to today, mapping and people in the first %.0f s of it: median %.0f ms, p95 %.0f ms, slowest %.0f ms; before: median %.0f ms, p95 %.0f ms; ratio of p95 %.1f%n",
                    MANY,
                    published.get(),
                    computed.get(),
                    seen,
                    at(meanwhile, 0.5),
                    at(meanwhile, 0.95),
                    meanwhile.getLast(),
                    at(before, 0.5),
                    at(before, 0.95),
                    at(meanwhile, 0.95) / at(before, 0.95));
        }
    }

    /** From the first of them to the last, while somebody works and the systems are told. */
    private double secondsUntilComputed() {
        await().atMost(Duration.ofMinutes(1)).until(() -> newlyOpen() > 0);
        long began = System.nanoTime();
        await().atMost(Duration.ofMinutes(20))
                .pollInterval(Duration.ofSeconds(1))
                .until(() -> newlyOpen() >= MANY);
        return (System.nanoTime() - began) / 1e9;
    }

    private long newlyOpen() {
        return school.count(Part.SERVER, "select count(*) from standing where target = 'course/c-299'");
    }

    private static List<Double> asked(SignedIn another, List<String> screens, int times) throws Exception {
        var waits = new ArrayList<Double>();
        for (int n = 0; n < times; n++) {
            for (String screen : screens) {
                waits.add(millis(() -> another.get(screen)));
            }
        }
        waits.sort(null);
        return waits;
    }

    private interface Work {
        Object done() throws Exception;
    }

    private static double millis(Work work) throws Exception {
        long began = System.nanoTime();
        work.done();
        return (System.nanoTime() - began) / 1e6;
    }

    private static String cell(String product, String course, String length) {
        return "{\"source\": \"product/%s\", \"target\": \"course/%s\", \"terms\": {\"length\": \"%s\", \"refund\": \"end\"}}"
                .formatted(product, course, length);
    }

    private void publish(SignedIn operator, String cells) throws Exception {
        var version = operator.get("/api/mapping").replaceAll(".*\"version\":(\\d+).*", "$1");
        operator.post(
                "/api/mapping/publish", "{\"base\": %s, \"note\": \"\", \"changes\": [%s]}".formatted(version, cells));
    }

    /** Orders placed and paid, straight into the ledger, for people from one number to another. */
    private void sell(long from, long to, String product) {
        school.change(Part.SERVER, """
                insert into person (person_key, name, first_seen_at)
                select 'bench-' || n || '@bench.example', 'Bench ' || n, now() from generate_series(%d, %d) n""".formatted(from, to - 1));
        for (var kind : Map.of("placed", "0", "paid", "1").entrySet()) {
            var number = "lpad((%s)::text, 3, '0')".formatted(product);
            school.change(Part.SERVER, """
                    insert into fact (source, event_id, type, subject, thing, mentions, happened_at, received_at, origin, connection_id, body)
                    select 'bench', '%1$s-' || n, 'yoru.order.%1$s', 'bench-' || n || '@bench.example', 'order B-' || n,
                      case when '%1$s' = 'placed' then array['product P-' || %3$s] else '{}'::text[] end,
                      t.at, now(), 'SYSTEM', 'practice-shop',
                      jsonb_build_object('specversion', '1.0', 'id', '%1$s-' || n, 'source', 'bench', 'type', 'yoru.order.%1$s',
                        'subject', 'bench-' || n || '@bench.example', 'time', to_char(t.at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'),
                        'data', case when '%1$s' = 'placed' then jsonb_build_object('order', 'B-' || n, 'channel', 'shop', 'currency', 'EUR',
                          'lines', jsonb_build_array(jsonb_build_object('line', '1', 'product', 'P-' || %3$s, 'amount', '40.00')))
                          else jsonb_build_object('order', 'B-' || n) end)
                    from generate_series(%4$d, %5$d) n,
                      lateral (select date_trunc('second', now() - interval '30 days' + interval '%2$s seconds') at) t""".formatted(kind.getKey(), kind.getValue(), number, from, to - 1));
        }
    }
}
