package yoru.standins.shop;

import io.cloudevents.CloudEvent;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.Period;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Profile;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.standins.practice.Outbox;

/** What is paid again and again, or in parts; each change and its event are one transaction. */
@Service
@Profile("shop")
class Plans {

    private static final DateTimeFormatter MOMENT = DateTimeFormatter.ofPattern(
                    "d MMM uuuu, HH:mm:ss 'UTC'", Locale.ENGLISH)
            .withZone(ZoneOffset.UTC);

    private final JdbcClient jdbc;
    private final Store store;
    private final Outbox outbox;
    private final Clock clock;

    Plans(JdbcClient jdbc, Store store, Outbox outbox, Clock clock) {
        this.jdbc = jdbc;
        this.store = store;
        this.outbox = outbox;
        this.clock = clock;
    }

    /** @param ending whether it was cancelled to the end of the paid time */
    record Subscription(
            String id, String email, String product, Period every, Instant paidThrough, boolean ending, boolean ended) {

        String shownPaidThrough() {
            return MOMENT.format(paidThrough);
        }

        boolean canBeCancelled() {
            return !ending && !ended;
        }
    }

    /**
     * A line that is paid in parts.
     *
     * @param next which part is to come; none = all are paid
     */
    record Parts(
            String line, String title, int of, @Nullable Integer next) {}

    List<Subscription> of(String order) {
        return jdbc.sql("select * from subscription where order_id = ? order by id")
                .param(order)
                .query((row, at) -> read(row))
                .list();
    }

    private Optional<Subscription> find(String id) {
        return jdbc.sql("select * from subscription where id = ? for update")
                .param(id)
                .query((row, at) -> read(row))
                .optional();
    }

    private static Subscription read(ResultSet row) throws SQLException {
        return new Subscription(
                row.getString("id"),
                row.getString("email"),
                row.getString("product"),
                Period.parse(row.getString("every")),
                row.getObject("paid_through", OffsetDateTime.class).toInstant(),
                row.getBoolean("ending"),
                row.getBoolean("ended"));
    }

    /**
     * What begins with the payment of an order.
     *
     * @param paidThrough none = the first period from then on
     */
    void begin(ShopOrder order, Instant at, @Nullable Instant paidThrough) {
        for (ShopOrder.Line line : order.lines()) {
            var product = store.product(line.product());
            var every = product.map(Product::every).orElse(null);
            if (every != null) {
                var trial = product.map(Product::trial).orElse(null);
                var first = Period.parse(trial == null ? every : trial);
                var begun = new Subscription(
                        order.id() + "-" + line.line(),
                        order.email(),
                        line.product(),
                        Period.parse(every),
                        paidThrough == null ? after(at, first) : paidThrough,
                        false,
                        false);
                jdbc.sql(
                                "insert into subscription (id, order_id, email, product, every, paid_through) values (?, ?, ?, ?, ?, ?)")
                        .params(
                                begun.id,
                                order.id(),
                                begun.email,
                                begun.product,
                                every,
                                begun.paidThrough.atOffset(ZoneOffset.UTC))
                        .update();
                report(Events.subscription("started", begun, at, started(begun, trial != null)));
            }
        }
    }

    private static Map<String, Object> started(Subscription begun, boolean trial) {
        Map<String, Object> data = new LinkedHashMap<>();
        data.put("product", begun.product);
        data.put("paidThrough", begun.paidThrough.toString());
        if (trial) {
            data.put("trial", true);
        }
        return data;
    }

    static Instant after(Instant at, Period period) {
        return at.atOffset(ZoneOffset.UTC).plus(period).toInstant();
    }

    /** @return whether there is such an act and such a subscription */
    @Transactional
    public boolean act(String id, String act) {
        var known = find(id);
        known.ifPresent(subscription -> act(subscription, act, clock.instant()));
        return known.isPresent();
    }

    /**
     * Each payment came when it was due, until a moment.
     *
     * @param lastFails but the last
     */
    void goOn(String id, Instant until, boolean lastFails) {
        int left = store.product(find(id).orElseThrow().product)
                .map(Product::cycles)
                .map(cycles -> cycles - 1)
                .orElse(Integer.MAX_VALUE);
        for (var it = find(id).orElseThrow();
                it.paidThrough.isBefore(until) && left > 0;
                it = find(id).orElseThrow(), left--) {
            if (lastFails && !after(it.paidThrough, it.every).isBefore(until)) {
                act(it, "fail", it.paidThrough);
                return;
            }
            act(it, "renew", it.paidThrough);
        }
    }

    /** The same at a moment of the past. */
    void act(String id, String act, Instant at) {
        act(find(id).orElseThrow(), act, at);
    }

    private void act(Subscription it, String act, Instant now) {
        switch (act) {
            case "renew" -> {
                var next = after(it.paidThrough, it.every);
                var paidThrough = next.isAfter(now) ? next : after(now, it.every);
                jdbc.sql("update subscription set paid_through = ?, ending = false, ended = false where id = ?")
                        .params(paidThrough.atOffset(ZoneOffset.UTC), it.id)
                        .update();
                report(Events.subscription("renewed", it, now, Map.of("paidThrough", paidThrough.toString())));
            }
            case "fail" -> report(Events.subscription("payment-failed", it, now, Map.of()));
            case "end-later" -> {
                mark(it, "ending");
                report(Events.subscription("cancelled", it, now, Map.of("at", "period-end")));
            }
            case "end-now" -> {
                mark(it, "ended");
                report(Events.subscription("cancelled", it, now, Map.of("at", "now")));
            }
            case "refund" -> {
                mark(it, "ended");
                report(Events.subscription("refunded", it, now, Map.of()));
            }
            default -> throw new IllegalArgumentException(act);
        }
    }

    private void mark(Subscription subscription, String column) {
        jdbc.sql("update subscription set %s = true where id = ?".formatted(column))
                .param(subscription.id)
                .update();
    }

    List<Parts> partsOf(ShopOrder order) {
        return order.lines().stream()
                .flatMap(line -> store.product(line.product()).map(Product::parts).stream()
                        .map(of -> new Parts(line.line(), line.title(), of, next(order, line.line(), of))))
                .toList();
    }

    private @Nullable Integer next(ShopOrder order, String line, int of) {
        var paid = jdbc.sql("select number from part_paid where order_id = ? and line = ?")
                .params(order.id(), line)
                .query(Integer.class)
                .list();
        return IntStream.rangeClosed(2, of)
                .filter(number -> !paid.contains(number))
                .boxed()
                .findFirst()
                .orElse(null);
    }

    /** The part that is to come next is paid, or its payment failed. */
    @Transactional
    public void part(ShopOrder order, String line, boolean paid) {
        part(order, line, paid, clock.instant());
    }

    void part(ShopOrder order, String line, boolean paid, Instant at) {
        for (Parts parts : partsOf(order)) {
            var next = parts.next;
            if (parts.line.equals(line) && next != null) {
                if (paid) {
                    jdbc.sql("insert into part_paid (order_id, line, number) values (?, ?, ?)")
                            .params(order.id(), line, next)
                            .update();
                }
                report(Events.instalment(paid ? "paid" : "failed", order, line, next, at));
            }
        }
    }

    private void report(CloudEvent event) {
        Events.report(event, outbox);
    }
}
