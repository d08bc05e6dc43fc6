package yoru.core.desk;

import static org.assertj.core.api.Assertions.assertThat;
import static yoru.core.Shop.day;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.Period;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeSet;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import yoru.core.Shop;
import yoru.core.access.Engine;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.orders.OrderAccount;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Terms;

/**
 * Many acts one after the other, against a plain book of who should have what: whether an act is refused, who is let in
 * after it, and what every order owes. The book knows no facts, no history and no engine.
 */
class DeskModelTests {

    private static final int ACTS = 45;
    private static final List<String> PEOPLE =
            List.of("ada@post.example", "ben@post.example", "cleo@post.example", "dora@post.example");

    /** A line of an order as the book has it. */
    private static final class Line {
        final String order;
        final String number;
        final String product;
        final BigDecimal amount;
        final boolean gift;
        /** Whom it is for; of a gift nobody before it is taken up. */
        @Nullable
        String holder;

        boolean paid;
        boolean cancelled;
        boolean over;
        BigDecimal back = BigDecimal.ZERO;

        /** When the order opened it. */
        @Nullable
        Instant opened;

        @Nullable
        Instant taken;

        Line(String order, String number, String product, BigDecimal amount, boolean gift, String buyer) {
            this.order = order;
            this.number = number;
            this.product = product;
            this.amount = amount;
            this.gift = gift;
            this.holder = gift ? null : buyer;
        }

        BigDecimal left() {
            return paid ? amount.subtract(back) : BigDecimal.ZERO;
        }

        void giveBack(BigDecimal money) {
            back = back.add(money);
            over |= back.compareTo(amount) == 0;
        }

        boolean isOpen(Instant now) {
            if (holder == null || opened == null || cancelled || over) {
                return false;
            }
            var from = taken != null && taken.isAfter(opened) ? taken : opened;
            return product.equals("FIRST") || now.isBefore(aYearAfter(from));
        }
    }

    /** Something given by hand. */
    private static final class Given {
        final String person;
        final String course;
        final @Nullable Instant until;
        boolean ended;

        Given(String person, String course, @Nullable Instant until) {
            this.person = person;
            this.course = course;
            this.until = until;
        }
    }

    private static Instant aYearAfter(Instant time) {
        return time.atZone(ZoneId.of("Europe/Dublin")).plusYears(1).toInstant();
    }

    private final Engine engine = new Engine(Shop.rulebook(
            OpensOn.PAID,
            Shop.link("QUEEN", "queen-rearing", Shop.lasting("P1Y")),
            Shop.link("FIRST", "first-hive", Terms.DEFAULT)));

    private final List<Fact> facts = new ArrayList<>();
    private final List<Line> lines = new ArrayList<>();
    private final Map<String, Given> given = new HashMap<>();
    private final Map<String, String> joined = new HashMap<>();
    private Instant now = day(1);
    private Random random = new Random();
    private int orders;

