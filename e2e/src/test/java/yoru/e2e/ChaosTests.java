package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.fasterxml.jackson.annotation.JsonIgnoreProperties;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;
import yoru.e2e.School.Part;

/**
 * Two servers on one database take what a school's systems report, each report once or more and in any order, while
 * everything dies that can: nothing is lost, nothing done twice, and every system has what the engine says of the same
 * ledger. {@code ./yoru chaos} runs it longer; a seed tells which people do what and which fault follows which.
 */
class ChaosTests {

    private static final long SEED = Long.parseLong(setting("YORU_CHAOS_SEED", "4711"));
    private static final int MINUTES = Integer.parseInt(setting("YORU_CHAOS_MINUTES", "20"));
    private static final int SALES = LongRun.IS ? MINUTES * 500 : 80;
    private static final int FAULTS = LongRun.IS ? MINUTES * 3 : ChaosFaults.SOON_DONE.size();
    private static final String WITH_A_CODE = "finished-first-hive";
    private static final int AT_ONCE = 12;
    private static final Duration PATIENCE = Duration.ofMinutes(5);
    private static final Duration LONG_PATIENCE = Duration.ofHours(1);
    private static final List<String> SCREENS =
            List.of("/api/session", "/api/today", "/api/people", "/api/orders", "/api/journal");

    private static final Set<Integer> WITHOUT_ERROR = Set.of(200, 429, 503);

    private static OwnCluster cluster;
    private static School school;
    private static SignedIn owner;
    private static final AtomicInteger TURN = new AtomicInteger();
    private static final Map<Part, Wire> WIRES = new EnumMap<>(Part.class);

    @BeforeAll
    static void start() throws IOException, InterruptedException {
        cluster = OwnCluster.made(School.freePort());
        school = School.inPieces(cluster, WIRES, LongRun.IS ? "4" : "1");
        owner = SignedIn.to(school);
        withoutTheDemosOwnTrouble();
    }

    /** The demo asks for a field that the contacts do not have, so that there is something to see; here it would never end. */
    private static void withoutTheDemosOwnTrouble() throws IOException, InterruptedException {
        var file = Path.of("..", "server", "src", "main", "resources", "demo", "followups.json");
        for (var it : JsonMapper.shared().readTree(Files.readString(file))) {
            if (it.path("followup").path("id").asString().equals(WITH_A_CODE)) {
                var followup = (ObjectNode) it.path("followup");
                ((ArrayNode) followup.path("steps")).remove(0);
                publish("[], \"things\": [{\"thing\": \"followup/%s\", \"to\": %s}]".formatted(WITH_A_CODE, followup));
            }
        }
    }

    /** In one session, whichever of the servers is asked. */
    private static void publish(String changes) throws IOException, InterruptedException {
        var operator = owner.at(school.address(TURN.incrementAndGet() % 2 == 0 ? Part.SERVER : Part.SECOND));
        var base = JsonMapper.shared()
                .readTree(operator.get("/api/mapping"))
                .path("version")
                .asInt();
        operator.post("/api/mapping/publish", """
                {"base": %d, "note": "chaos", "despite": "a trial", "changes": %s}""".formatted(base, changes));
    }

    @AfterAll
    static void stop() {
        WIRES.values().forEach(Wire::close);
        school.close();
    }

    private final Map<Integer, AtomicInteger> answers = new ConcurrentHashMap<>();
    private final Set<String> acknowledged = ConcurrentHashMap.newKeySet();
    private final AtomicInteger told = new AtomicInteger();
    private final Map<Integer, AtomicInteger> screens = new ConcurrentHashMap<>();
    /** What an operator saw that nobody should. */
    private final Set<String> errors = ConcurrentHashMap.newKeySet();

    private final CountDownLatch goneHome = new CountDownLatch(1);

