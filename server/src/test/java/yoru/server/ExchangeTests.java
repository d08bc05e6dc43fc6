package yoru.server;

import static java.util.concurrent.TimeUnit.MILLISECONDS;
import static java.util.concurrent.TimeUnit.MINUTES;
import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.json;

import io.trino.tpch.LineItem;
import io.trino.tpch.LineItemGenerator;
import io.trino.tpch.Order;
import io.trino.tpch.OrderGenerator;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.StringReader;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import net.fortuna.ical4j.data.CalendarBuilder;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.context.TestPropertySource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Terms;
import yoru.formats.ThingChange;
import yoru.server.mapping.Mapping;
import yoru.server.mapping.Wanted;
import yoru.server.rulebooks.Rulebooks;

/** Files and feeds, over HTTP; in a school of its own, for much is brought in. */
@ServerTest
@TestPropertySource(properties = SegmentTests.OWN_SCHOOL)
class ExchangeTests {

    /** 1,500,000 orders times that; 0.067 makes 100,500, which takes minutes. */
    private static final double SCALE = Double.parseDouble(
            Objects.requireNonNullElse(System.getenv("YORU_IMPORT_SCALE"), LongRun.IS ? "0.01" : "0.003"));

    private static final int PRODUCTS = 40;
    private static final int COURSES = 10;

    @Autowired
    private TestSchool school;

    @Autowired
    private Mapping mapping;

    @Autowired
    private Rulebooks rulebooks;

    @Autowired
    private JdbcTemplate jdbc;

    private Operator operator;

    @BeforeEach
    void signIn() {
        operator = Operator.signedIn(school);
    }

    private JsonNode uploaded(String kind, String csv) {
        var answer = operator.postCsv("/api/imports?name=past.csv&kind=" + kind, csv);
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(201);
        return json(answer);
    }

    private JsonNode matched(JsonNode job) {
        var matching = JsonMapper.shared().createObjectNode();
        matching.set("columns", job.path("matching").path("columns"));
        matching.put("dates", "ISO");
        var answer = operator.put("/api/imports/" + job.path("id").asString() + "/matching", matching.toString());
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
        return json(answer);
    }

    private JsonNode brought(JsonNode job) {
        var path = "/api/imports/" + job.path("id").asString();
        operator.post(path + "/start", "");
        await().atMost(10, MINUTES)
                .until(() -> operator.read(path).path("state").asString().equals("DONE"));
        return operator.read(path);
    }

