package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.UUID;
import java.util.stream.Collectors;
import org.awaitility.core.ConditionTimeoutException;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import yoru.e2e.School.Part;

/**
 * Every way in which the practice systems can misbehave, alone and in pairs (some of the pairs, outside the long run): in the end every system has what it should
 * have, each effect once, and each trouble was told.
 */
class WeatherTests {

    private static final Map<String, String> WEATHER = Map.of(
            "slow", "slowSeconds=3",
            "down", "down=true",
            "busy", "busy=true",
            "faulty", "faultyOneIn=2",
            "forgetful", "forgetful=true",
            "twice", "twice=true",
            "late", "lateSeconds=2",
            "shuffled", "shuffled=true",
            "other secret", "otherSecret=true");

    /** What the journal says of a trouble, where it is one for Yoru. */
    private static final Map<String, String> TOLD = Map.of(
            "slow", "did not answer in time",
            "down", "broke off the connection",
            "busy", "answered 429: not so fast, please",
            "faulty", "answered 500: bees in the server",
            "other secret", "A report was turned away");

    private static final int PAIRS = 36;
    /** So many of them outside the long run, on the average. */
    private static final int SHORT_PAIRS = 8;

    private static School school;

    private record Sale(String weather, String person, boolean refunded) {}

    @BeforeAll
    static void start() {
        school = School.impatient();
    }

    @AfterAll
    static void stop() {
        school.close();
    }

    @Test
    void everyTroubleAloneAndInPairsEndsWell() throws Exception {
        var names = WEATHER.keySet().stream().sorted().toList();
        var random = new Random(4711);
        var sales = new ArrayList<Sale>();
        for (int one = 0; one < names.size(); one++) {
            for (int other = one; other < names.size(); other++) {
                boolean alone = one == other;
                if (!alone && !LongRun.IS && random.nextInt(PAIRS) >= SHORT_PAIRS) {
                    continue;
                }
                var weather = alone ? names.get(one) : names.get(one) + " and " + names.get(other);
                var form = WEATHER.get(names.get(one)) + (alone ? "" : "&" + WEATHER.get(names.get(other)));
                sales.add(sale(weather, form, sales.size() % 3 == 2));
            }
        }
        everybody("");
        awaitCalm();
        putRight();
        assertThat(sales).hasSizeGreaterThan(names.size());
        for (Sale sale : sales) {
            assertThat(wrong(sale)).as(sale.weather).isEmpty();
        }
        assertTroublesWereTold();
    }

    /** Somebody buys, and perhaps is refunded, while everything misbehaves in the same way. */
    private Sale sale(String weather, String form, boolean refunded) throws Exception {
        everybody(form);
        school.change(
                Part.SHOP,
                "update product set title = 'Queen Rearing, live %d' where id = 'QUEEN-LIVE'".formatted(form.length()));
        var person = "w-" + UUID.randomUUID().toString().substring(0, 8) + "@post.example";
        var order = buy(person);
        if (refunded) {
            post("/keeper/orders/" + order + "/refund", Map.of());
        }
        // what is reported gets its chance to arrive in this weather, and what follows to go wrong
        var before = count("select count(*) from journal_entry");
        await().atMost(Duration.ofMinutes(1))
                .pollInterval(Duration.ofMillis(100))
                .until(() -> count("select count(*) from journal_entry") > before + 3 || waited());
        if (TOLD.containsKey(weather)) {
            await().atMost(Duration.ofMinutes(1)).until(() -> troublesTold().contains(TOLD.get(weather)));
        }
        return new Sale(weather, person, refunded);
    }

    private int polls;

    /** About a second: some weather lets nothing through at all. */
    private boolean waited() {
        return ++polls % 12 == 0;
    }

    private static void everybody(String form) {
        for (Part part : List.of(Part.SHOP, Part.CLASSROOM, Part.CONTACTS, Part.COMMUNITY, Part.MAILBOX)) {
            school.behave(part, form);
        }
    }

    private static void awaitCalm() {
        try {
            await().atMost(Duration.ofMinutes(2)).until(() -> isTold() && school.quiet());
        } catch (ConditionTimeoutException e) {
            throw new AssertionError(
                    school.rows(
                                    Part.SERVER,
                                    "select concat_ws(' ', connection_id, matter, status, attempts, last_answer) from delivery where status <> 'ANSWERED' limit 20")
                            + " "
                            + school.rows(
                                    Part.SHOP,
                                    "select concat_ws(' ', attempts, next_at, last_answer) from outbox where sent_at is null limit 5")
                            + " "
                            + school.rows(
                                    Part.CONTACTS,
                                    "select concat_ws(' ', attempts, next_at, last_answer) from outbox where sent_at is null limit 5"),
                    e);
        }
    }

    private static boolean isTold() {
        return school.count(Part.SHOP, "select count(*) from outbox where sent_at is null") == 0
                && school.count(Part.CONTACTS, "select count(*) from outbox where sent_at is null") == 0
                && count("select count(*) from delivery where status <> 'ANSWERED'") == 0;
    }

