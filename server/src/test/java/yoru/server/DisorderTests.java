package yoru.server;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.event;
import static yoru.server.TestSchool.json;
import static yoru.server.TestSchool.orderId;
import static yoru.server.TestSchool.someone;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;
import yoru.formats.ThingChange;
import yoru.server.access.Recompute;
import yoru.server.mapping.Mapping;
import yoru.server.mapping.Wanted;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.CatalogueReader;
import yoru.server.systems.Connections;
import yoru.server.systems.SystemKind;

/** What arrives in another order than it happened, at the same time, too early, or after its opposite. */
@ServerTest
class DisorderTests {

    private static final Instant BEFORE = Instant.now().minusSeconds(3600);

    @Autowired
    private TestSchool school;

    @Autowired
    private Connections connections;

    @Autowired
    private CatalogueReader catalogues;

    @Autowired
    private Mapping mapping;

    @Autowired
    private Rulebooks rulebooks;

    @Autowired
    private JdbcClient jdbc;

    @Autowired
    private Recompute recompute;

    @Autowired
    private TransactionTemplate transaction;

    @Autowired
    private JdbcTemplate batches;

    @BeforeEach
    void connectContacts() {
        if (connections.find("contacts").isEmpty()) {
            connections.connect(new Connections.ConnectionSheet(
                    "contacts",
                    SystemKind.CONTACTS,
                    "Contacts",
                    school.classroom.address() + "/contacts",
                    TestSchool.SECRET,
                    "token"));
            catalogues.readAll();
            mapping.publish(
                    rulebooks.current().number(),
                    new Wanted(List.of(
                            new CellChange(new Source.OfTag("guest"), Destination.whole("first-hive"), Terms.DEFAULT))),
                    "",
                    "Owner");
        }
    }

    private String guest(String what, String person, int second) {
        var event = event("x", person, BEFORE.plusSeconds(second), "{\"tag\": \"guest\"}")
                .replace("yoru.order.x", "yoru.tag." + what);
        var answer = school.reportFrom("contacts", event, TestSchool.SECRET);
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
        return json(answer).path("fate").asString();
    }

    private boolean isBelieved(String person) {
        return jdbc.sql("""
                        select d.open from delivery d join person p on p.id = d.person_id
                        where p.person_key = ? and d.matter = 'tag/guest'""").param(person).query(Boolean.class).single();
    }

    @Test
    void aTagPutOnAgainCountsThoughItsTakingOffIsHeardOfLater() {
        var person = someone();
        assertThat(List.of(guest("added", person, 1), guest("added", person, 3), guest("removed", person, 2)))
                .containsOnly("KEPT");
        assertThat(isBelieved(person)).isTrue();
        await().atMost(60, SECONDS).until(() -> school.classroom.has(person, "first-hive"));
        assertThat(jdbc.sql("select count(*) from fact where subject = ?")
                        .param(person)
                        .query(Long.class)
                        .single())
                .isEqualTo(3);
    }

    @Test
    void aTagHeardToBePutOnAfterItWasTakenOffIsNotBelievedToBeOn() {
        var person = someone();
        assertThat(List.of(guest("removed", person, 2), guest("added", person, 1)))
                .containsOnly("KEPT");
        assertThat(isBelieved(person)).as("a comparison would put it on again").isFalse();
    }

    private String about(String what, String list, String person) {
        var event = event("x", person, Instant.now(), "{\"list\": \"" + list + "\"}")
                .replace("yoru.order.x", "yoru.list." + what);
        return json(school.reportFrom("contacts", event, TestSchool.SECRET))
                .path("fate")
                .asString();
    }

    private boolean isOn(String person, String list) {
        return jdbc.sql("""
                        select count(*) from standing s join person p on p.id = s.person_id
                        where p.person_key = ? and s.target = ?""").params(person, "list/" + list).query(Long.class).single() == 1;
    }