    @Test
    void nothingIsLostAndNothingDoneTwiceWhateverDies() throws Exception {
        var work = new ChaosWork(SEED, SALES);
        var faults = new ChaosFaults(school, cluster, WIRES, SEED);
        var reports = work.reports();
        long began = System.nanoTime();
        try (var operator = Executors.newSingleThreadExecutor()) {
            var looking = operator.submit(this::looksAtScreens);
            try {
                tellAll(reports, faults);
            } finally {
                goneHome.countDown();
            }
            looking.get();
        }
        long quietFrom = System.nanoTime();
        awaitCalm();
        var drained = Duration.ofNanos(System.nanoTime() - quietFrom);
        var lied = putCommunityRight();
        report(work, faults, Duration.ofNanos(quietFrom - began), drained, lied);

        assertThat(acknowledged).as("all was taken in the end").containsAll(work.events());
        assertThat(
                        school.rows(
                                Part.SERVER,
                                "select event_id from fact where subject like 'c-%' and source like 'https://%.example' and event_id like '%-%-%-%-%' and connection_id in ('practice-shop', 'practice-classroom')"))
                .as("every acknowledged event is in the ledger once")
                .containsExactlyInAnyOrderElementsOf(work.events());
        var wanted = evaluated();
        assertThat(wanted).hasSizeGreaterThan(SALES);
        assertThat(inTheSystems()).as("what the systems have").isEqualTo(wanted);
        assertLetters(work);
        assertCodes(work);
        assertThat(answers.keySet())
                .as("a server that cannot take a report says so: 503, or nothing at all")
                .isSubsetOf(WITHOUT_ERROR);
        assertThat(screens.keySet())
                .as(
                        "an operator sees the screen, or that the database is away, and never an error: %s %s",
                        screens, errors)
                .contains(200)
                .isSubsetOf(WITHOUT_ERROR);
        assertThat(faults.recoveries()).allSatisfy(took -> assertThat(took).isLessThan(ChaosFaults.RECOVERED));
        if (LongRun.IS) { // which library is caught in what is chance; in a slice the report says it
            assertThat(traces()).as("traces in the logs: all this is weather").isEmpty();
        }
        assertThat(school.count(Part.SERVER, "select count(*) from scheduled_tasks where consecutive_failures >= 15"))
                .as("work that has stopped")
                .isZero();
    }

    private void tellAll(List<ChaosWork.Report> reports, ChaosFaults faults) throws Exception {
        try (var senders = Executors.newFixedThreadPool(AT_ONCE)) {
            reports.forEach(report -> senders.submit(() -> tell(report)));
            int after = 0;
            for (var fault : LongRun.IS ? faults.order(FAULTS) : ChaosFaults.SOON_DONE) {
                after += reports.size() / (FAULTS + 1);
                int many = after;
                await().atMost(PATIENCE).until(() -> told.get() >= many);
                faults.happens(fault);
                somethingIsPublishedAndTagged();
            }
        }
    }

    /** At either server, whenever it is there, in one session. */
    private Void looksAtScreens() throws InterruptedException {
        for (int n = 0; !goneHome.await(100, TimeUnit.MILLISECONDS); n++) {
            try {
                var screen = SCREENS.get(n % SCREENS.size());
                var answer = owner.at(school.address(n % 2 == 0 ? Part.SERVER : Part.SECOND))
                        .answer(screen);
                screens.computeIfAbsent(answer.statusCode(), _ -> new AtomicInteger())
                        .incrementAndGet();
                if (!WITHOUT_ERROR.contains(answer.statusCode())) {
                    errors.add(screen + " " + answer.body());
                }
            } catch (IOException e) {
                continue; // it is dead
            }
        }
        return null;
    }

    /** To either server, until one of them has it, as a shop would. */
    private Void tell(ChaosWork.Report report) {
        await().atMost(PATIENCE)
                .pollDelay(Duration.ZERO)
                .pollInterval(Duration.ofMillis(100))
                .until(() -> isTaken(report));
        acknowledged.add(JsonMapper.shared().readTree(report.event()).path("id").asString());
        told.incrementAndGet();
        return null;
    }

    private boolean isTaken(ChaosWork.Report report) throws InterruptedException {
        var server = TURN.incrementAndGet() % 2 == 0 ? Part.SERVER : Part.SECOND;
        try {
            var answer = school.report(server, report.by(), report.id(), report.event());
            answers.computeIfAbsent(answer.statusCode(), key -> new AtomicInteger())
                    .incrementAndGet();
            return answer.statusCode() == 200;
        } catch (IOException e) {
            return false; // it is dead, or died in between; the other one or the next try takes it
        }
    }

    private int published;

