package yoru.core;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.Period;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.random.RandomGenerator;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.School;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;
import yoru.core.rulebook.Terms.OnRefund;

/** Makes facts and rulebooks for tests, by hand or by a seeded generator. */
public final class Shop {

    public static final Currency EUR = Currency.getInstance("EUR");
    public static final Instant MARCH = Instant.parse("2025-03-01T10:00:00Z");

    private int count;

    public static Instant day(int day) {
        return MARCH.plusSeconds(86_400L * day);
    }

    public Fact fact(String subject, Instant time, Happening happening) {
        return new Fact(new FactId("shop", "f" + ++count), subject, time, happening);
    }

    public Fact placed(String order, String person, Instant time, OrderLine... lines) {
        return fact(person, time, new Happening.OrderPlaced(order, Channel.SHOP, EUR, List.of(lines)));
    }

    public Fact paid(String order, String person, Instant time) {
        return fact(person, time, new Happening.OrderPaid(order));
    }

    public static OrderLine line(String line, String product, String amount) {
        return new OrderLine(line, product, null, 1, new BigDecimal(amount), null);
    }

    public static Rulebook rulebook(OpensOn opensOn, Link... links) {
        var courses = List.of(course("first-hive"), course("queen-rearing"));
        var products = List.of(product("FIRST"), product("QUEEN"), product("FREE"));
        return new Rulebook(new School(ZoneId.of("Europe/Dublin"), EUR, opensOn), courses, products, List.of(links));
    }

    public static Link link(String product, String course, Terms terms) {
        var target = new Target.OfCourse(course);
        return new Link(product + "-" + course, new Source.OfProduct(product), List.of(target), terms);
    }

    public static Terms lasting(String period) {
        return new Terms(new Length.Lasting(Period.parse(period)), OnRefund.END, BigDecimal.ONE);
    }

    /** Few people, products and instants, so that everything collides with everything. */
    public List<Fact> history(RandomGenerator random, int orders) {
        var facts = new ArrayList<Fact>();
        for (int n = 0; n < orders; n++) {
            var order = "O" + n;
            var person = pick(random, "ada", "ben", "cleo");
            var lines = new ArrayList<OrderLine>();
            for (int line = 1; line <= 1 + random.nextInt(3); line++) {
                lines.add(line(
                        "" + line,
                        pick(random, "FIRST", "QUEEN", "FREE", "GONE"),
                        pick(random, "0.00", "30.00", "100.01")));
            }
            var channel = pick(random, Channel.SHOP, Channel.SHOP, Channel.HAND);
            facts.add(fact(person, moment(random), new Happening.OrderPlaced(order, channel, EUR, lines)));
            if (random.nextInt(4) > 0) {
                facts.add(fact(person, moment(random), new Happening.OrderPaid(order)));
            }
            if (random.nextInt(3) == 0) {
                facts.add(fact(person, moment(random), new Happening.OrderFulfilled(order)));
            }
            if (random.nextInt(8) == 0) {
                facts.add(fact(person, moment(random), new Happening.OrderCancelled(order)));
            }
            for (int refund = random.nextInt(3); refund > 0; refund--) {
                var line = random.nextBoolean() ? null : pick(random, "1", "2", "9");
                var amount = random.nextBoolean() ? null : new BigDecimal(pick(random, "0.01", "30.00", "999.99"));
                facts.add(fact(person, moment(random), new Happening.OrderRefunded(order, line, amount)));
            }
        }
        return facts;
    }

    public static Rulebook rulebook(RandomGenerator random) {
        var links = new ArrayList<Link>();
        for (String product : List.of("FIRST", "QUEEN", "FREE")) {
            for (String course : List.of("first-hive", "queen-rearing")) {
                if (random.nextInt(3) > 0) {
                    links.add(link(product, course, terms(random)));
                }
            }
        }
        return rulebook(pick(random, OpensOn.values()), links.toArray(Link[]::new));
    }

    private static Terms terms(RandomGenerator random) {
        Length length = random.nextBoolean()
                ? new Length.Held()
                : new Length.Lasting(Period.parse(pick(random, "P1D", "P1M", "P1Y", "P0D")));
        return new Terms(length, pick(random, OnRefund.values()), new BigDecimal(pick(random, "0.3", "0.5", "1.0")));
    }

    private static Instant moment(RandomGenerator random) {
        return day(random.nextInt(12));
    }

    @SafeVarargs
    public static <T> T pick(RandomGenerator random, T... from) {
        return from[random.nextInt(from.length)];
    }

    private static Course course(String id) {
        return new Course(id, id, List.of());
    }

    private static Product product(String id) {
        return new Product(id, id, List.of(), null, id.equals("FREE") ? Billing.FREE : Billing.ONCE);
    }
}