    @Test
    void whoeverLeftAListIsNotPutBackButByThemselves() {
        mapping.publish(
                rulebooks.current().number(),
                new Wanted(
                        null,
                        List.of(new ThingChange(
                                "list/season",
                                JsonMapper.shared().createObjectNode().put("title", "Season letter"))),
                        List.of(new CellChange(
                                new Source.OfProduct("HONEY"),
                                Destination.to(new Target.OfList("season")),
                                Terms.DEFAULT))),
                "",
                "Owner");
        var person = someone();
        school.buys(person, "HONEY", BEFORE);
        await().atMost(60, SECONDS).until(() -> isOn(person, "season"));
        var path = "/contacts/api/contacts/" + person.replace("@", "%40") + "/lists/season";
        await().atMost(60, SECONDS).until(() -> !school.classroom.calls(path).isEmpty());
        assertThat(about("left", "season", person)).isEqualTo("KEPT");
        await().atMost(60, SECONDS).until(() -> !isOn(person, "season"));
        school.buys(person, "HONEY", Instant.now());
        school.buys(person, "FIRST", Instant.now());
        await().atMost(60, SECONDS).until(() -> school.classroom.has(person, "first-hive"));
        assertThat(isOn(person, "season")).isFalse();
        assertThat(school.classroom.calls(path)).as("told once, before").hasSize(1);
        assertThat(about("joined", "season", person)).isEqualTo("KEPT");
        await().atMost(60, SECONDS).until(() -> isOn(person, "season"));
    }

    @Test
    void aGiftOfAShopWhoseClockIsAheadIsSentWhenItsTimeHasCome() {
        school.connectAMailbox();
        var order = orderId();
        var soon = Instant.now().plusSeconds(2);
        var buyer = someone();
        school.report(event("placed", buyer, soon, """
                {"order": "%s", "channel": "shop", "currency": "EUR",
                 "lines": [{"line": "1", "product": "FIRST", "amount": "90.00", "giftTo": "%s"}]}""".formatted(order, someone())));
        school.report(TestSchool.about("paid", order, buyer, soon));
        await().atMost(30, SECONDS)
                .until(() -> jdbc.sql("select count(*) from gift where order_id = ? and state = 'SENT'")
                                .param(order)
                                .query(Long.class)
                                .single()
                        == 1);
        school.switchTheMailboxOff();
    }

    /** Two joins that have nothing to do with each other, and a tag of one of the people. */
    @Test
    void joinsAtTheSameTimeDoNotWaitForEachOtherForEver() throws Exception {
        for (int round = 0; round < 15; round++) {
            var people = IntStream.range(0, 4).mapToObj(i -> someone()).toList();
            people.forEach(person -> guest("added", person, 1));
            var reports = Stream.of(
                            joined(people.get(0), people.get(1)),
                            joined(people.get(2), people.get(3)),
                            event("x", people.get(0), BEFORE.plusSeconds(2), "{\"tag\": \"guest\"}")
                                    .replace("yoru.order.x", "yoru.tag.removed"))
                    .map(event -> (Callable<Integer>) () -> school.reportFrom("contacts", event, TestSchool.SECRET)
                            .statusCode())
                    .toList();
            try (var threads = Executors.newFixedThreadPool(reports.size())) {
                for (var answer : threads.invokeAll(reports)) {
                    assertThat(answer.get()).as("round " + round).isEqualTo(200);
                }
            }
        }
    }

    /** What comes together is kept together; the people are in another order than the reports. */
    @Test
    void reportsThatComeTogetherAreAnsweredEachForItself() throws Exception {
        var known = Stream.generate(() -> TestSchool.placed(orderId(), someone(), BEFORE, "FIRST", "90.00"))
                .limit(8)
                .toList();
        known.forEach(school::report);
        Map<String, String> fates = new LinkedHashMap<>();
        for (String one : known) {
            fates.put(one, "KNOWN_ALREADY");
            fates.put(one.replace("90.00", "91.00"), "CONTRADICTS");
            fates.put(TestSchool.placed(orderId(), someone(), BEFORE, "FIRST", "90.00"), "KEPT");
        }
        try (var threads = Executors.newFixedThreadPool(fates.size())) {
            var answers = threads.invokeAll(fates.keySet().stream()
                    .map(body -> (Callable<String>)
                            () -> json(school.report(body)).path("fate").asString())
                    .toList());
            var said = new ArrayList<String>();
            for (var answer : answers) {
                said.add(answer.get());
            }
            assertThat(said).containsExactlyElementsOf(fates.values());
        }
    }