    /** An operator changes what follows from the honey course, and somebody tags contacts by hand. */
    private void somethingIsPublishedAndTagged() {
        await().atMost(PATIENCE).ignoreExceptions().until(() -> {
            try {
                publish("""
                        [{"source": "product/HONEY", "target": "tag/likes-mead"%s}]""".formatted(
                                published % 2 == 0 ? ", \"terms\": {\"length\": \"held\", \"refund\": \"end\"}" : ""));
            } catch (IllegalStateException e) {
                // it was published the first time, and only the answer was lost
                return String.valueOf(e.getMessage()).contains("\"status\":4");
            }
            return true;
        });
        published++;
        for (var contact : school.rows(
                Part.CONTACTS,
                "select email from contact where email like 'c-%' order by md5(email || ?) limit 3",
                "" + published)) {
            await().atMost(PATIENCE)
                    .ignoreExceptions()
                    .until(() -> school.send(HttpRequest.newBuilder(URI.create(
                                                    school.address(Part.CONTACTS) + "/contacts/" + contact + "/tags"))
                                            .header("content-type", "application/x-www-form-urlencoded")
                                            .POST(HttpRequest.BodyPublishers.ofString("tag=open-day-guest&state=on"))
                                            .build())
                                    .statusCode()
                            < 400);
        }
    }

    /** As long as it gets on with it: much waits after a long run. */
    private static void awaitCalm() {
        var lastDone = new AtomicLong(-1);
        var lastAt = new AtomicLong(System.nanoTime());
        await().atMost(LONG_PATIENCE).pollInterval(Duration.ofSeconds(1)).until(() -> {
            var waiting = waiting();
            long done = done();
            if (lastDone.getAndSet(done) != done) {
                lastAt.set(System.nanoTime());
            }
            assertThat(Duration.ofNanos(System.nanoTime() - lastAt.get()))
                    .as("nothing moves any more: %s", waiting)
                    .isLessThan(PATIENCE);
            return waiting.isEmpty();
        });
    }

    private static long done() {
        return school.count(
                Part.SERVER,
                "select (select count(*) from fact) + (select coalesce(sum(revision), 0) from delivery where status = 'ANSWERED') + (select count(*) from followup_step where state not in ('DUE', 'BEGUN', 'GOING'))");
    }

    /** What is still to be done, some of it in words. */
    private static List<String> waiting() {
        var waiting = new ArrayList<>(school.rows(Part.SERVER, """
                select concat_ws(' ', 'delivery', connection_id, matter, status, attempts, last_answer) from delivery where status <> 'ANSWERED' limit 5"""));
        waiting.addAll(school.rows(Part.SERVER, """
                select concat_ws(' ', 'step', subject, followup, step, state, due_at) from followup_step s join followup_run r on r.id = s.run_id
                where state in ('DUE', 'BEGUN', 'GOING') and due_at <= now() limit 5"""));
        waiting.addAll(school.rows(
                Part.SERVER,
                "select concat_ws(' ', 'news', person_id, target, batch, since) from announcement limit 5"));
        if (!school.quiet()) {
            waiting.addAll(
                    school.rows(
                            Part.SERVER,
                            "select concat_ws(' ', 'work', task_name, count(*), max(consecutive_failures)) from scheduled_tasks where execution_time <= now() and task_instance <> 'recurring' group by task_name"));
        }
        for (var part : List.of(Part.CONTACTS, Part.SHOP)) {
            waiting.addAll(school.rows(part, """
                    select concat_ws(' ', 'report', attempts, next_at, last_answer, left(body, 200)) from outbox where sent_at is null limit 3"""));
        }
        return waiting;
    }

    /** It has lied: what it only said that it did is found by comparing. */
    private static int putCommunityRight() throws Exception {
        var before = inTheCommunity();
        for (var kind : List.of("MISSING", "EXTRA")) {
            owner.post("/api/systems/practice-community/check", "");
            await().atMost(PATIENCE)
                    .until(() -> owner.get("/api/systems/practice-community").contains("endedAt"));
            owner.post("/api/systems/practice-community/out-of-step/correct", "{\"kind\": \"%s\"}".formatted(kind));
            awaitCalm();
        }
        var after = inTheCommunity();
        var differing = new HashSet<>(before);
        differing.addAll(after);
        before.retainAll(after);
        differing.removeAll(before);
        return differing.size();
    }

    /** What `yoru evaluate` says of the same ledger under the same rulebook, open now, but for levels. */
    private static TreeSet<String> evaluated() throws Exception {
        return YoruCommand.evaluate(school, owner.get("/api/mapping/rulebook"), Instant.now()).stream()
                .skip(1)
                .map(row -> row.split(","))
                .filter(row -> isOurs(row[0]) && row[4].equals("open") && !row[1].startsWith("level/"))
                .map(row -> row[0] + " " + row[1])
                .collect(Collectors.toCollection(TreeSet::new));
    }

    private static boolean isOurs(String person) {
        return person.startsWith("c-") || person.startsWith("g-");
    }

