package yoru.standins.shop;

import io.cloudevents.CloudEvent;
import java.math.BigDecimal;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.standins.practice.Outbox;

/**
 * Makes up a past for the shop: 600 people, 18 months of orders, with refunds, free places, unpaid and cancelled orders,
 * people who bought the same course twice over. Always the same but for the day on which it ends.
 */
@Service
@Profile("shop")
class History {

    private static final Duration SPAN = Duration.ofDays(548);
    private static final long SEED = 20_240_229;

    /** What is bought, with how likely it is. */
    private static final Map<String, Integer> DEMAND = new LinkedHashMap<>();

    static {
        DEMAND.put("FIRST", 26);
        DEMAND.put("BUNDLE-S", 14);
        DEMAND.put("YEAR", 10);
        DEMAND.put("HEALTH", 14);
        DEMAND.put("HONEY", 12);
        DEMAND.put("WINTER", 10);
        DEMAND.put("QUEEN-SELF", 9);
        DEMAND.put("QUEEN-LIVE", 5);
        DEMAND.put("TASTER", 8);
        DEMAND.put("POLLEN", 2);
        DEMAND.put("KIT-2", 9);
        DEMAND.put("CHART-A2", 6);
        DEMAND.put("GARDEN", 6);
        DEMAND.put("SCHOOL-HIVE", 4);
        DEMAND.put("SWARM~SWARM-SELF", 7);
        DEMAND.put("SWARM~SWARM-LIVE", 4);
        DEMAND.put("MOVING", 3);
        DEMAND.put("GENES", 3);
        DEMAND.put("LIVING", 4);
        DEMAND.put("CANDLES", 6);
        DEMAND.put("SKEP", 4);
        DEMAND.put("CRAFT-ALL", 3);
        DEMAND.put("MENTOR~MENTOR-LETTERS", 2);
        DEMAND.put("EVENING", 5);
        DEMAND.put("KIT-1", 4);
        DEMAND.put("GLOVES", 3);
        DEMAND.put("JARS-48", 3);
        DEMAND.put("BOOK", 3);
    }

    private final Store store;
    private final Till till;
    private final Scenes scenes;
    private final Methods methods;
    private final Outbox outbox;
    private final Clock clock;

    History(Store store, Till till, Scenes scenes, Methods methods, Outbox outbox, Clock clock) {
        this.methods = methods;
        this.till = till;
        this.scenes = scenes;
        this.store = store;
        this.outbox = outbox;
        this.clock = clock;
    }

    private record Past(ShopOrder order, List<CloudEvent> events) {}

    /** Does nothing where there are orders already. */
    @Transactional
    public void makeOnce() {
        if (!store.latestOrders().isEmpty()) {
            return;
        }
        var random = new Random(SEED);
        var end = clock.instant().truncatedTo(ChronoUnit.MINUTES).minus(Duration.ofMinutes(25));
        var orders = orders(random, end);
        var events = new ArrayList<CloudEvent>();
        for (Past past : orders) {
            if (!past.order.guest()) {
                store.makeAccount(past.order.email(), past.order.name(), "");
                methods.keep(past.order.email());
            }
            store.place(past.order);
            events.addAll(past.events);
        }
        events.sort(Comparator.comparing(
                event -> Objects.requireNonNull(event.getTime()).toInstant()));
        events.forEach(event -> Events.report(event, outbox));
        scenes.tell(People.all(new Random(SEED)), end);
    }

    private List<Past> orders(Random random, Instant end) {
        var start = end.minus(SPAN);
        record Visit(People.Person person, Instant at, int number) {}
        var visits = new ArrayList<Visit>();
        for (People.Person person : People.all(random)) {
            var at = start.plusSeconds((long) (SPAN.toSeconds() * random.nextDouble()));
            for (int number = 0; number < 7 && at.isBefore(end); number++) {
                visits.add(new Visit(person, atBusyHour(random, at), number));
                if (random.nextInt(10) > 6 - number / 2) {
                    break;
                }
                at = at.plus(Duration.ofDays(10 + random.nextInt(170)));
            }
        }
        visits.removeIf(visit -> !visit.at.isBefore(end));
        visits.sort(Comparator.comparing(Visit::at));
        var past = new ArrayList<Past>();
        for (Visit visit : visits) {
            past.add(order(random, visit.person, isGuest(visit.number, visit.person, visit.at, end), visit.at, end));
        }
        return past;
    }