    private static String joined(String person, String into) {
        return event("x", person, BEFORE.plusSeconds(5), "{\"into\": \"%s\"}".formatted(into))
                .replace("yoru.order.x", "yoru.person.merged");
    }

    /** The classroom lets in long after Yoru gave up waiting, when it has been told the opposite. */
    @Test
    void whatTakesEffectAfterItsOppositeIsPutRight() throws Exception {
        var person = someone();
        var late = new CountDownLatch(1);
        var wasLate = new CountDownLatch(1);
        school.classroom.behave(person, (exchange, state) -> {
            if (state.equals("open")) {
                await().atMost(60, SECONDS).until(() -> late.getCount() == 0);
                school.classroom.letIn(person, "honey");
                wasLate.countDown();
                exchange.close();
            } else {
                school.classroom.forget(person);
                StubClassroom.OBEDIENT.answer(exchange, state);
            }
        });
        var order = school.buys(person, "HONEY", Instant.now());
        await().atMost(30, SECONDS).until(() -> !school.classroom.about(person).isEmpty());
        school.report(TestSchool.about("refunded", order, person, Instant.now()));
        await().atMost(60, SECONDS).until(() -> !closings(person).isEmpty());
        late.countDown();
        assertThat(wasLate.await(30, SECONDS)).isTrue();
        await().atMost(30, SECONDS).until(() -> closings(person).size() > 1);
        await().atMost(30, SECONDS).until(() -> !school.classroom.has(person, "honey"));
    }

    private List<String> closings(String person) {
        return school.classroom.about(person).stream()
                .map(StubClassroom.Told::state)
                .filter("closed"::equals)
                .toList();
    }

    /** What the driver says of a failed write goes into logs. */
    @Test
    void aFailedWriteQuotesNothingOfWhatWasWritten() {
        var secret = "a letter's words " + UUID.randomUUID();
        assertThatThrownBy(() -> batches.batchUpdate(
                        "insert into connection (id, kind, title) values (?, ?, ?)",
                        List.of(new Object[] {null, secret, secret}, new Object[] {null, secret, secret})))
                .satisfies(thrown -> {
                    for (Throwable cause = thrown; cause != null; cause = cause.getCause()) {
                        assertThat(String.valueOf(cause.getMessage())).doesNotContain(secret);
                    }
                });
    }

    private List<Long> told(List<Long> people) {
        return jdbc.sql("select revision from delivery where person_id in (:people) order by id")
                .param("people", people)
                .query(Long.class)
                .list();
    }

    private List<String> open(List<Long> people) {
        return jdbc.sql(
                        "select person_id || ' ' || target || ' ' || until from standing where person_id in (:people) order by 1")
                .param("people", people)
                .query(String.class)
                .list();
    }

    /** Many are looked over at once with one question each for all of them: it comes to what it comes to one by one. */
    @Test
    void lookedOverTogetherNobodyIsToldTwiceAndWhomSomebodyElseIsAtIsLeftOut() {
        var keys = Stream.generate(TestSchool::someone).limit(3).toList();
        keys.forEach(key -> school.buys(key, "FIRST", BEFORE));
        keys.forEach(key -> await().atMost(60, SECONDS).until(() -> school.classroom.has(key, "first-hive")));
        var people = jdbc.sql("select id from person where person_key in (:keys) order by id")
                .param("keys", keys)
                .query(Long.class)
                .list();
        var open = open(people);
        var told = told(people);
        jdbc.sql("delete from standing where person_id in (:people)")
                .param("people", people)
                .update();

        var busy = transaction.execute(status -> {
            jdbc.sql("select 1 from person where id = ? for update")
                    .param(people.get(1))
                    .query(Integer.class)
                    .single();
            return CompletableFuture.supplyAsync(() -> recompute.people(people, Map.of()))
                    .orTimeout(30, SECONDS)
                    .join();
        });

        assertThat(busy).containsExactly(people.get(1));
        assertThat(open(people)).as("of the others all is as it was").hasSize(2).isSubsetOf(open);
        assertThat(recompute.people(people, Map.of())).isEmpty();
        assertThat(open(people)).isEqualTo(open);
        assertThat(told(people)).as("what the systems hold already").isEqualTo(told);
    }
}