    /**
     * TPC-H (specification 3.0, clause 4.2): the first line of each order; customers are people, parts are products, returned
     * lines (L_RETURNFLAG = 'R') were given back. Who has which course is counted by plain SQL over the same table. The line to
     * the database breaks in the middle, and somebody stops it; brought in twice, nothing is there twice.
     */
    @Test
    void ofOrdersByTheThousandEveryCourseHasAsManyPeopleAsPlainSqlSays() {
        publish();
        // what the classroom is told is not what this is about
        assertThat(operator.post("/api/systems/classroom/state", "{\"state\": \"OFF\"}")
                        .statusCode())
                .isEqualTo(200);
        jdbc.execute("create table if not exists sold (person text, course text, returned boolean)");
        var csv = tpch();
        var job = uploaded("ORDERS", csv);
        var rows = job.path("total").asInt();
        var preview = matched(job);
        assertThat(preview.path("taken").asInt()).isEqualTo(rows);
        var path = "/api/imports/" + job.path("id").asString();
        operator.post(path + "/start", "");
        await().atMost(10, MINUTES).pollInterval(500, MILLISECONDS).until(() -> left(path) < rows);
        breakTheLine();
        await().atMost(10, MINUTES).pollInterval(500, MILLISECONDS).until(() -> left(path) < rows * 3 / 4);
        operator.post(path + "/stop", "");
        var stopped = left(path);
        assertThat(stopped).isBetween(1, rows - 1);
        assertThat(operator.read(path).path("state").asString()).isEqualTo("STOPPED");
        operator.post(path + "/start", "");
        await().atMost(10, MINUTES).pollInterval(500, MILLISECONDS).until(() -> left(path) < stopped);
        breakTheLine();
        await().atMost(30, MINUTES)
                .until(() -> operator.read(path).path("state").asString().equals("DONE"));
        var done = operator.read(path);
        assertThat(List.of(
                        done.path("taken").asInt(),
                        done.path("known").asInt(),
                        done.path("faulty").asInt()))
                .isEqualTo(List.of(rows, 0, 0));
        assertThat(count("fact where type = 'yoru.order.placed' and thing like 'order T%'"))
                .isEqualTo(rows);
        assertThat(count("order_row where id like 'T%'")).isEqualTo(rows);

        var again = brought(matchedAgain(uploaded("ORDERS", csv)));
        assertThat(again.path("known").asInt()).isEqualTo(rows);
        assertThat(count("fact where type = 'yoru.order.placed' and thing like 'order T%'"))
                .isEqualTo(rows);

        await().atMost(30, MINUTES).until(() -> count("scheduled_tasks where task_name = 'after-facts'") == 0);
        Map<String, Integer> reference = new TreeMap<>();
        jdbc.query(
                "select course, count(distinct person) as people from sold where not returned group by course", row -> {
                    reference.put("course/" + row.getString("course"), row.getInt("people"));
                });
        Map<String, Integer> ours = new TreeMap<>();
        jdbc.query(
                "select target, count(*) as people from standing where target like 'course/c%' group by target",
                row -> {
                    ours.put(row.getString("target"), row.getInt("people"));
                });
        assertThat(ours).isEqualTo(reference).hasSize(COURSES);
        var sum = jdbc.queryForObject("select sum(total) from order_row", BigDecimal.class);
        assertThat(sum).isEqualByComparingTo(jdbc.queryForObject("""
                        select sum(cast(l ->> 'amount' as numeric))
                        from fact, jsonb_array_elements(body -> 'data' -> 'lines') l where type = 'yoru.order.placed'""", BigDecimal.class));
        var csvRows = operator.get("/api/exports/access.csv").body().lines().toList();
        assertThat(csvRows.getFirst()).isEqualTo("person,target,start,end,state");
        assertThat(csvRows.stream().filter(row -> row.endsWith(",open")).count())
                .isEqualTo(count("standing"));
    }

    private JsonNode matchedAgain(JsonNode job) {
        assertThat(matched(job).path("known").asInt())
                .isEqualTo(job.path("total").asInt());
        return job;
    }

    private int left(String path) {
        return operator.read(path).path("left").asInt();
    }

    private long count(String what) {
        return Objects.requireNonNull(jdbc.queryForObject("select count(*) from " + what, Long.class));
    }

    /** Whatever the server is doing with the database is cut off, and it is doing something; it finds its way back by itself. */
    private void breakTheLine() {
        await().atMost(1, MINUTES)
                .pollInterval(5, MILLISECONDS)
                .until(() -> !jdbc.queryForList("""
                select pg_terminate_backend(pid) from pg_stat_activity
                where datname = current_database() and pid <> pg_backend_pid() and state <> 'idle'""").isEmpty());
    }

    private void publish() {
        var things = new ArrayList<ThingChange>();
        IntStream.range(0, COURSES).forEach(n -> things.add(thing("course/c" + n)));
        IntStream.range(0, PRODUCTS).forEach(n -> things.add(thing("product/P" + n)));
        mapping.publish(
                rulebooks.current().number(),
                new Wanted(
                        null,
                        things,
                        IntStream.range(0, PRODUCTS)
                                .mapToObj(n -> new CellChange(
                                        new Source.OfProduct("P" + n),
                                        Destination.whole("c" + n % COURSES),
                                        Terms.DEFAULT))
                                .toList()),
                "",
                "Owner");
    }

    private static ThingChange thing(String path) {
        return new ThingChange(path, JsonMapper.shared().readTree("{\"title\": \"" + path + "\"}"));
    }

    private String tpch() {
        Map<Long, Order> orders = new HashMap<>();
        for (Order order : new OrderGenerator(SCALE, 1, 1)) {
            orders.put(order.orderKey(), order);
        }
        var csv = new StringBuilder("order,email,name,placed,product,amount,refunded\n");
        var sold = new ArrayList<Object[]>();
        for (LineItem item : new LineItemGenerator(SCALE, 1, 1)) {
            if (item.lineNumber() != 1) {
                continue;
            }
            var order = Objects.requireNonNull(orders.get(item.orderKey()));
            var person = "customer-%d@post.example".formatted(order.customerKey());
            boolean returned = item.returnFlag().equals("R");
            csv.append("T%d,%s,Customer %d,%s,P%d,%s,%s\n"
                    .formatted(
                            order.orderKey(),
                            person,
                            order.customerKey(),
                            LocalDate.ofEpochDay(order.orderDate()),
                            item.partKey() % PRODUCTS,
                            BigDecimal.valueOf(item.extendedPriceInCents(), 2).toPlainString(),
                            returned ? LocalDate.ofEpochDay(item.receiptDate()).toString() : ""));
            sold.add(new Object[] {person, "c" + item.partKey() % PRODUCTS % COURSES, returned});
        }
        jdbc.batchUpdate("insert into sold values (?, ?, ?)", sold);
        return csv.toString();
    }

