package yoru.server.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.Currency;
import java.util.List;
import java.util.UUID;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.context.event.ApplicationEvents;
import org.springframework.test.context.event.RecordApplicationEvents;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.OrderLine;
import yoru.formats.UnreadableException;
import yoru.server.ServerTest;
import yoru.server.ledger.FactKeeper.Keeping;
import yoru.server.ledger.FactKeeper.Said;

/** Facts kept together become what they would one after another, and are told of with whom each concerns. */
@ServerTest
@RecordApplicationEvents
class FactKeeperTests {

    private static final Origin YORU = new Origin.OfYoru("a test");

    @Autowired
    private FactKeeper keeper;

    @Autowired
    private Register register;

    @Autowired
    private JdbcClient jdbc;

    @Autowired
    private ApplicationEvents events;

    private final Instant now = Instant.now().truncatedTo(ChronoUnit.SECONDS);
    private final String run = UUID.randomUUID().toString();

    private String who(String name) {
        return name + "-" + run + "@keeper.example";
    }

    private Said said(String id, String who, Happening happening) {
        return new Said(YORU, FactKeeper.event(new Fact(new FactId("keeper", id + run), who(who), now, happening)));
    }

    private static Happening tag(String tag) {
        return new Happening.TagAdded(tag);
    }

    private List<Keeping> keep(Said... all) {
        return keeper.keepAll(Arrays.asList(all));
    }

    /** The people whom the facts kept concern, by the fact's id. */
    private List<String> concerned(String id) {
        return events.stream(FactKept.class)
                .filter(kept -> kept.fact().id().id().equals(id + run))
                .flatMap(kept -> kept.people().stream())
                .map(person -> register.person(person).orElseThrow().key())
                .map(key -> key.substring(0, key.indexOf('-')))
                .sorted()
                .toList();
    }

    @Test
    void eachIsKeptOnceAndTheFirstCounts() {
        assertThat(keep(said("1", "ada", tag("red")), said("1", "ada", tag("red")), said("1", "ada", tag("blue"))))
                .containsExactly(Keeping.KEPT, Keeping.KNOWN_ALREADY, Keeping.CONTRADICTS);
        var cancelled = new Happening.OrderCancelled("K-" + run);
        assertThat(keep(
                        said("2", "ada", cancelled),
                        said("2", "ada", cancelled),
                        said("3", "ada", new Happening.OrderPaid("K-" + run, "", "")),
                        said("2", "ben", cancelled)))
                .as("also those that go in with one statement")
                .containsExactly(Keeping.KEPT, Keeping.KNOWN_ALREADY, Keeping.KEPT, Keeping.CONTRADICTS);
        assertThat(jdbc.sql("""
                                select title from journal_entry j join fact f on f.seq = j.fact_seq
                                where f.event_id like '%' || ? order by j.id""").param(run).query(String.class).list())
                .as("one line for each that is kept")
                .hasSize(3);
    }

    @Test
    void eachConcernsItsPeopleAndNoOthers() {
        var order = "K-" + run;
        var placed = new Happening.OrderPlaced(
                order,
                Channel.SHOP,
                Currency.getInstance("EUR"),
                List.of(new OrderLine("1", "HONEY", null, 1, new BigDecimal("5.00"), null, null, null)),
                null,
                "");
        keep(said("a", "old", new Happening.PersonMerged(who("ada"))), said("b", "ben", placed));
        assertThat(concerned("a")).containsExactly("ada", "old");
        keep(
                said("c", "ada", tag("red")),
                said("d", "cleo", new Happening.OrderPaid(order, "", "")),
                said("e", "dora", new Happening.CourseCompleted("first-hive")));
        assertThat(concerned("c")).containsExactly("ada", "old");
        assertThat(concerned("d")).as("whose order it is, too").containsExactly("ben", "cleo");
        assertThat(concerned("e")).containsExactly("dora");
        keep(said("f", "old", new Happening.OrderCancelled(order)));
        assertThat(concerned("f"))
                .as("with whom they are joined, and all who said something of the order")
                .containsExactly("ada", "ben", "cleo", "old");
    }

    @Test
    void whatIsOnlySaidAtTheDeskRefusesAllThatComeWithIt() {
        assertThatThrownBy(() -> keep(said("g", "ada", tag("red")), said("h", "ada", new Happening.PersonErased())))
                .isInstanceOf(UnreadableException.class);
        assertThat(register.person(who("ada")).stream().map(Person::key).collect(Collectors.toSet()))
                .isEmpty();
    }
}