    /** A few who came lately for the first time made no account. */
    private static boolean isGuest(int number, People.Person person, Instant at, Instant end) {
        return number == 0
                && at.isAfter(end.minus(Duration.ofDays(9)))
                && Math.floorMod(person.email().hashCode(), 4) < 3;
    }

    private Past order(Random random, People.Person person, boolean guest, Instant at, Instant end) {
        int percentOff = random.nextInt(40) == 0 ? 100 : random.nextInt(12) == 0 ? 20 : 0;
        var lines = new ArrayList<ShopOrder.Line>();
        for (int more = random.nextInt(5) == 0 ? 2 : 1; more > 0; more--) {
            line(random, at, end, percentOff, lines.size() + 1).ifPresent(line -> {
                if (lines.stream().noneMatch(had -> had.product().equals(line.product()))) {
                    lines.add(line);
                }
            });
        }
        var total = lines.stream().map(ShopOrder.Line::amount).reduce(BigDecimal.ZERO, BigDecimal::add);
        boolean thing = lines.stream().anyMatch(ShopOrder.Line::thing);
        int fate = random.nextInt(100);
        Instant paid = total.signum() == 0 || fate < 2 ? null : at.plusSeconds(20 + random.nextInt(400));
        Instant fulfilled =
                paid != null && thing ? ifPast(paid.plus(Duration.ofHours(20 + random.nextInt(60))), end) : null;
        Instant cancelled = paid == null && fate < 1 ? ifPast(at.plus(Duration.ofDays(9)), end) : null;
        Instant givenBack =
                paid != null && fate >= 93 ? ifPast(paid.plus(Duration.ofDays(1 + random.nextInt(40))), end) : null;
        boolean wholly = lines.size() == 1 || random.nextBoolean();
        var refundedLine = givenBack != null && !wholly ? lines.getFirst().line() : null;
        var order = new ShopOrder(
                store.nextOrderId(),
                person.email(),
                person.name(),
                guest,
                at,
                paid,
                fulfilled,
                wholly ? givenBack : null,
                cancelled,
                BigDecimal.ZERO,
                lines.stream()
                        .map(line -> line.line().equals(refundedLine) ? line.givenBack() : line)
                        .toList());
        var events = new ArrayList<CloudEvent>();
        events.add(Events.placed(order));
        Optional.ofNullable(paid).ifPresent(time -> events.add(Events.paid(order, time)));
        Optional.ofNullable(fulfilled).ifPresent(time -> events.add(Events.fulfilled(order, time)));
        Optional.ofNullable(cancelled).ifPresent(time -> events.add(Events.cancelled(order, time)));
        if (givenBack != null) {
            events.add(
                    refundedLine == null
                            ? Events.refunded(order, givenBack)
                            : Events.refunded(order, refundedLine, givenBack));
        }
        return new Past(order, events);
    }

    private Optional<ShopOrder.Line> line(Random random, Instant at, Instant end, int percentOff, int number) {
        // a product of old, taken off the shelves since: no catalogue lists it any more
        boolean ofOld = at.isBefore(end.minus(Duration.ofDays(500))) && random.nextInt(12) == 0;
        var id = ofOld ? "STARTER-2024" : wanted(random);
        if (ofOld) {
            return Optional.of(new ShopOrder.Line(
                    "" + number, id, null, "Starter course 2024", 1, new BigDecimal("60.00"), false, null, false));
        }
        return lineOf(id, percentOff, number);
    }

    private Optional<ShopOrder.Line> lineOf(String key, int percentOff, int number) {
        return till.lines(Map.of(key, 1), Discount.ofPercent(percentOff), null).stream()
                .findFirst()
                .map(line -> line.numbered(number));
    }

    private static String wanted(Random random) {
        int at = random.nextInt(
                DEMAND.values().stream().mapToInt(Integer::intValue).sum());
        for (var demand : DEMAND.entrySet()) {
            at -= demand.getValue();
            if (at < 0) {
                return demand.getKey();
            }
        }
        throw new IllegalStateException("the weights do not add up");
    }

    private static Instant atBusyHour(Random random, Instant at) {
        return at.truncatedTo(ChronoUnit.DAYS).plus(Duration.ofMinutes(7 * 60 + random.nextInt(15 * 60)));
    }

    private static @Nullable Instant ifPast(Instant at, Instant end) {
        return at.isBefore(end) ? at : null;
    }
}