    @Test
    void faultyRowsComeBackAsAFileAndTheOthersAreBroughtIn() {
        var mark = UUID.randomUUID().toString().substring(0, 8);
        var job = uploaded("ENROLMENTS", """
                email,name,course,start,end
                a-%1$s@post.example,Ada,first-hive,2026-01-01,
                nobody,Ben,first-hive,2026-01-01,
                c-%1$s@post.example,Cleo,no-such-course,2026-01-01,
                d-%1$s@post.example,Dora,honey,2026-01-01,2026-02-01
                """.formatted(mark));
        var preview = matched(job);
        assertThat(preview.path("faulty").asInt()).isEqualTo(2);
        assertThat(preview.path("rows").get(0).path("said").asString()).contains("no e-mail address");
        var done = brought(job);
        assertThat(done.path("taken").asInt()).isEqualTo(2);
        assertThat(operator.get("/api/imports/" + job.path("id").asString() + "/faulty.csv")
                        .body())
                .isEqualToNormalizingNewlines("""
                        email,name,course,start,end,not taken because
                        nobody,Ben,first-hive,2026-01-01,,“nobody” is no e-mail address
                        c-%s@post.example,Cleo,no-such-course,2026-01-01,,there is no course no-such-course
                        """.formatted(mark));
        await().atMost(20, SECONDS)
                .until(() ->
                        count("opening o join person p on p.id = o.person_id where p.person_key like '%" + mark + "%'")
                                == 2);
        assertThat(operator.read("/api/people?q=a-" + mark)
                        .path("people")
                        .get(0)
                        .path("name")
                        .asString())
                .isEqualTo("Ada");
        assertThat(operator.put(
                                "/api/imports/" + job.path("id").asString() + "/matching",
                                "{\"columns\": {}, \"dates\": \"ISO\"}")
                        .statusCode())
                .as("it has begun")
                .isEqualTo(409);
    }

    @Test
    void whatIsNoTableIsRefusedAndWithoutItsColumnsNothingBegins() {
        assertThat(operator.postCsv("/api/imports?name=x&kind=ORDERS", "order,email\n")
                        .statusCode())
                .isEqualTo(400);
        assertThat(operator.postCsv("/api/imports?name=x&kind=CAKES", "a\n1\n").statusCode())
                .isEqualTo(400);
        var job = uploaded("ORDERS", "number of it,who\n1,ada@post.example\n");
        assertThat(matched(job).path("missing").values()).hasSize(5);
        assertThat(operator.post("/api/imports/" + job.path("id").asString() + "/start", "")
                        .statusCode())
                .isEqualTo(409);
        assertThat(operator.post("/api/imports/999/start", "").statusCode()).isEqualTo(404);
    }

    /** It goes into the database as it is read; what turns out to be no table after thousands of rows leaves nothing there. */
    @Test
    void aTableThatIsNoneAtItsEndLeavesNothing() {
        var before = jobs();
        var rows = "\uFEFForder;email\n" + "7;ada@post.example\n".repeat(12_000);
        var whole = operator.postCsv("/api/imports?name=long&kind=ORDERS", rows);
        assertThat(TestSchool.json(whole).path("total").asInt()).isEqualTo(12_000);
        assertThat(TestSchool.json(whole).path("columns").get(0).asString()).isEqualTo("order");
        for (var end : List.of(new byte[] {'8', ';', (byte) 0xff, '\n'}, new byte[] {'8', ';', 0, '\n'})) {
            var body = new ByteArrayOutputStream();
            body.writeBytes(rows.getBytes(StandardCharsets.UTF_8));
            body.writeBytes(end);
            var answer = operator.postBytes("/api/imports?name=long&kind=ORDERS", body.toByteArray(), "text/csv");
            assertThat(answer.statusCode()).isEqualTo(400);
            assertThat(answer.body()).contains("is not in UTF-8");
        }
        var wide = IntStream.range(0, 200).mapToObj(n -> "c" + n).collect(Collectors.joining(","));
        assertThat(operator.postCsv(
                                "/api/imports?name=wide&kind=ORDERS",
                                wide + "\n" + (",".repeat(199) + "\n").repeat(10_001))
                        .body())
                .contains("2,000,000 cells");
        assertThat(jobs()).isEqualTo(before + 1);
    }

