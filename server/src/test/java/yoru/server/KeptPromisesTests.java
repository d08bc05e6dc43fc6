package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static java.util.stream.Collectors.joining;
import static java.util.stream.Collectors.toMap;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.UUID;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/**
 * What the interface promises is what then happens: random publishes and acts, each compared with everybody's windows,
 * with what the classroom has, and with the letters that were sent. Whoever is not named must keep what they have.
 */
@ServerTest
@DirtiesContext // it maps things otherwise than others expect them
class KeptPromisesTests {

    private static final int PEOPLE = 8;
    private static final int STEPS = 14;
    private static final List<String> PRODUCTS = List.of("DAY", "FIRST", "HONEY", "POLLEN");
    private static final List<String> COURSES = List.of("first-hive", "honey", "tools", "pollen");
    private static final List<String> SOURCES = List.of(
            "product/DAY",
            "product/FIRST",
            "product/HONEY",
            "product/POLLEN",
            "category/Courses",
            "level/helper",
            "level/keeper",
            "tag/member");
    private static final List<String> TARGETS = List.of(
            "course/first-hive",
            "course/honey",
            "course/tools",
            "course/pollen",
            "category/Starter",
            "section/pollen/basics",
            "section/pollen/mites");
    private static final String THINGS = """
            [{"thing": "school/ladders", "to": [{"id": "hive", "higherIncludesLower": true}]},
             {"thing": "level/helper", "to": {"title": "Helper", "ladder": "hive", "rank": 1}},
             {"thing": "level/keeper", "to": {"title": "Keeper", "ladder": "hive", "rank": 2, "allowance": {"courses": 1}}},
             {"thing": "tag/member", "to": {"title": "Member"}},
             {"thing": "course/pollen", "to": {"title": "Pollen Lab", "categories": ["Advanced"],
               "sections": [{"id": "basics", "title": "Basics"}, {"id": "mites", "title": "Mites"}]}},
             {"thing": "product/POLLEN", "to": {"title": "Pollen Lab", "categories": ["Courses"],
               "billing": {"kind": "recurring", "every": "P1M", "grace": "P3D"}}}]""";

    @Autowired
    private TestSchool school;

    @Autowired
    private JdbcClient jdbc;

    private Operator operator;
    private Random random = new Random();
    private final List<String> people = new ArrayList<>();

    @BeforeEach
    void connectAMailbox() {
        operator = Operator.signedIn(school);
        school.connectAMailbox();
    }

