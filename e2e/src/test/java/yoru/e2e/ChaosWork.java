package yoru.e2e;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.IntStream;
import yoru.e2e.School.Part;

/** What invented people do in a run: the same for a seed, but for its times. Everything about one of them is told by id. */
final class ChaosWork {

    private static final List<String> PRODUCTS =
            List.of("QUEEN-LIVE", "FIRST", "HONEY", "HEALTH", "QUEEN-SELF", "YEAR", "CRAFT-ALL", "CLUB", "BUNDLE-S");
    private static final List<String> MEMBERSHIPS = List.of("FORAGER", "KEEPER", "WARDEN", "CIRCLE");
    /** How far a repetition, or what belongs to the same sale, may come after or before. */
    private static final int SPREAD = 25;

    /**
     * A report of an event by a system.
     *
     * @param turn when it is told; what is told before what is chance
     */
    record Report(Part by, String id, String event, double turn) {}

    private final Random random;
    private final Instant began = Instant.now();
    private final List<Report> reports = new ArrayList<>();
    private final TreeSet<String> events = new TreeSet<>();
    private final TreeSet<String> buyers = new TreeSet<>();
    private final TreeSet<String> receivers = new TreeSet<>();
    private final TreeSet<String> finished = new TreeSet<>();

    ChaosWork(long seed, int sales) {
        random = new Random(seed);
        IntStream.range(0, sales).forEach(this::story);
        reports.sort(Comparator.comparingDouble(Report::turn));
    }

    /** In the order in which they are told, with repetitions. */
    List<Report> reports() {
        return reports;
    }

    /** The ids of the events, each once. */
    TreeSet<String> events() {
        return events;
    }

    /** Who bought for themselves, and has not given it back: whoever is to get letters. */
    TreeSet<String> buyers() {
        return buyers;
    }

    /** Who was given something. */
    TreeSet<String> receivers() {
        return receivers;
    }

    /** Who has finished First Hive, for which a code is given. */
    TreeSet<String> finished() {
        return finished;
    }

    static String person(int number) {
        return "c-%05d@post.example".formatted(number);
    }

    private void story(int number) {
        var at = began.plusMillis(number);
        switch (random.nextInt(12)) {
            case 0, 1 -> membership(number, at);
            case 2 -> gift(number, at);
            case 3 -> finishedCourse(number, at);
            default -> sale(number, at);
        }
    }

    private void sale(int number, Instant at) {
        var product = PRODUCTS.get(random.nextInt(PRODUCTS.size()));
        boolean refunded = random.nextInt(8) == 0;
        order(number, at, product, random.nextInt(10) == 0 ? 3 : 1, "");
        if (refunded) {
            tell(number, Part.SHOP, "order.refunded", at.plusMillis(10), orderOnly(number));
        } else {
            buyers.add(person(number));
        }
    }

    private void gift(int number, Instant at) {
        var receiver = person(number).replace("c-", "g-");
        receivers.add(receiver);
        order(number, at, "HONEY", 1, ", \"giftTo\": \"" + receiver + "\"");
    }

    private void finishedCourse(int number, Instant at) {
        order(number, at, "FIRST", 1, "");
        buyers.add(person(number));
        finished.add(person(number));
        tell(number, Part.CLASSROOM, "course.completed", at.plusMillis(10), "{\"course\": \"first-hive\"}");
    }

    private void membership(int number, Instant at) {
        var product = MEMBERSHIPS.get(random.nextInt(MEMBERSHIPS.size()));
        var id = "CS-" + number;
        var paid = Instant.now().plus(12, ChronoUnit.DAYS).truncatedTo(ChronoUnit.SECONDS);
        tell(number, Part.SHOP, "subscription.started", at, """
                {"subscription": "%s", "product": "%s", "paidThrough": "%s"}""".formatted(id, product, paid));
        if (random.nextBoolean()) {
            tell(number, Part.SHOP, "subscription.renewed", at.plusMillis(5), """
                    {"subscription": "%s", "paidThrough": "%s"}""".formatted(
                            id, paid.plus(30, ChronoUnit.DAYS)));
        }
        switch (random.nextInt(6)) {
            case 0 -> tell(number, Part.SHOP, "subscription.cancelled", at.plusMillis(10), """
                    {"subscription": "%s", "at": "now"}""".formatted(id));
            case 1 -> tell(number, Part.SHOP, "subscription.payment-failed", at.plusMillis(10), """
                    {"subscription": "%s"}""".formatted(id));
            default -> buyers.add(person(number));
        }
    }

    private void order(int number, Instant at, String product, int quantity, String more) {
        tell(number, Part.SHOP, "order.placed", at, """
                {"order": "C-%d", "channel": "shop", "currency": "EUR", "name": "Tess", "lines": [{"line": "1", "product": "%s", "quantity": %d, "amount": "10.00"%s}]}""".formatted(number, product, quantity, more));
        tell(number, Part.SHOP, "order.paid", at.plusMillis(5), orderOnly(number));
    }

    private static String orderOnly(int number) {
        return "{\"order\": \"C-%d\"}".formatted(number);
    }

    /** Once, twice or three times, whenever. */
    private void tell(int number, Part by, String what, Instant time, String data) {
        var id = new UUID(random.nextLong(), random.nextLong()).toString();
        var event = """
                {"specversion": "1.0", "id": "%s", "source": "https://%s.example", "type": "yoru.%s", "subject": "%s", "time": "%s", "data": %s}""".formatted(id, by.name().toLowerCase(java.util.Locale.ROOT), what, person(number), time, data);
        events.add(id);
        int times = 1 + random.nextInt(3);
        for (int i = 0; i < times; i++) {
            reports.add(new Report(by, i < 2 ? id : id + "-again", event, number + random.nextDouble() * SPREAD));
        }
    }
}