    private long jobs() {
        return Objects.requireNonNull(jdbc.queryForObject("select count(*) from import_job", Long.class));
    }

    /** Written as OneRoster, read as OneRoster in the same school: everybody is known, and nothing changes for them. */
    @Test
    void aRosterGoesOutAndComesIn() throws Exception {
        var learner = TestSchool.someone();
        school.buys(learner, "HONEY", Instant.now().minus(3, ChronoUnit.DAYS));
        await().atMost(20, SECONDS)
                .until(() ->
                        count("standing s join person p on p.id = s.person_id where p.person_key = '" + learner + "'")
                                == 1);
        var zip = operator.bytes("/api/exports/oneroster.zip");
        Map<String, String> files = new HashMap<>();
        try (var in = new ZipInputStream(new ByteArrayInputStream(zip))) {
            for (var entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
                files.put(entry.getName(), new String(in.readAllBytes(), StandardCharsets.UTF_8));
            }
        }
        assertThat(files).containsKeys("manifest.csv", "users.csv", "enrollments.csv");
        assertThat(files.get("users.csv")).contains(learner);
        var answer = operator.postBytes("/api/imports?name=roster.zip", zip, "application/zip");
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(201);
        var job = json(answer);
        var preview = matched(job);
        assertThat(preview.path("missing").values()).isEmpty();
        assertThat(preview.path("faulty").asInt()).isZero();
        assertThat(preview.path("taken").asInt() + preview.path("known").asInt())
                .as("known is what was brought in from the same day")
                .isEqualTo(job.path("total").asInt())
                .isPositive();
        assertThat(operator.postBytes("/api/imports?name=roster.zip", new byte[] {1, 2, 3}, "application/zip")
                        .statusCode())
                .isEqualTo(400);
        var empty = new ByteArrayOutputStream();
        try (var out = new ZipOutputStream(empty)) {
            out.putNextEntry(new ZipEntry("users.csv"));
            out.write("sourcedId\n".getBytes(StandardCharsets.UTF_8));
        }
        assertThat(operator.postBytes("/api/imports?name=r.zip", empty.toByteArray(), "application/zip")
                        .body())
                .contains("classes.csv: is not in the roster");
    }

    /** RFC 5545, read back by ical4j 4.4.0; a secret address works without a session until it is taken back. */
    @Test
    void endingsAreACalendarUnderASecretAddressThatCanBeTakenBack() throws Exception {
        var learner = TestSchool.someone();
        var bought = Instant.now().minus(10, ChronoUnit.DAYS).truncatedTo(ChronoUnit.SECONDS);
        school.buys(learner, "FIRST", bought);
        var feed = json(operator.post("/api/feeds", "{\"name\": \"Signe's calendar\"}"));
        var address = feed.path("address").asString();
        var stranger = Operator.stranger(school.address());
        var path = address.substring(address.indexOf("/feeds/"));
        var answer = stranger.get(path);
        assertThat(answer.statusCode()).isEqualTo(200);
        assertThat(answer.headers().firstValue("content-type").orElseThrow()).startsWith("text/calendar");
        var calendar = new CalendarBuilder().build(new StringReader(answer.body()));
        assertThat(calendar.getComponents("VEVENT").stream().map(Object::toString))
                .anySatisfy(event -> assertThat(event.replace("\r\n ", "")).contains("First Hive ends", learner));
        assertThat(operator.read("/api/feeds").toString()).doesNotContain(path.substring(7, 20));
        assertThat(stranger.get("/feeds/nothing-of-the-kind.ics").statusCode()).isEqualTo(404);
        assertThat(operator.delete("/api/feeds/" + feed.path("id").asString()).statusCode())
                .isEqualTo(204);
        assertThat(stranger.get(path).statusCode()).isEqualTo(404);
    }
}