    @AfterEach
    void switchTheMailboxOff() {
        school.switchTheMailboxOff();
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3})
    void whatIsPromisedHappensAndNothingElse(long seed) {
        random = new Random(seed);
        assertThat(operator.post(
                                "/api/mapping/publish",
                                "{\"base\": %d, \"note\": \"\", \"changes\": [], \"things\": %s}"
                                        .formatted(version(), THINGS))
                        .statusCode())
                .isIn(200, 400); // the second school has them already
        for (int n = 0; n < PEOPLE; n++) {
            people.add(somebody());
        }
        quiet();
        int done = 0;
        for (int step = 0; step < STEPS; step++) {
            done += (random.nextBoolean() ? publish(seed, step) : act(seed, step)) ? 1 : 0;
        }
        assertThat(done).as("steps that were not refused").isGreaterThan(STEPS / 3);
    }

    /** With a past of their own; no time in it, and none that follows from it, is near to now. */
    private String somebody() {
        var person = TestSchool.someone();
        for (int n = random.nextInt(3); n >= 0; n--) {
            var product = PRODUCTS.get(random.nextInt(PRODUCTS.size()));
            var at = past();
            if (product.equals("POLLEN")) {
                subscribes(person, at);
            } else {
                var order = school.buys(person, product, at);
                if (random.nextInt(4) == 0) {
                    school.report(TestSchool.about("refunded", order, person, at.plus(1, ChronoUnit.DAYS)));
                }
            }
        }
        return person;
    }

    private void subscribes(String person, Instant at) {
        var data = "{\"subscription\": \"S-%s\", \"product\": \"POLLEN\", \"paidThrough\": \"%s\"}"
                .formatted(UUID.randomUUID(), Instant.now().plus(20, ChronoUnit.DAYS));
        school.report(TestSchool.event("x", person, at, data).replace("yoru.order.x", "yoru.subscription.started"));
    }

    private Instant past() {
        return Instant.now().minus(Duration.ofHours(24L * (2 + random.nextInt(400)) + 7));
    }

    private boolean publish(long seed, int step) {
        var cells = IntStream.rangeClosed(0, random.nextInt(2))
                .mapToObj(n -> "{\"source\": \"%s\", \"target\": \"%s\"%s}"
                        .formatted(
                                SOURCES.get(random.nextInt(SOURCES.size())),
                                TARGETS.get(random.nextInt(TARGETS.size())),
                                random.nextInt(4) == 0 ? "" : ", \"terms\": " + terms()))
                .collect(joining(", ", "[", "]"));
        var draft = "{\"changes\": " + cells + "}";
        var list = operator.post("/api/mapping/consequence/list", draft);
        if (list.statusCode() != 200) {
            return false;
        }
        var margin = TestSchool.json(operator.post("/api/mapping/consequence", draft));
        var promised = rows(list.body());
        var before = everything();
        var published = operator.post(
                "/api/mapping/publish", "{\"base\": %d, \"note\": \"\", \"changes\": %s}".formatted(version(), cells));
        if (published.statusCode() != 200) {
            return false;
        }
        quiet();
        var after = everything();
        var about = "seed %d, step %d: %s".formatted(seed, step, cells);
        compare(about, promised, before, after);
        var history = TestSchool.json(published);
        assertThat(history.path("gained").asInt())
                .as(about)
                .isEqualTo(margin.path("gain").path("people").asInt());
        assertThat(history.path("lost").asInt())
                .as(about)
                .isEqualTo(margin.path("lose").path("people").asInt());
        return true;
    }

    private String terms() {
        var parts = new ArrayList<String>();
        parts.add("\"length\": \"%s\""
                .formatted(List.of("held", "P1Y", "P3M", "P40D").get(random.nextInt(4))));
        parts.add("\"refund\": \"%s\"".formatted(random.nextInt(3) == 0 ? "keep" : "end"));
        switch (random.nextInt(4)) {
            case 0 -> parts.add("\"starts\": {\"after\": \"P%dD\"}".formatted(5 + random.nextInt(60)));
            case 1 -> parts.add("\"starts\": {\"at\": \"%sT03:00:00\"}".formatted(day()));
            default -> {}
        }
        if (random.nextInt(4) == 0) {
            parts.add("\"until\": \"%sT04:00:00\"".formatted(day()));
        }
        if (random.nextInt(4) == 0) {
            parts.add("\"repeat\": \"extend\"");
        }
        return String.join(", ", parts).transform("{%s}"::formatted);
    }

    /** Some day before or after this one. */
    private LocalDate day() {
        int days = 3 + random.nextInt(200);
        return LocalDate.now(java.time.ZoneOffset.UTC).plusDays(random.nextBoolean() ? days : -days);
    }

    private boolean act(long seed, int step) {
        var person = people.get(random.nextInt(people.size()));
        var sheet = sheet(person);
        var consequence = TestSchool.json(operator.post("/api/desk/consequence", sheet));
        if (consequence.path("people").isEmpty()) {
            return false; // refused
        }
        var before = everything();
        var letters = letters();
        var done =
                operator.post("/api/desk/acts", "{\"key\": \"%s\", \"act\": %s}".formatted(UUID.randomUUID(), sheet));
        assertThat(done.statusCode()).as(done.body()).isEqualTo(200);
        quiet();
        var about = "seed %d, step %d: %s".formatted(seed, step, sheet);
        Map<String, Promise> promised = new TreeMap<>();
        Map<String, String> toBeRead = new TreeMap<>();
        for (JsonNode touched : consequence.path("people")) {
            for (JsonNode change : touched.path("changes")) {
                promised.put(
                        touched.path("key").asString() + " "
                                + change.path("target").asString(),
                        new Promise(
                                change.path("kind").asString(),
                                change.path("now").asBoolean()));
            }
            if (touched.has("letter")) {
                toBeRead.put(
                        touched.path("key").asString(),
                        touched.path("letter").path("subject").asString() + "\n"
                                + touched.path("letter").path("text").asString());
            }
        }
        compare(about, promised, before, everything());
        var sent = letters();
        for (String one : people) {
            assertThat(sent.get(one).size() - letters.get(one).size())
                    .as(about + ": letters to " + one)
                    .isEqualTo(toBeRead.containsKey(one) ? 1 : 0);
            if (toBeRead.containsKey(one)) {
                assertThat(withoutSecrets(sent.get(one).getLast())).as(about).isEqualTo(toBeRead.get(one));
            }
        }
        return true;
    }

    /** What lets its reader in is shown to nobody else, before or after. */
    private static String withoutSecrets(String letter) {
        return letter.replaceAll("https?://\\S+/mine/\\S+", "(an address of your own)");
    }

    private String sheet(String person) {
        var level = random.nextBoolean() ? "helper" : "keeper";
        var product = List.of("DAY", "FIRST", "HONEY").get(random.nextInt(3));
        var course = COURSES.get(random.nextInt(COURSES.size()));
        var kind = switch (random.nextInt(9)) {
            case 0 -> "\"START_LEVEL\", \"thing\": \"%s\"".formatted(level);
            case 1 -> "\"END_LEVEL\", \"thing\": \"%s\"".formatted(level);
            case 2 ->
                "\"CHANGE_LEVEL\", \"thing\": \"%s\", \"to\": [\"%s\"], \"reason\": \"asked\""
                        .formatted(level, level.equals("helper") ? "keeper" : "helper");
            case 3 -> "\"ADD_TAG\", \"thing\": \"member\"";
            case 4 -> "\"REMOVE_TAG\", \"thing\": \"member\"";
            case 5 -> "\"GIVE\", \"to\": [\"course/%s\"], \"length\": \"P2M\", \"reason\": \"prize\"".formatted(course);
            case 6 -> "\"CHOOSE\", \"thing\": \"%s\"".formatted(course);
            case 7 -> "\"RELEASE\", \"thing\": \"%s\"".formatted(course);
            default ->
                "\"SELL\", \"items\": [{\"product\": \"%s\", \"quantity\": 1, \"price\": 90.00}], \"payment\": {\"kind\": \"FREE\", \"reason\": \"prize\"}"
                        .formatted(product);
        };
        return "{\"person\": \"%s\", \"kind\": %s}".formatted(person, kind);
    }

    /** That something changes for somebody. */
    private record Promise(String kind, boolean now) {}

    /** @param end the end of time where there is none */
    private record Span(Instant start, Instant end) {

        boolean isAsGoodAs(Span other) {
            return near(start, other.start) && near(end, other.end);
        }

        /** Less than a minute is no change that anybody is told. */
        private static boolean near(Instant one, Instant other) {
            return one.equals(other) || Duration.between(one, other).abs().compareTo(Duration.ofMinutes(1)) < 0;
        }
    }

    /** When something is open for somebody from now on. */
    private record Open(boolean now, List<Span> spans) {

        boolean isAsGoodAs(Open other) {
            return now == other.now
                    && spans.size() == other.spans.size()
                    && IntStream.range(0, spans.size())
                            .allMatch(at -> spans.get(at).isAsGoodAs(other.spans.get(at)));
        }
    }

    private static final Open CLOSED = new Open(false, List.of());

    private void compare(
            String about, Map<String, Promise> promised, Map<String, Open> before, Map<String, Open> after) {
        var all = new TreeMap<>(before);
        all.putAll(after);
        all.putAll(promised.entrySet().stream().collect(toMap(Map.Entry::getKey, it -> CLOSED)));
        for (String key : all.keySet()) {
            var was = before.getOrDefault(key, CLOSED);
            var is = after.getOrDefault(key, CLOSED);
            var promise = promised.get(key);
            var words = about + ": " + key + " " + was + " -> " + is + ", promised " + promise;
            if (promise == null) {
                assertThat(is.isAsGoodAs(was)).as(words).isTrue();
            } else if (promise.now) {
                assertThat(is.now).as(words).isEqualTo(!promise.kind.equals("LOSES"));
            } else {
                assertThat(is.isAsGoodAs(was)).as(words).isFalse();
            }
        }
        for (String person : people) {
            for (String course : COURSES) {
                var open = after.getOrDefault(person + " course/" + course, CLOSED);
                assertThat(school.classroom.has(person, course))
                        .as(about + ": the classroom about " + person + " in " + course + ", " + open)
                        .isEqualTo(open.now);
            }
        }
    }

    /** Of those whom this school has; another may have been before it. */
    private Map<String, Promise> rows(String csv) {
        return csv.lines()
                .skip(1)
                .map(line -> line.split(",", -1))
                .filter(row -> people.contains(row[0]))
                .collect(toMap(
                        row -> row[0] + " " + row[1],
                        row -> new Promise(row[2].toUpperCase(java.util.Locale.ROOT), row[3].equals("now"))));
    }

    /** What everybody has, by person and target, as their pages have it. */
    private Map<String, Open> everything() {
        Map<String, Open> all = new TreeMap<>();
        var now = Instant.now();
        for (String person : people) {
            long id = jdbc.sql("select id from person where person_key = ?")
                    .param(person)
                    .query(Long.class)
                    .single();
            for (JsonNode target : operator.read("/api/people/" + id).path("targets")) {
                var spans = target.path("windows")
                        .valueStream()
                        .map(window -> span(window, now))
                        .filter(span -> span.end.isAfter(now))
                        .toList();
                if (!spans.isEmpty()) {
                    all.put(
                            person + " " + target.path("target").asString(),
                            new Open(spans.getFirst().start.equals(Instant.MIN), spans));
                }
            }
        }
        return all;
    }

    /** What has begun is open since ever: only what is to come counts. */
    private static Span span(JsonNode window, Instant now) {
        var start = Instant.parse(window.path("start").asString());
        return new Span(
                start.isAfter(now) ? start : Instant.MIN,
                window.has("end") ? Instant.parse(window.path("end").asString()) : Instant.MAX);
    }

    private Map<String, List<String>> letters() {
        return people.stream()
                .collect(toMap(
                        person -> person,
                        person ->
                                jdbc.sql("""
                                select (d.content ->> 'subject') || chr(10) || (d.content ->> 'text')
                                from delivery d join person p on p.id = d.person_id
                                where p.person_key = ? and d.matter like 'letter/%' order by d.id""").param(person).query(String.class).list()));
    }

    private int version() {
        return operator.read("/api/mapping").path("version").asInt();
    }

    /** Letters to a mailbox that is away are no work that this waits for. */
    private void quiet() {
        await().atMost(60, SECONDS).until(() -> jdbc.sql("""
                                select (select count(*) from scheduled_tasks where execution_time <= now()
                                          and task_instance <> 'recurring' and task_instance not like 'mailbox%')
                                     + (select count(*) from delivery where connection_id = 'classroom'
                                          and status = 'WAITING')
                                     + (select count(*) from announcement)""").query(Long.class).single() == 0);
    }
}