    private static TreeSet<String> inTheSystems() {
        var all = inTheCommunity();
        all.addAll(school.rows(Part.CLASSROOM, """
                select learner || ' course/' || course_id from enrolment where state = 'open' and learner ~ '^[cg]-'
                union all select learner || ' ' || thing from held where state = 'open' and learner ~ '^[cg]-'"""));
        all.addAll(school.rows(
                Part.CONTACTS,
                "select email || ' ' || kind || '/' || id from mark where state = 'on' and email ~ '^[cg]-'"));
        return all;
    }

    private static TreeSet<String> inTheCommunity() {
        return new TreeSet<>(school.rows(Part.COMMUNITY, """
                select m.user_name || ' ' || case p.kind when 'Groups' then 'group/' else 'area/' end || p.id
                from membership s join member m on m.id = s.member join place p on p.id = s.place where m.user_name ~ '^[cg]-'"""));
    }

    /** A letter as it lies in the mailbox. */
    @JsonIgnoreProperties(ignoreUnknown = true)
    private record Letter(String to, String subject, String messageId, String text) {}

    /** What was written to whom, by what each copy says of itself. */
    private static Map<String, Set<String>> letters(Collection<String> people) throws Exception {
        Map<String, Set<String>> ids = new HashMap<>();
        for (var some : people.stream()
                .map(person -> person.substring(0, "c-000".length()))
                .collect(Collectors.toCollection(TreeSet::new))) {
            for (var letter : JsonMapper.shared().readValue(school.letters(some), Letter[].class)) {
                ids.computeIfAbsent(letter.to + " " + letter.subject, key -> new TreeSet<>())
                        .add(letter.messageId);
            }
        }
        return ids;
    }

    private static void assertLetters(ChaosWork work) throws Exception {
        var everybody = new TreeSet<>(work.buyers());
        everybody.addAll(work.receivers());
        var letters = letters(everybody);
        assertThat(letters)
                .as("SMTP cannot do better than once or twice; a second copy is the same letter, by its Message-ID")
                .allSatisfy((letter, ids) -> assertThat(ids).as(letter).hasSize(1));
        var written = letters.keySet().stream()
                .map(letter -> letter.substring(0, letter.indexOf(' ')))
                .collect(Collectors.toSet());
        assertThat(written).as("who got letters").containsAll(everybody);
    }

    /** For each who has finished the first course, one code; a code is a discount in the shop. */
    private static void assertCodes(ChaosWork work) {
        assertThat(school.rows(
                        Part.SERVER,
                        "select p.person_key from followup_run r join person p on p.id = r.person_id where r.followup = ?",
                        WITH_A_CODE))
                .containsExactlyInAnyOrderElementsOf(work.finished());
        assertThat(school.count(Part.SHOP, "select count(*) from discount where percent = 15"))
                .as("codes that the shop has")
                .isEqualTo(work.finished().size());
    }

    private void report(ChaosWork work, ChaosFaults faults, Duration took, Duration drained, int lied)
            throws IOException {
        var lines = new ArrayList<String>();
        lines.add("seed %d: %d stories, %d events in %d reports, taken in %d s; answers %s"
                .formatted(
                        SEED,
                        SALES,
                        work.events().size(),
                        work.reports().size(),
                        took.toSeconds(),
                        new TreeMap<>(answers)));
        lines.add("%d faults: %s".formatted(FAULTS, faults.done()));
        lines.add("of use again after PostgreSQL: %s".formatted(faults.recoveries()));
        lines.add("quiet %d s after the last report; %d places put right in the community, which had lied"
                .formatted(drained.toSeconds(), lied));
        lines.add("servers' logs: %s".formatted(traces()));
        Files.write(Files.createDirectories(Path.of("target", "chaos")).resolve("report.txt"), lines);
        lines.forEach(System.out::println);
    }

    private static final Pattern THROWN = Pattern.compile("^(?:Caused by: )?([\\w.$]+(?:Exception|Error))\\b.*");

    /** Exceptions with their traces in the servers' logs, and how often. */
    private static Map<String, Long> traces() throws IOException {
        try (var lines = Files.lines(school.log(Part.SERVER))) {
            return lines.map(THROWN::matcher)
                    .filter(java.util.regex.Matcher::matches)
                    .collect(Collectors.groupingBy(found -> found.group(1), TreeMap::new, Collectors.counting()));
        }
    }

    private static String setting(String name, String otherwise) {
        return Optional.ofNullable(System.getenv(name)).orElse(otherwise);
    }
}
