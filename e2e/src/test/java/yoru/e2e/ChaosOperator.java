package yoru.e2e;

import static org.awaitility.Awaitility.await;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;
import yoru.e2e.School.Part;

/**
 * Who works while everything dies: looks at screens, publishes, brings in whom the school taught before; and somebody else
 * tags contacts by hand. In one session, at whichever server is there; what was not answered is done again.
 */
final class ChaosOperator {

    static final String WITH_A_CODE = "finished-first-hive";

    /** Seen by an operator, or by whoever reports: all else is an error. */
    static final Set<Integer> WITHOUT_ERROR = Set.of(200, 429, 503);

    private static final int AT_A_TIME = 3;
    private static final List<String> SCREENS =
            List.of("/api/session", "/api/today", "/api/people", "/api/orders", "/api/journal");

    private final School school;
    private final SignedIn owner;
    private final AtomicInteger turn = new AtomicInteger();
    private final Map<Integer, AtomicInteger> screens = new ConcurrentHashMap<>();
    private final Set<String> errors = ConcurrentHashMap.newKeySet();
    private int worked;

    ChaosOperator(School school) throws IOException, InterruptedException {
        this.school = school;
        this.owner = SignedIn.to(school);
    }

    /** At the server that was there first. */
    SignedIn owner() {
        return owner;
    }

    /** How often screens were answered how. */
    Map<Integer, AtomicInteger> screens() {
        return screens;
    }

    /** What an operator saw that nobody should. */
    Set<String> errors() {
        return errors;
    }

    /** Who was brought in, each once. */
    List<String> broughtIn() {
        return IntStream.range(0, worked * AT_A_TIME)
                .mapToObj("i-%05d@post.example"::formatted)
                .toList();
    }

    private SignedIn atEither() {
        return owner.at(school.address(turn.incrementAndGet() % 2 == 0 ? Part.SERVER : Part.SECOND));
    }

    /** The demo asks for a field that the contacts do not have, so that there is something to see; here it would never end. */
    void withoutTheDemosOwnTrouble() throws IOException, InterruptedException {
        var file = Path.of("..", "server", "src", "main", "resources", "demo", "followups.json");
        for (var it : JsonMapper.shared().readTree(Files.readString(file))) {
            if (it.path("followup").path("id").asString().equals(WITH_A_CODE)) {
                var followup = (ObjectNode) it.path("followup");
                ((ArrayNode) followup.path("steps")).remove(0);
                publish("[], \"things\": [{\"thing\": \"followup/%s\", \"to\": %s}]".formatted(WITH_A_CODE, followup));
            }
        }
    }

    /** Until the latch is down. */
    Void looksAtScreens(CountDownLatch until) throws InterruptedException {
        for (int n = 0; !until.await(100, TimeUnit.MILLISECONDS); n++) {
            try {
                var screen = SCREENS.get(n % SCREENS.size());
                var answer = atEither().answer(screen);
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

    /** What follows from the honey course is changed, contacts are tagged by hand, and some people are brought in. */
    void works() {
        insists(this::publishesWhatHoneyBrings);
        worked++;
        for (var contact : school.rows(
                Part.CONTACTS,
                "select email from contact where email like 'c-%' order by md5(email || ?) limit 3",
                "" + worked)) {
            insists(() -> school.send(HttpRequest.newBuilder(URI.create(
                                            school.address(Part.CONTACTS) + "/contacts/" + contact + "/tags"))
                                    .header("content-type", "application/x-www-form-urlencoded")
                                    .POST(HttpRequest.BodyPublishers.ofString("tag=open-day-guest&state=on"))
                                    .build())
                            .statusCode()
                    < 400);
        }
        insists(this::bringsIn);
    }

    private static void insists(Callable<Boolean> until) {
        await().atMost(ChaosQueue.PATIENCE).ignoreExceptions().until(until);
    }

    private boolean publishesWhatHoneyBrings() throws IOException, InterruptedException {
        try {
            publish("""
                    [{"source": "product/HONEY", "target": "tag/likes-mead"%s}]""".formatted(worked % 2 == 0 ? ", \"terms\": {\"length\": \"held\", \"refund\": \"end\"}" : ""));
        } catch (IllegalStateException e) {
            // it was published the first time, and only the answer was lost
            return String.valueOf(e.getMessage()).contains("\"status\":4");
        }
        return true;
    }

    private void publish(String changes) throws IOException, InterruptedException {
        var operator = atEither();
        var base = read(operator.get("/api/mapping")).path("version").asInt();
        operator.post("/api/mapping/publish", """
                {"base": %d, "note": "chaos", "despite": "a trial", "changes": %s}""".formatted(base, changes));
    }

    /** A file that was brought in before, and only the answer was lost, brings in nobody twice. */
    private boolean bringsIn() throws IOException, InterruptedException {
        var rows = broughtIn().stream()
                .skip((worked - 1L) * AT_A_TIME)
                .map("%s,first-hive,2026-01-01\n"::formatted)
                .collect(Collectors.joining());
        var operator = atEither();
        var job = read(
                operator.post("/api/imports?kind=ENROLMENTS&name=past.csv", "text/csv", "email,course,start\n" + rows));
        var path = "/api/imports/" + job.path("id").asString();
        operator.put(
                path + "/matching",
                "{\"columns\": %s, \"dates\": \"ISO\"}"
                        .formatted(job.path("matching").path("columns")));
        operator.post(path + "/start", "");
        return true;
    }

    private static JsonNode read(String answer) {
        return JsonMapper.shared().readTree(answer);
    }

    @Override
    public String toString() {
        return "screens %s, %d people brought in".formatted(new TreeMap<>(screens), worked * AT_A_TIME);
    }
}
