package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.fasterxml.jackson.annotation.JsonIgnoreProperties;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.time.Instant;
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
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;
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
    private static final int AT_ONCE = 12;
    private static final Duration LONG_PATIENCE = Duration.ofHours(3);
    private static final Path REPORT = Path.of("target", "chaos", "report.txt");
    private static final Duration A_PAUSE = Duration.ofSeconds(30);
    private static OwnCluster cluster;
    private static School school;
    private static ChaosOperator operator;
    private static ChaosQueue queue;
    private static final AtomicInteger TURN = new AtomicInteger();
    private static final Map<Part, Wire> WIRES = new EnumMap<>(Part.class);

    @BeforeAll
    static void start() throws IOException, InterruptedException {
        cluster = OwnCluster.made(School.freePort());
        school = School.inPieces(cluster, WIRES, LongRun.IS ? "4" : "1");
        operator = new ChaosOperator(school);
        operator.withoutTheDemosOwnTrouble();
        queue = new ChaosQueue(school);
    }

    @AfterAll
    static void stop() {
        WIRES.values().forEach(Wire::close);
        school.close();
    }

    private final Map<Integer, AtomicInteger> answers = new ConcurrentHashMap<>();
    private final Set<String> acknowledged = ConcurrentHashMap.newKeySet();
    private final AtomicInteger told = new AtomicInteger();

    @Test
    void nothingIsLostAndNothingDoneTwiceWhateverDies() throws Exception {
        var work = new ChaosWork(SEED, SALES);
        var faults = new ChaosFaults(school, cluster, WIRES, SEED);
        int undisturbed = LongRun.IS ? work.reports().size() / 10 : 0;
        var first = tell(work.reports().subList(0, undisturbed), List.of(), faults);
        var drained = tell(
                work.reports().subList(undisturbed, work.reports().size()),
                LongRun.IS ? faults.order(FAULTS) : ChaosFaults.SOON_DONE,
                faults);
        int lied = putCommunityRight();
        report(work, faults, List.of(first, drained), lied);

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
                .isSubsetOf(ChaosOperator.WITHOUT_ERROR);
        assertThat(operator.screens().keySet())
                .as(
                        "an operator sees the screen, or that the database is away, and never an error: %s",
                        operator.errors())
                .contains(200)
                .isSubsetOf(ChaosOperator.WITHOUT_ERROR);
        assertBroughtIn();
        assertThat(faults.recoveries()).allSatisfy(took -> assertThat(took).isLessThan(ChaosFaults.RECOVERED));
        if (LongRun.IS) { // which library is caught in what is chance; in a slice the report says it
            assertThat(traces()).as("traces in the logs: all this is weather").isEmpty();
            assertThat(drained.took())
                    .as(
                            "twice as long as the same work takes where nothing has died, and a pause before something is tried again")
                    .isLessThan(first.timeFor(2 * drained.done()).plus(A_PAUSE));
        }
        assertThat(school.count(Part.SERVER, "select count(*) from scheduled_tasks where consecutive_failures >= 15"))
                .as("work that has stopped")
                .isZero();
        report(List.of("nothing lost, nothing doubled, nothing wrong"));
    }

    /** Tells all of it while an operator works and one fault after the other happens. @return how it came to rest */
    private ChaosQueue.Drained tell(List<ChaosWork.Report> reports, List<ChaosFaults.Fault> those, ChaosFaults faults)
            throws Exception {
        int before = told.get();
        var goneHome = new CountDownLatch(1);
        try (var senders = Executors.newFixedThreadPool(AT_ONCE);
                var watching = Executors.newSingleThreadExecutor()) {
            var looking = watching.submit(() -> operator.looksAtScreens(goneHome));
            try {
                reports.forEach(report -> senders.submit(() -> tell(report)));
                for (int n = 0; n < those.size(); n++) {
                    int many = before + reports.size() / (those.size() + 1) * (n + 1);
                    await().atMost(ChaosQueue.PATIENCE).until(() -> told.get() >= many);
                    faults.happens(those.get(n));
                    operator.works();
                }
                senders.shutdown();
                assertThat(senders.awaitTermination(LONG_PATIENCE.toMinutes(), TimeUnit.MINUTES))
                        .isTrue();
            } finally {
                goneHome.countDown();
            }
            looking.get();
        }
        return queue.awaitCalm();
    }

    /** To either server, until one of them has it, as a shop would. */
    private Void tell(ChaosWork.Report report) {
        await().atMost(ChaosQueue.PATIENCE)
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

    /** It has lied: what it only said that it did is found by comparing. */
    private static int putCommunityRight() throws Exception {
        var before = inTheCommunity();
        for (var kind : List.of("MISSING", "EXTRA")) {
            operator.owner().post("/api/systems/practice-community/check", "");
            await().atMost(ChaosQueue.PATIENCE)
                    .until(() -> operator.owner()
                            .get("/api/systems/practice-community")
                            .contains("endedAt"));
            operator.owner()
                    .post("/api/systems/practice-community/out-of-step/correct", "{\"kind\": \"%s\"}".formatted(kind));
            queue.awaitCalm();
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
        return YoruCommand.evaluate(school, operator.owner().get("/api/mapping/rulebook"), Instant.now()).stream()
                .skip(1)
                .map(row -> row.split(","))
                .filter(row -> isOurs(row[0]) && row[4].equals("open") && !row[1].startsWith("level/"))
                .map(row -> row[0] + " " + row[1])
                .collect(Collectors.toCollection(TreeSet::new));
    }

    private static boolean isOurs(String person) {
        return person.matches("[cgi]-.*");
    }

    private static TreeSet<String> inTheSystems() {
        var all = inTheCommunity();
        all.addAll(school.rows(Part.CLASSROOM, """
                select learner || ' course/' || course_id from enrolment where state = 'open' and learner ~ '^[cgi]-'
                union all select learner || ' ' || thing from held where state = 'open' and learner ~ '^[cgi]-'"""));
        all.addAll(school.rows(
                Part.CONTACTS,
                "select email || ' ' || kind || '/' || id from mark where state = 'on' and email ~ '^[cgi]-'"));
        return all;
    }

    private static TreeSet<String> inTheCommunity() {
        return new TreeSet<>(school.rows(Part.COMMUNITY, """
                select m.user_name || ' ' || case p.kind when 'Groups' then 'group/' else 'area/' end || p.id
                from membership s join member m on m.id = s.member join place p on p.id = s.place where m.user_name ~ '^[cgi]-'"""));
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
                        ChaosOperator.WITH_A_CODE))
                .containsExactlyInAnyOrderElementsOf(work.finished());
        assertThat(school.count(Part.SHOP, "select count(*) from discount where percent = 15"))
                .as("codes that the shop has")
                .isEqualTo(work.finished().size());
    }

    /** Whoever was brought in is in the ledger once. */
    private static void assertBroughtIn() {
        assertThat(school.rows(Part.SERVER, "select subject from fact where subject like 'i-%'"))
                .as("who was brought in")
                .containsExactlyInAnyOrderElementsOf(operator.broughtIn());
    }

    private void report(ChaosWork work, ChaosFaults faults, List<ChaosQueue.Drained> drained, int lied)
            throws IOException {
        var lines = List.of(
                "seed %d: %d stories, %d events in %d reports; answers %s"
                        .formatted(
                                SEED,
                                SALES,
                                work.events().size(),
                                work.reports().size(),
                                new TreeMap<>(answers)),
                "the operator: " + operator,
                "%d faults: %s".formatted(FAULTS, faults.done()),
                "of use again after PostgreSQL: %s".formatted(faults.recoveries()),
                "after the last report, first without a fault, then with all: %s".formatted(drained),
                "%d places put right in the community, which had lied".formatted(lied),
                "servers' logs: %s".formatted(traces()));
        Files.createDirectories(REPORT.getParent());
        Files.deleteIfExists(REPORT);
        report(lines);
    }

    private static void report(List<String> lines) throws IOException {
        Files.write(REPORT, lines, StandardOpenOption.CREATE, StandardOpenOption.APPEND);
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
