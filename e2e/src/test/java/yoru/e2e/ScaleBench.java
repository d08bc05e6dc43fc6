package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import yoru.e2e.School.Part;

/**
 * How the screens answer in schools of growing size, ten facts for each person. Run by {@code ./yoru bench scale}; not a
 * test. {@code YORU_PEOPLE} gives other sizes.
 */
class ScaleBench {

    private static final int PRODUCTS = 20;
    private static final int ORDERS_EACH = 5;
    private static final int TIMES = 40;
    private static final List<Long> SIZES = Stream.of(Optional.ofNullable(System.getenv("YORU_PEOPLE"))
                    .orElse("1000,30000,300000")
                    .split(","))
            .map(Long::valueOf)
            .toList();

    private final School school = School.forMeasuring(
            "insert into product (id, title, category, price, thing, about) values "
                    + each("('P-%1$02d', 'Product %1$02d', 'Shelf', 40.00, false, '')"),
            "insert into course (id, title, category, content, published, door, about) values "
                    + each("('c-%1$02d', 'Course %1$02d', 'Room', true, true, 'by-enrolment', '')"));

    private static String each(String row) {
        return IntStream.range(0, PRODUCTS).mapToObj(row::formatted).collect(Collectors.joining(", "));
    }

    @AfterEach
    void close() {
        school.close();
    }

    @Test
    void figures() throws Exception {
        var operator = SignedIn.to(school);
        publish(operator);
        var all = new LinkedHashMap<Long, Map<String, Figure>>();
        long known = 0;
        for (long size : SIZES) {
            layIn(known, size);
            known = size;
            System.out.printf(
                    "%,d people, %,d facts: %s%n",
                    size, school.count(Part.SERVER, "select count(*) from fact"), TableSizes.of(school));
            all.put(size, measured(operator, size));
            System.out.printf("%,d people measured%n", size);
        }
        for (String what : all.firstEntry().getValue().keySet()) {
            System.out.printf(
                    "%-14s p95 %s; last ÷ first %.2f%n",
                    what,
                    all.entrySet().stream()
                            .map(it -> "%,d people %.0f ms (median %.0f)"
                                    .formatted(
                                            it.getKey(),
                                            it.getValue().get(what).p95,
                                            it.getValue().get(what).median))
                            .collect(Collectors.joining(", ")),
                    all.lastEntry().getValue().get(what).p95
                            / all.firstEntry().getValue().get(what).p95);
        }
    }

    private void publish(SignedIn operator) throws Exception {
        var version = operator.get("/api/mapping").replaceAll(".*\"version\":(\\d+).*", "$1");
        var cells = each("{\"source\": \"product/P-%1$02d\", \"target\": \"course/c-%1$02d\","
                + " \"terms\": {\"length\": \"P2Y\", \"refund\": \"end\"}}");
        operator.post(
                "/api/mapping/publish", "{\"base\": %s, \"note\": \"\", \"changes\": [%s]}".formatted(version, cells));
        await().atMost(Duration.ofMinutes(1)).until(school::quiet);
    }

    private Map<String, Figure> measured(SignedIn operator, long size) throws Exception {
        var today = LocalDate.now(java.time.ZoneOffset.UTC);
        var somebody = school.rows(Part.SERVER, "select id from person where person_key = 'scale-7@bench.example'")
                .getFirst();
        var figures = new LinkedHashMap<String, Figure>();
        figures.put("a sale", figure(() -> sale(size)));
        figures.put("a person", figure(() -> operator.get("/api/people/" + somebody)));
        figures.put("orders", figure(() -> operator.get("/api/orders")));
        figures.put("people", figure(() -> operator.get("/api/people?sort=NAME")));
        figures.put("today", figure(() -> operator.get("/api/today")));
        figures.put(
                "the ruler",
                figure(() ->
                        operator.get("/api/ruler?from=%s&to=%s".formatted(today.minusDays(60), today.plusDays(60)))));
        figures.put(
                "a segment",
                figure(
                        () -> operator.post(
                                "/api/segments/look",
                                "{\"any\": false, \"conditions\": [{\"kind\": \"BOUGHT\", \"not\": false, \"products\": [\"P-03\"]}]}")));
        figures.put(
                "one cell",
                figure(
                        () -> operator.post(
                                "/api/mapping/consequence",
                                "{\"changes\": [{\"source\": \"product/P-03\", \"target\": \"course/c-03\", \"terms\": {\"length\": \"P3Y\", \"refund\": \"end\"}}]}")));
        return figures;
    }

    /** From the report of a paid order to the window it opens. */
    private Object sale(long size) throws Exception {
        var person = "sale-" + size + "-" + UUID.randomUUID() + "@bench.example";
        var order = "S-" + UUID.randomUUID();
        var now = Instant.now().truncatedTo(ChronoUnit.SECONDS);
        report(
                "placed",
                person,
                now,
                "\"order\": \"%s\", \"channel\": \"shop\", \"currency\": \"EUR\", \"lines\": [{\"line\": \"1\", \"product\": \"P-01\", \"amount\": \"40.00\"}]"
                        .formatted(order));
        report("paid", person, now, "\"order\": \"%s\"".formatted(order));
        await().pollInterval(Duration.ofMillis(10))
                .atMost(Duration.ofMinutes(1))
                .until(() -> school.count(Part.SERVER, """
                        select count(*) from standing s join person p on p.id = s.person_id
                        where p.person_key = ? and s.target = 'course/c-01'""", person) == 1);
        return person;
    }

