package yoru.server;

import static org.assertj.core.api.Assertions.assertThat;

import io.trino.tpch.LineItem;
import io.trino.tpch.LineItemGenerator;
import io.trino.tpch.Order;
import io.trino.tpch.OrderGenerator;
import java.math.BigDecimal;
import java.sql.Timestamp;
import java.time.Instant;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.Shop;
import yoru.core.World;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.access.Window;
import yoru.core.followup.PurchaseCount;
import yoru.core.followup.PurchaseCount.Counts;
import yoru.core.followup.PurchaseSet;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.School;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Terms;

/** The engine's results beside what PostgreSQL 15 computes from the same rows by itself. */
@ServerTest
@Transactional
class ReferenceTests {

    @Autowired
    private JdbcTemplate jdbc;

    /** One row of the reference and of the engine: a person, a target and a window. */
    private record Row(
            String person,
            String target,
            Instant start,
            @Nullable Instant end) {}

    /**
     * Multiranges of tstzrange: each entitlement's span less its holes, all of one person and target put together by
     * range_agg (PostgreSQL documentation, 8.17 and 9.21).
     */
    @Test
    void windowsAreRangeAggOfTheEntitlements() {
        jdbc.execute(
                "create temporary table span (id bigint, person text, target text, during tstzrange) on commit drop");
        jdbc.execute("create temporary table hole (id bigint, during tstzrange) on commit drop");
        long windows = 0;
        for (long seed = 0; seed < 120; seed++) {
            jdbc.execute("truncate span, hole");
            var world = World.of(seed);
            var access = new Engine(world.rulebook())
                    .evaluate(Ledger.of(world.facts()), World.END)
                    .access();
            insertEntitlements(access);
            var reference = jdbc.query(
                    """
                            with holes as (select id, range_agg(during) as during from hole group by id),
                            pieces as (
                              select s.person, s.target,
                                     multirange(s.during) - coalesce(h.during, '{}'::tstzmultirange) as during
                              from span s left join holes h on h.id = s.id)
                            select person, target, lower(piece) as opens, upper(piece) as ends
                            from (select person, target, unnest(range_agg(during)) as piece
                                  from pieces group by person, target) as maximal
                            order by person collate "C", target collate "C", opens""",
                    (row, number) -> new Row(
                            row.getString("person"),
                            row.getString("target"),
                            Objects.requireNonNull(instant(row.getTimestamp("opens"))),
                            instant(row.getTimestamp("ends"))));
            assertThat(access.stream().map(ReferenceTests::row).toList())
                    .as("seed %d", seed)
                    .isEqualTo(reference);
            windows += reference.size();
        }
        assertThat(windows).isGreaterThan(1_000);
    }

    private void insertEntitlements(List<Access> access) {
        var spans = new ArrayList<Object[]>();
        var holes = new ArrayList<Object[]>();
        long id = 0;
        for (Access one : access) {
            for (var entitlement : one.entitlements()) {
                id++;
                spans.add(new Object[] {
                    id,
                    one.person(),
                    one.target().path(),
                    range(entitlement.stretch().span())
                });
                for (var hole : entitlement.stretch().suspended().asList()) {
                    holes.add(new Object[] {id, range(hole)});
                }
                for (var hole : entitlement.stretch().takenOut().asList()) {
                    holes.add(new Object[] {id, range(hole)});
                }
            }
        }
        jdbc.batchUpdate("insert into span values (?, ?, ?, cast(? as tstzrange))", spans);
        jdbc.batchUpdate("insert into hole values (?, cast(? as tstzrange))", holes);
    }

    private static String range(Window window) {
        return "[" + window.start() + "," + window.end().map(Instant::toString).orElse("") + ")";
    }

    private static Row row(Access access) {
        return new Row(
                access.person(),
                access.target().path(),
                access.window().start(),
                access.window().endOrNone());
    }

    private static @Nullable Instant instant(@Nullable Timestamp timestamp) {
        return timestamp == null ? null : timestamp.toInstant();
    }

    /** A window function over orders in folding order (PostgreSQL documentation, 3.5). */
    @Test
    void earlierPurchasesAreCountedAsAWindowFunctionCountsThem() {
        jdbc.execute("""
                create temporary table purchase
                  (person text, at timestamptz, source text, id text, number text, counted boolean) on commit drop""");
        jdbc.execute("create temporary table line (number text, product text) on commit drop");
        var set = new PurchaseSet(Set.of("BOX", "TEAM"), Set.of(), Set.of());
        long counted = 0;
        for (long seed = 0; seed < 120; seed++) {
            jdbc.execute("truncate purchase, line");
            var world = World.of(seed);
            var facts = world.facts().stream()
                    .filter(fact -> !(fact.happening() instanceof Happening.PersonMerged
                            || fact.happening() instanceof Happening.PersonErased))
                    .toList();
            insertPurchases(facts);
            Map<String, Integer> reference = new TreeMap<>();
            jdbc.query("""
                            select number, count(*) filter (where counted and exists (
                                select 1 from line l where l.number = p.number and l.product in ('BOX', 'TEAM')))
                              over (partition by person order by at, source collate "C", id collate "C"
                                    rows between unbounded preceding and 1 preceding) as before
                            from purchase p""", row -> {
                reference.put(row.getString("number"), row.getInt("before"));
            });
            var engine = new Engine(world.rulebook());
            var count = new PurchaseCount(engine.index());
            Map<String, Integer> ours = new TreeMap<>();
            for (History history : Histories.of(Ledger.of(facts)).all()) {
                history.orders().forEach(order -> ours.put(order.id(), count.before(history, order, set, Counts.PAID)));
            }
            assertThat(ours).as("seed %d", seed).isEqualTo(reference);
            counted += ours.values().stream().mapToInt(Integer::intValue).sum();
        }
        assertThat(counted).isGreaterThan(100);
    }

