package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;
import yoru.e2e.School.Part;

/**
 * Two servers on one database take sales while one of them is killed again and again: every effect exactly once. In the long
 * run there are more of them; {@code YORU_SALES} says how many.
 */
class TwoServersTests {

    private static final int SALES =
            Integer.parseInt(Optional.ofNullable(System.getenv("YORU_SALES")).orElse(LongRun.IS ? "400" : "60"));
    private static final int AT_ONCE = 12;
    private static final List<String> PRODUCTS =
            List.of("QUEEN-LIVE", "FIRST", "HONEY", "HEALTH", "QUEEN-SELF", "YEAR");

    private static School school;

    @BeforeAll
    static void start() {
        school = School.impatient();
        school.start(Part.SECOND);
    }

    @AfterAll
    static void stop() {
        school.close();
    }

    private record Sale(String person, String product, boolean refunded) {}

    @Test
    void everyEffectIsThereOnceWhateverDies() throws Exception {
        var random = new Random(4711);
        var sales = new ArrayList<Sale>();
        for (int i = 0; i < SALES; i++) {
            sales.add(new Sale(
                    "t-%04d@post.example".formatted(i), PRODUCTS.get(i % PRODUCTS.size()), random.nextInt(10) == 0));
        }
        var told = new AtomicInteger();
        try (var senders = Executors.newFixedThreadPool(AT_ONCE)) {
            sales.forEach(sale -> senders.submit(() -> {
                report(sale);
                told.incrementAndGet();
                return null;
            }));
            for (int killing = 1; killing <= 3; killing++) {
                int after = killing * SALES / 4;
                await().atMost(Duration.ofMinutes(5)).until(() -> told.get() >= after);
                school.kill(Part.SECOND);
                school.start(Part.SECOND);
            }
        }
        assertThat(told).hasValue(SALES);
        await().atMost(Duration.ofMinutes(6))
                .until(() -> school.quiet()
                        && school.count(Part.SERVER, "select count(*) from delivery where status <> 'ANSWERED'") == 0
                        && school.count(Part.CONTACTS, "select count(*) from outbox where sent_at is null") == 0);

        assertThat(school.count(
                        Part.SERVER,
                        "select count(*) from fact where subject like 't-%' and source <> 'yoru:followups'"))
                .isEqualTo(SALES * 2L + sales.stream().filter(Sale::refunded).count());
        var wanted = evaluated();
        assertThat(inTheSystems()).isEqualTo(wanted);
        assertThat(wanted).hasSizeGreaterThan(SALES);
        var letters = letters();
        assertThat(letters)
                .as("SMTP cannot do better than once or twice; a second copy is the same letter, by its Message-ID")
                .allSatisfy((letter, ids) -> assertThat(ids).hasSize(1));
        assertThat(letters.keySet().stream().map(Letter::to))
                .as("whoever was refunded at once perhaps got none")
                .containsAll(sales.stream()
                        .filter(sale -> !sale.refunded)
                        .map(Sale::person)
                        .toList());
    }

    /** To either server; one that dies or has died is asked again, or the other, as a shop would. */
    private static void report(Sale sale) throws Exception {
        var order = "T-" + sale.person;
        var now = Instant.now();
        send(event("placed", sale.person, now, """
                {"order": "%s", "channel": "shop", "currency": "EUR", "name": "Tess", "lines": [{"line": "1", "product": "%s", "amount": "10.00"}]}""".formatted(order, sale.product)));
        send(event("paid", sale.person, now, "{\"order\": \"%s\"}".formatted(order)));
        if (sale.refunded) {
            send(event("refunded", sale.person, now.plusMillis(1), "{\"order\": \"%s\"}".formatted(order)));
        }
    }

    private static String event(String what, String person, Instant time, String data) {
        return """
                {"specversion": "1.0", "id": "%s", "source": "https://shop.example", "type": "yoru.order.%s", "subject": "%s", "time": "%s", "data": %s}""".formatted(UUID.randomUUID(), what, person, time, data);
    }

    private static final AtomicInteger TURN = new AtomicInteger();

    private static void send(String body) throws Exception {
        var id = UUID.randomUUID().toString();
        for (int tries = 0; tries < 600; tries++) {
            var server = TURN.incrementAndGet() % 2 == 0 ? Part.SERVER : Part.SECOND;
            try {
                if (school.report(server, id, body).statusCode() == 200) {
                    return;
                }
            } catch (IOException e) {
                // it is dead, or died in between; the other one or the next try takes it
            }
        }
        throw new IllegalStateException("neither server took the report");
    }

    /** What `yoru evaluate` says of the same ledger under the same rulebook, open now, but for levels. */
    private static TreeSet<String> evaluated() throws Exception {
        var folder = Files.createDirectories(Path.of("target", "two-servers"));
        var ledger = folder.resolve("ledger.jsonl");
        Files.write(ledger, school.rows(Part.SERVER, "select body::text from fact order by seq"));
        var rulebook = folder.resolve("rulebook.json");
        Files.writeString(
                rulebook,
                school.rows(Part.SERVER, "select document::text from rulebook_version order by number desc limit 1")
                        .getFirst());
        var rows = YoruCommand.evaluate(rulebook, ledger, Instant.now());
        return rows.stream()
                .skip(1)
                .map(row -> row.split(","))
                .filter(row -> row[0].startsWith("t-") && row[4].equals("open"))
                .map(row -> row[0] + " " + row[1])
                .collect(Collectors.toCollection(TreeSet::new));
    }

    private static TreeSet<String> inTheSystems() {
        var all = new TreeSet<>(school.rows(Part.CLASSROOM, """
                select learner || ' course/' || course_id from enrolment where state = 'open' and learner like 't-%'
                union all select learner || ' ' || thing from held where state = 'open' and learner like 't-%'"""));
        all.addAll(school.rows(Part.COMMUNITY, """
                select m.user_name || ' ' || case p.kind when 'Groups' then 'group/' else 'area/' end || p.id
                from membership s join member m on m.id = s.member join place p on p.id = s.place where m.user_name like 't-%'"""));
        all.addAll(school.rows(
                Part.CONTACTS,
                "select email || ' ' || kind || '/' || id from mark where state = 'on' and email like 't-%'"));
        return all;
    }

    /** What was written to whom. */
    private record Letter(String to, String subject) {}

    /** The Message-IDs of each letter to each person. */
    private static Map<Letter, Set<String>> letters() throws Exception {
        Map<Letter, Set<String>> letters = new HashMap<>();
        for (var letter : JsonMapper.shared().readTree(school.letters("t-"))) {
            letters.computeIfAbsent(
                            new Letter(
                                    letter.path("to").asString(),
                                    letter.path("subject").asString()),
                            key -> new TreeSet<>())
                    .add(letter.path("messageId").asString());
        }
        return letters;
    }
}