    private void report(String what, String person, Instant at, String data) throws Exception {
        var id = UUID.randomUUID().toString();
        var answer = school.report(
                Part.SERVER,
                id,
                "{\"specversion\": \"1.0\", \"id\": \"%s\", \"source\": \"https://shop.example\", \"type\": \"yoru.order.%s\", \"subject\": \"%s\", \"time\": \"%s\", \"data\": {%s}}"
                        .formatted(id, what, person, at, data));
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
    }

    /** Milliseconds. */
    private record Figure(double median, double p95) {}

    private interface Work {
        Object done() throws Exception;
    }

    private static Figure figure(Work work) throws Exception {
        var times = new ArrayList<Double>();
        for (int n = 0; n < TIMES * 2; n++) {
            long began = System.nanoTime();
            work.done();
            if (n >= TIMES) { // the first half only warms up
                times.add((System.nanoTime() - began) / 1e6);
            }
        }
        times.sort(null);
        return new Figure(times.get(TIMES / 2), times.get(TIMES * 95 / 100));
    }

    /** People with their orders, straight into the tables, as they would stand there. */
    private void layIn(long from, long to) {
        var people = "generate_series(%d, %d) n".formatted(from, to - 1);
        school.change(Part.SERVER, """
                insert into person (person_key, name, first_seen_at)
                select 'scale-' || n || '@bench.example', 'Scale ' || n, now() - interval '1 day' * (n %% 500) from %s""".formatted(people));
        var orders = """
                %s cross join generate_series(0, %d) k
                join person p on p.person_key = 'scale-' || n || '@bench.example'
                cross join lateral (select 'order L-' || n || '-' || k as thing, 'L-' || n || '-' || k as id,
                  lpad(((n + k * 3) %% %d)::text, 2, '0') as number,
                  date_trunc('second', now() - interval '1 day' * ((n * 7 + k * 31) %% 500 + 1)) as at) o""".formatted(people, ORDERS_EACH - 1, PRODUCTS);
        for (String kind : List.of("placed", "paid")) {
            school.change(Part.SERVER, """
                    insert into fact (source, event_id, type, subject, thing, mentions, happened_at, received_at, origin, connection_id, body)
                    select 'scale', '%1$s-' || o.id, 'yoru.order.%1$s', p.person_key, o.thing,
                      case when '%1$s' = 'placed' then array['product P-' || o.number] else '{}'::text[] end,
                      o.at, now(), 'SYSTEM', 'practice-shop',
                      jsonb_build_object('specversion', '1.0', 'id', '%1$s-' || o.id, 'source', 'scale', 'type', 'yoru.order.%1$s',
                        'subject', p.person_key, 'time', to_char(o.at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'),
                        'data', case when '%1$s' = 'placed' then jsonb_build_object('order', o.id, 'channel', 'shop', 'currency', 'EUR',
                          'lines', jsonb_build_array(jsonb_build_object('line', '1', 'product', 'P-' || o.number, 'amount', '40.00')))
                          else jsonb_build_object('order', o.id) end)
                    from %2$s""".formatted(kind, orders));
        }
        school.change(Part.SERVER, """
                insert into order_row (id, person_id, channel, currency, placed_at, opened_at, total, products, to_do)
                select o.id, p.id, 'SHOP', 'EUR', o.at, o.at, 40.00, array['P-' || o.number], '{}' from %s""".formatted(orders));
        school.change(
                Part.SERVER,
                "insert into order_money (order_id, at, line, kind, amount) select o.id, o.at, '1', 'PAID', 40.00 from "
                        + orders);
        school.change(Part.SERVER, """
                insert into opening (id, person_id, target, opens_at, ends_at)
                select nextval('opening_id_seq'), p.id, 'course/c-' || o.number, o.at, o.at + interval '2 years' from %s""".formatted(orders));
        school.change(Part.SERVER, """
                insert into standing (id, person_id, target, until, rulebook)
                select nextval('standing_id_seq'), p.id, 'course/c-' || o.number, o.at + interval '2 years',
                  (select max(number) from rulebook_version) from %s
                on conflict (person_id, target) do nothing""".formatted(orders));
        school.change(Part.SERVER, """
                insert into journal_entry (at, kind, title, said, actor, person_id, fact_seq)
                select f.received_at, 'FACT', 'Order placed', '', 'practice-shop', p.id, f.seq
                from fact f join person p on p.person_key = f.subject
                where f.source = 'scale' and f.type = 'yoru.order.placed'
                  and not exists (select 1 from journal_entry j where j.fact_seq = f.seq)""");
        school.change(Part.SERVER, "analyze");
    }
}