    private void insertPurchases(List<Fact> facts) {
        for (Fact fact : facts) {
            if (fact.happening() instanceof Happening.OrderPlaced it) {
                boolean free =
                        it.lines().stream().allMatch(line -> line.amount().signum() == 0);
                boolean paid = says(facts, new Happening.OrderPaid(it.order()));
                boolean cancelled = says(facts, new Happening.OrderCancelled(it.order()));
                jdbc.update(
                        "insert into purchase values (?, ?, ?, ?, ?, ?)",
                        fact.subject(),
                        OffsetDateTime.ofInstant(fact.time(), ZoneOffset.UTC),
                        fact.id().source(),
                        fact.id().id(),
                        it.order(),
                        (free || paid) && !cancelled);
                it.lines().forEach(line -> jdbc.update("insert into line values (?, ?)", it.order(), line.product()));
            }
        }
    }

    private static boolean says(List<Fact> facts, Happening what) {
        return facts.stream().anyMatch(fact -> fact.happening().equals(what));
    }

    /**
     * TPC-H (specification 3.0, clause 4.2) at scale factor 0.005: customers are people, parts are products, returned
     * lines (L_RETURNFLAG = 'R') are refunds. Who has which course is counted by plain SQL over the same rows.
     */
    @Test
    void atVolumeEveryCourseHasAsManyPeopleAsPlainSqlSays() {
        jdbc.execute("create temporary table sold (person text, course text, returned boolean) on commit drop");
        var facts = new ArrayList<Fact>();
        Map<Long, Order> orders = new HashMap<>();
        for (Order order : new OrderGenerator(0.005, 1, 1)) {
            orders.put(order.orderKey(), order);
        }
        Map<Long, List<LineItem>> lines = new TreeMap<>();
        for (LineItem line : new LineItemGenerator(0.005, 1, 1)) {
            lines.computeIfAbsent(line.orderKey(), key -> new ArrayList<>()).add(line);
        }
        var rows = new ArrayList<Object[]>();
        lines.forEach((key, items) -> {
            var order = Objects.requireNonNull(orders.get(key));
            purchase(order, items, facts);
            for (LineItem item : items) {
                rows.add(new Object[] {
                    person(order), course(item), item.returnFlag().equals("R")
                });
            }
        });
        jdbc.batchUpdate("insert into sold values (?, ?, ?)", rows);
        Map<String, Integer> reference = new TreeMap<>();
        jdbc.query(
                "select course, count(distinct person) as people from sold where not returned group by course", row -> {
                    reference.put("course/" + row.getString("course"), row.getInt("people"));
                });
        Map<String, Integer> ours = new TreeMap<>();
        for (Access access : new Engine(tpch())
                .evaluate(Ledger.of(facts), Instant.parse("2000-01-01T00:00:00Z"))
                .access()) {
            if (access.state().isOpen()) {
                ours.merge(access.target().path(), 1, Integer::sum);
            }
        }
        assertThat(facts.size()).isGreaterThan(20_000);
        assertThat(ours).isEqualTo(reference);
    }

    private static void purchase(Order order, List<LineItem> items, List<Fact> facts) {
        var id = "T" + order.orderKey();
        var person = person(order);
        var at = day(order.orderDate());
        var lines = items.stream()
                .map(item -> new OrderLine(
                        "" + item.lineNumber(),
                        product(item),
                        null,
                        1,
                        BigDecimal.valueOf(item.extendedPriceInCents(), 2),
                        null))
                .toList();
        facts.add(fact(id + "-placed", person, at, new Happening.OrderPlaced(id, Channel.SHOP, Shop.EUR, lines)));
        facts.add(fact(id + "-paid", person, at, new Happening.OrderPaid(id)));
        for (LineItem item : items) {
            if (item.returnFlag().equals("R")) {
                var back = new Happening.OrderRefunded(id, "" + item.lineNumber(), null);
                facts.add(fact(id + "-back-" + item.lineNumber(), person, day(item.receiptDate()), back));
            }
        }
    }

    private static Rulebook tpch() {
        var courses = IntStream.range(0, 40)
                .mapToObj(n -> new Course("c" + n, "c" + n, List.of()))
                .toList();
        var products = IntStream.range(0, 200)
                .mapToObj(n -> new Product("P" + n, "P" + n, List.of(), new Billing.Once()))
                .toList();
        var links = IntStream.range(0, 200)
                .mapToObj(n -> new Link(
                        "L" + n,
                        new Source.OfProduct("P" + n),
                        List.of(Destination.whole("c" + n % 40)),
                        Terms.DEFAULT))
                .collect(Collectors.toList());
        return new Rulebook(new School(ZoneOffset.UTC, Shop.EUR, OpensOn.PAID), courses, products, links);
    }

    private static Fact fact(String id, String person, Instant time, Happening happening) {
        return new Fact(new FactId("tpch", id), person, time, happening);
    }

    private static String person(Order order) {
        return "customer-" + order.customerKey();
    }

    private static String product(LineItem item) {
        return "P" + item.partKey() % 200;
    }

    private static String course(LineItem item) {
        return "c" + item.partKey() % 200 % 40;
    }

    private static Instant day(int daysSinceEpoch) {
        return LocalDate.ofEpochDay(daysSinceEpoch).atStartOfDay(ZoneOffset.UTC).toInstant();
    }
}