    static LongStream seeds() {
        return LongStream.rangeClosed(1, Long.getLong("yoru.seeds", 60));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void theDeskDoesWhatThePlainBookSays(long seed) {
        random = new Random(seed);
        int done = 0;
        for (int number = 0; number < ACTS; number++) {
            now = now.plusSeconds(3_600L * (1 + random.nextInt(24 * 25)));
            var act = someAct();
            var where = "act %d of seed %d at %s: %s".formatted(number, seed, now, act);
            var decision = new Desk(engine, Ledger.of(facts), now).decide(act, "act-" + number);
            boolean mayBe = mayBe(act);
            assertThat(decision.isRefused()).as(where + decision.refusals()).isEqualTo(!mayBe);
            if (mayBe) {
                facts.addAll(decision.facts());
                enter(act, decision.facts());
                done++;
            }
            assertThat(letIn(facts)).as(where).isEqualTo(inTheBook());
            assertThat(owed()).as(where).isEqualTo(owedInTheBook());
        }
        assertThat(done).as("many can be done").isGreaterThan(ACTS / 6);
        var again = new ArrayList<>(facts);
        again.addAll(facts);
        Collections.shuffle(again, random);
        assertThat(letIn(again)).as("told twice and in disorder, seed " + seed).isEqualTo(inTheBook());
    }

    // ---- acts ----------------------------------------------------------------------------------

    private Act someAct() {
        return switch (random.nextInt(14)) {
            case 0, 1, 2, 3 -> sell();
            case 4, 5 -> new Act.Pay(someOrder(), "transfer", "");
            case 6 -> new Act.Cancel(someOrder());
            case 7, 8 -> refund();
            case 9 -> claim();
            case 10 -> give();
            case 11 -> new Act.EndGrant(somebody(), someGrant());
            case 12 -> new Act.Join(somebody(), somebody());
            default -> new Act.Part(somebody());
        };
    }

    private String somebody() {
        return PEOPLE.get(random.nextInt(PEOPLE.size()));
    }

    private String someOrder() {
        return "H" + (1 + random.nextInt(Math.max(1, orders + 1)));
    }

    private String someGrant() {
        var names = given.keySet().stream().sorted().toList();
        return names.isEmpty() ? "none" : names.get(random.nextInt(names.size()));
    }

    private Act sell() {
        var buyer = somebody();
        var items = new ArrayList<Act.Item>();
        for (int item = random.nextInt(2); item >= 0; item--) {
            var receiver = random.nextInt(4) == 0 ? somebody() : null;
            var product = random.nextBoolean() ? "FIRST" : "QUEEN";
            items.add(new Act.Item(product, null, 1, new BigDecimal("90.00"), BigDecimal.ZERO, receiver, null));
        }
        var payment = List.of(
                        new Act.Payment.Free("volunteer"),
                        new Act.Payment.Already("cash", ""),
                        new Act.Payment.Later(true, null),
                        new Act.Payment.Later(false, null))
                .get(random.nextInt(4));
        return new Act.Sell("H" + (orders + 1), buyer, items, payment);
    }

    private Act refund() {
        var order = someOrder();
        return switch (random.nextInt(3)) {
            case 0 -> new Act.Refund(order, null, null, "");
            case 1 -> new Act.Refund(order, "1", null, "");
            default -> new Act.Refund(order, "1", new BigDecimal(1 + random.nextInt(90)), "");
        };
    }

    private Act claim() {
        var gifts = lines.stream().filter(line -> line.gift).toList();
        if (gifts.isEmpty()) {
            return new Act.Claim("H1", "1", 1, somebody());
        }
        var gift = gifts.get(random.nextInt(gifts.size()));
        return new Act.Claim(gift.order, gift.number, 1, somebody());
    }

    private Act give() {
        var course = random.nextBoolean() ? "first-hive" : "queen-rearing";
        var length = random.nextBoolean() ? Period.ofYears(1) : null;
        return new Act.Give(somebody(), List.of(Destination.whole(course)), length, "because they asked");
    }

    // ---- the book ------------------------------------------------------------------------------

    private Stream<String> orderIds() {
        return IntStream.rangeClosed(1, orders).mapToObj(number -> "H" + number);
    }

    private List<Line> of(String order) {
        return lines.stream().filter(line -> line.order.equals(order)).toList();
    }

    private List<Line> refunded(Act.Refund act) {
        return of(act.order()).stream()
                .filter(line -> act.line() == null || line.number.equals(act.line()))
                .toList();
    }

    private boolean mayBe(Act act) {
        return switch (act) {
            case Act.Sell it ->
                it.items().stream().noneMatch(item -> it.person().equals(item.giftTo()));
            case Act.Pay it ->
                !of(it.order()).isEmpty()
                        && of(it.order()).stream().noneMatch(line -> line.paid || line.cancelled)
                        && of(it.order()).stream().anyMatch(line -> line.amount.signum() > 0);
            case Act.Cancel it ->
                !of(it.order()).isEmpty() && of(it.order()).stream().noneMatch(line -> line.cancelled);
            case Act.Refund it -> {
                var left = refunded(it).stream().map(Line::left).reduce(BigDecimal.ZERO, BigDecimal::add);
                var free = refunded(it).stream().allMatch(line -> line.amount.signum() == 0);
                yield !refunded(it).isEmpty()
                        && (it.amount() != null ? it.amount().compareTo(left) <= 0 : free || left.signum() > 0);
            }
            case Act.Claim it ->
                of(it.order()).stream()
                        .anyMatch(line ->
                                line.number.equals(it.line()) && line.gift && line.holder == null && !line.cancelled);
            case Act.Give _ -> true;
            case Act.EndGrant it -> {
                var one = given.get(it.grant());
                yield one != null && one(one.person).equals(one(it.person())) && !one.ended;
            }
            case Act.Join it ->
                !joined.containsKey(it.person()) && !one(it.person()).equals(one(it.into()));
            case Act.Part it -> joined.containsKey(it.person());
            default -> throw new IllegalStateException(act.toString());
        };
    }

    private void enter(Act act, List<Fact> made) {
        switch (act) {
            case Act.Sell it -> enter(it);
            case Act.Pay it ->
                of(it.order()).forEach(line -> {
                    line.paid = true;
                    line.opened = line.opened == null ? now : line.opened;
                });
            case Act.Cancel it -> of(it.order()).forEach(line -> line.cancelled = true);
            case Act.Refund it ->
                refunded(it).forEach(line -> {
                    line.giveBack(it.amount() == null ? line.left() : it.amount());
                    line.over |= it.amount() == null;
                });
            case Act.Claim it ->
                of(it.order()).stream()
                        .filter(line -> line.number.equals(it.line()))
                        .forEach(line -> {
                            line.holder = it.person();
                            line.taken = now;
                        });
            case Act.Give it -> {
                var grant = ((Happening.GrantGiven) made.getFirst().happening()).grant();
                var course = ((Destination.OfCourse) it.to().getFirst()).course();
                given.put(grant, new Given(it.person(), course, it.length() == null ? null : aYearAfter(now)));
            }
            case Act.EndGrant it -> given.get(it.grant()).ended = true;
            case Act.Join it -> joined.put(it.person(), it.into());
            case Act.Part it -> joined.remove(it.person());
            default -> throw new IllegalStateException(act.toString());
        }
    }

    private void enter(Act.Sell sell) {
        orders++;
        int number = 0;
        for (Act.Item item : sell.items()) {
            boolean free = sell.payment() instanceof Act.Payment.Free;
            var amount = free ? BigDecimal.ZERO : item.price();
            var line = new Line(
                    sell.order(),
                    String.valueOf(++number),
                    item.product(),
                    amount,
                    item.giftTo() != null,
                    sell.person());
            line.paid = sell.payment() instanceof Act.Payment.Already;
            boolean later = sell.payment() instanceof Act.Payment.Later it && !it.opensNow();
            line.opened = later ? null : now;
            lines.add(line);
        }
    }

    /** With whom somebody is one, in the end. */
    private String one(String person) {
        var into = joined.get(person);
        return into == null ? person : one(into);
    }

    private TreeSet<String> inTheBook() {
        var in = new TreeSet<String>();
        for (Line line : lines) {
            if (line.isOpen(now)) {
                in.add(one(line.holder) + " " + (line.product.equals("FIRST") ? "first-hive" : "queen-rearing"));
            }
        }
        for (Given one : given.values()) {
            if (!one.ended && (one.until == null || now.isBefore(one.until))) {
                in.add(one(one.person) + " " + one.course);
            }
        }
        return in;
    }

    private List<String> owedInTheBook() {
        return orderIds()
                .map(this::of)
                .map(own -> own.stream()
                        .map(line -> line.paid || line.cancelled ? BigDecimal.ZERO : line.amount)
                        .reduce(BigDecimal.ZERO, BigDecimal::add)
                        .setScale(2)
                        .toPlainString())
                .toList();
    }

    // ---- what the engine says ------------------------------------------------------------------

    private TreeSet<String> letIn(List<Fact> ledger) {
        var in = new TreeSet<String>();
        var histories = Histories.of(Ledger.of(ledger));
        for (String person : PEOPLE) {
            engine.access(histories.person(person), now).stream()
                    .filter(one -> one.state().isOpen())
                    .forEach(one ->
                            in.add(one(person) + " " + one.target().path().replace("course/", "")));
        }
        return in;
    }

    private List<String> owed() {
        var histories = Histories.of(Ledger.of(facts).asOf(now));
        return orderIds()
                .map(order -> new OrderAccount(histories.order(order).orElseThrow(), engine)
                        .sums()
                        .owed()
                        .setScale(2)
                        .toPlainString())
                .toList();
    }
}
