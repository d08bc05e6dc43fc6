package yoru.core;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.Period;
import java.time.ZoneId;
import java.util.Currency;
import java.util.List;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.School;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Terms;
import yoru.core.rulebook.Terms.OnRefund;

/** Makes facts and small rulebooks for tests, by hand. */
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
        return new Link(
                product + "-" + course, new Source.OfProduct(product), List.of(Destination.whole(course)), terms);
    }

    public static Terms lasting(String period) {
        return Terms.DEFAULT.with(new Length.Lasting(Period.parse(period)), OnRefund.END, BigDecimal.ONE);
    }

    private static Course course(String id) {
        return new Course(id, id, List.of());
    }

    private static Product product(String id) {
        return new Product(id, id, List.of(), id.equals("FREE") ? new Billing.Free() : new Billing.Once());
    }
}