    /** What was accepted and forgotten is found by comparing, and put back. */
    private static void putRight() throws Exception {
        var operator = SignedIn.to(school);
        for (var system :
                List.of("practice-community", "practice-contacts", "practice-classroom", "practice-community")) {
            operator.post("/api/systems/" + system + "/check", "");
            await().atMost(Duration.ofSeconds(60))
                    .until(() -> operator.get("/api/systems/" + system).contains("endedAt"));
            // also that something was closed may have been forgotten, where it was said again in the next weather
            for (var kind : List.of("MISSING", "EXTRA")) {
                operator.post("/api/systems/" + system + "/out-of-step/correct", "{\"kind\": \"%s\"}".formatted(kind));
                awaitCalm();
            }
        }
    }

    private static List<String> wrong(Sale sale) throws IOException, InterruptedException {
        var wrong = new ArrayList<String>();
        int wanted = sale.refunded ? 0 : 1;
        expect(
                wrong,
                "enrolled",
                wanted,
                school.count(
                        Part.CLASSROOM,
                        "select count(*) from enrolment where learner = ? and state = 'open' and course_id = 'queen-rearing'",
                        sale.person));
        expect(
                wrong,
                "in the group",
                wanted,
                school.count(
                        Part.COMMUNITY,
                        "select count(*) from membership s join member m on m.id = s.member where m.user_name = ? and s.place = 'queen-breeders'",
                        sale.person));
        expect(
                wrong,
                "tagged",
                wanted,
                school.count(
                        Part.CONTACTS,
                        "select count(*) from mark where email = ? and id = 'bought-queen-rearing' and state = 'on'",
                        sale.person));
        expect(
                wrong,
                "accounts",
                1,
                Math.max(
                        wanted == 0 ? 1 : 0,
                        school.count(Part.COMMUNITY, "select count(*) from member where user_name = ?", sale.person)));
        var letters = school.letters(sale.person);
        long distinct = java.util.regex.Pattern.compile("\"messageId\":\"([^\"]+)\"")
                .matcher(letters)
                .results()
                .map(found -> found.group(1))
                .distinct()
                .count();
        long all = java.util.regex.Pattern.compile("\"messageId\"")
                .matcher(letters)
                .results()
                .count();
        expect(wrong, "letters told apart", distinct, all);
        long subjects = java.util.regex.Pattern.compile("\"subject\":\"([^\"]+)\"")
                .matcher(letters)
                .results()
                .map(found -> found.group(1))
                .distinct()
                .count();
        if (all > subjects) {
            wrong.add(all + " letters about " + subjects + " things");
        }
        expect(
                wrong,
                "facts",
                sale.refunded ? 3 : 2,
                school.count(
                        Part.SERVER,
                        "select count(*) from fact where subject = ? and source <> 'yoru:followups'",
                        sale.person));
        return wrong;
    }

    private static void expect(List<String> wrong, String what, long wanted, long found) {
        if (wanted != found) {
            wrong.add("%s: %d, not %d".formatted(what, found, wanted));
        }
    }

    private static void assertTroublesWereTold() {
        assertThat(troublesTold()).contains(TOLD.values());
        assertThat(school.rows(Part.SERVER, "select former_title from catalogue_item where external_id = 'QUEEN-LIVE'"))
                .as("the product has another name now, and its link still works")
                .isNotEmpty();
    }

    private static String troublesTold() {
        return String.join(
                "\n",
                school.rows(
                        Part.SERVER, "select distinct title from journal_entry where kind in ('FAILED', 'REFUSED')"));
    }

    private static long count(String sql) {
        return school.count(Part.SERVER, sql);
    }

    private final HttpClient browser = HttpClient.newBuilder()
            .cookieHandler(new CookieManager())
            .followRedirects(HttpClient.Redirect.NORMAL)
            .build();

    private String buy(String person) throws Exception {
        browser.send(
                HttpRequest.newBuilder(URI.create(school.address(Part.SHOP) + "/basket/add?product=QUEEN-LIVE"))
                        .build(),
                HttpResponse.BodyHandlers.discarding());
        var answer = post(
                "/checkout",
                Map.of(
                        "who",
                        "new",
                        "name",
                        "Wilma Weather",
                        "email",
                        person,
                        "password",
                        "a quiet apiary",
                        "payment",
                        "now"));
        return answer.uri().getPath().replace("/orders/", "");
    }

    private HttpResponse<String> post(String path, Map<String, String> form) throws Exception {
        var body = form.entrySet().stream()
                .map(field -> field.getKey() + "=" + URLEncoder.encode(field.getValue(), StandardCharsets.UTF_8))
                .collect(Collectors.joining("&"));
        var answer = browser.send(
                HttpRequest.newBuilder(URI.create(school.address(Part.SHOP) + path))
                        .header("content-type", "application/x-www-form-urlencoded")
                        .POST(HttpRequest.BodyPublishers.ofString(body))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
        return answer;
    }
}
