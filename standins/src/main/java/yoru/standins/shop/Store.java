package yoru.standins.shop;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Profile;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** What the shop keeps. */
@Repository
@Profile("shop")
class Store {

    private final JdbcClient jdbc;

    Store(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    List<Product> products() {
        return products("true", "");
    }

    Optional<Product> product(String id) {
        return products("id = :id", id).stream().findFirst();
    }

    /** Those that are on the shelves and of which something else is so. */
    private List<Product> products(String so, String id) {
        Map<String, List<Product.Option>> options = jdbc
                .sql("select * from product_option where product in (select id from product where " + so
                        + ") order by position")
                .param("id", id)
                .query((row, at) -> Map.entry(
                        row.getString("product"),
                        new Product.Option(
                                row.getString("id"),
                                row.getString("product"),
                                row.getString("title"),
                                row.getBigDecimal("price"))))
                .list()
                .stream()
                .collect(Collectors.groupingBy(
                        Map.Entry::getKey, Collectors.mapping(Map.Entry::getValue, Collectors.toList())));
        return jdbc.sql("select * from product where listed and " + so + " order by position")
                .param("id", id)
                .query((row, at) -> new Product(
                        row.getString("id"),
                        row.getString("title"),
                        row.getString("category"),
                        row.getBigDecimal("price"),
                        row.getBoolean("thing"),
                        row.getString("about"),
                        row.getString("every"),
                        row.getObject("parts", Integer.class),
                        row.getString("trial"),
                        row.getObject("cycles", Integer.class),
                        row.getBoolean("seats"),
                        options.getOrDefault(row.getString("id"), List.of())))
                .list();
    }

    /** Another thing on the shelves; nothing where its id is taken already. */
    boolean add(Product product) {
        boolean added = jdbc.sql("""
                        insert into product (id, title, category, price, thing, about, every, parts, trial, cycles, seats)
                        values (:id, :title, :category, :price, :thing, :about, :every, :parts, :trial, :cycles, :seats)
                        on conflict do nothing""")
                        .param("id", product.id())
                        .param("title", product.title())
                        .param("category", product.category())
                        .param("price", product.price())
                        .param("thing", product.thing())
                        .param("about", product.about())
                        .param("every", product.every())
                        .param("parts", product.parts())
                        .param("trial", product.trial())
                        .param("cycles", product.cycles())
                        .param("seats", product.seats())
                        .update()
                == 1;
        if (added) {
            for (Product.Option option : product.options()) {
                jdbc.sql(
                                "insert into product_option (id, product, title, price) values (?, ?, ?, ?) on conflict do nothing")
                        .params(option.id(), product.id(), option.title(), option.price())
                        .update();
            }
        }
        return added;
    }

    void takeOff(String product) {
        jdbc.sql("update product set listed = false where id = ?")
                .param(product)
                .update();
    }

    void rename(String product, String title) {
        jdbc.sql("update product set title = :title where id = :id")
                .param("title", title)
                .param("id", product)
                .update();
    }

    /**
     * A course that members can choose.
     *
     * @param chosen whether this one did
     */
    record MemberCourse(String id, String title, boolean chosen) {}

    List<MemberCourse> toChoose(String email) {
        return jdbc.sql("""
                        select id, title, exists (select 1 from chosen where course = id and email = :email) as chosen
                        from member_course order by title""")
                .param("email", email)
                .query((row, at) ->
                        new MemberCourse(row.getString("id"), row.getString("title"), row.getBoolean("chosen")))
                .list();
    }

    /** @return whether that is news */
    boolean choose(String email, String course, boolean chosen) {
        var change = chosen
                ? "insert into chosen select :email, id from member_course where id = :course on conflict do nothing"
                : "delete from chosen where email = :email and course = :course";
        return jdbc.sql(change).param("email", email).param("course", course).update() == 1;
    }

    /** Nothing where there is none, it is over, or it was used as often as it can be. */
    Optional<Discount> discount(String code) {
        return jdbc.sql("""
                        select * from discount where code = :code and (expires is null or expires >= current_date)
                          and (uses_left is null or uses_left > 0)""")
                .param("code", code)
                .query((row, at) -> new Discount(
                        row.getObject("percent", Integer.class), row.getBigDecimal("amount"), Set.of((String[])
                                row.getArray("products").getArray())))
                .optional();
    }

    void useUp(String code) {
        jdbc.sql("update discount set uses_left = uses_left - 1 where code = :code")
                .param("code", code)
                .update();
    }

    /** The same code again stays as it is. */
    void make(String code, String email, Discount discount, @Nullable LocalDate expires, @Nullable Integer uses) {
        jdbc.sql("""
                        insert into discount (code, percent, amount, products, expires, uses_left, email)
                        values (:code, :percent, :amount, cast(:products as text[]), :expires, :uses, :email)
                        on conflict do nothing""")
                .param("code", code)
                .param("percent", discount.percent())
                .param("amount", discount.amount())
                .param("products", "{" + String.join(",", discount.products()) + "}")
                .param("expires", expires)
                .param("uses", uses)
                .param("email", email)
                .update();
    }

    boolean setting(String name) {
        return jdbc.sql("select on_or_off from setting where name = :name")
                .param("name", name)
                .query(Boolean.class)
                .single();
    }

    void set(String name, boolean on) {
        jdbc.sql("update setting set on_or_off = :on where name = :name")
                .param("on", on)
                .param("name", name)
                .update();
    }

    Optional<String> passwordHash(String email) {
        return jdbc.sql("select password_hash from account where email = :email")
                .param("email", email)
                .query(String.class)
                .optional();
    }

    /** @return false where there is an account already */
    boolean makeAccount(String email, String name, String passwordHash) {
        return jdbc.sql(
                                "insert into account (email, name, password_hash) values (:email, :name, :hash) on conflict do nothing")
                        .param("email", email)
                        .param("name", name)
                        .param("hash", passwordHash)
                        .update()
                == 1;
    }

    String accountName(String email) {
        return jdbc.sql("select name from account where email = :email")
                .param("email", email)
                .query(String.class)
                .single();
    }

    String nextOrderId() {
        return jdbc.sql("select nextval('order_number')")
                .query(Long.class)
                .single()
                .toString();
    }

    void place(ShopOrder order) {
        jdbc.sql("""
                        insert into shop_order (id, email, name, guest, placed_at, paid_at, fulfilled_at, refunded_at, cancelled_at,
                          given_back)
                        values (:id, :email, :name, :guest, :placed, :paid, :fulfilled, :refunded, :cancelled, :back)""")
                .param("id", order.id())
                .param("email", order.email())
                .param("name", order.name())
                .param("guest", order.guest())
                .param("placed", utc(order.placedAt()))
                .param("paid", utc(order.paidAt()))
                .param("fulfilled", utc(order.fulfilledAt()))
                .param("refunded", utc(order.refundedAt()))
                .param("cancelled", utc(order.cancelledAt()))
                .param("back", order.givenBack())
                .update();
        for (ShopOrder.Line line : order.lines()) {
            jdbc.sql("""
                            insert into order_line
                              (order_id, line, product, option, title, quantity, amount, thing, gift_to, refunded)
                            values (:order, :line, :product, :option, :title, :quantity, :amount, :thing, :gift, :refunded)""")
                    .param("order", order.id())
                    .param("line", line.line())
                    .param("product", line.product())
                    .param("option", line.option())
                    .param("gift", line.giftTo())
                    .param("title", line.title())
                    .param("quantity", line.quantity())
                    .param("amount", line.amount())
                    .param("thing", line.thing())
                    .param("refunded", line.refunded())
                    .update();
        }
    }

    Optional<ShopOrder> order(String id) {
        return orders("where o.id = :value", id).stream().findFirst();
    }

    List<ShopOrder> latestOrders() {
        return orders("where o.id in (select id from shop_order order by placed_at desc, id desc limit :value)", 40);
    }

    List<ShopOrder> ordersOf(String email) {
        return orders("where o.email = :value", email);
    }

    /** Sets a moment that was not set yet. @return whether it was set now */
    boolean mark(String order, Moment moment, Instant at) {
        return jdbc.sql("update shop_order set %1$s = :at where id = :id and %1$s is null".formatted(moment.column))
                        .param("at", utc(at))
                        .param("id", order)
                        .update()
                == 1;
    }

    boolean markLineRefunded(String order, String line) {
        return jdbc.sql("update order_line set refunded = true where order_id = :id and line = :line and not refunded")
                        .param("id", order)
                        .param("line", line)
                        .update()
                == 1;
    }

    void giveBack(String order, BigDecimal amount) {
        jdbc.sql("update shop_order set given_back = given_back + ? where id = ?")
                .params(amount, order)
                .update();
    }

    /** A moment in an order's life. */
    enum Moment {
        PAID("paid_at"),
        FULFILLED("fulfilled_at"),
        REFUNDED("refunded_at");

        private final String column;

        Moment(String column) {
            this.column = column;
        }
    }

    private List<ShopOrder> orders(String where, Object value) {
        Map<String, List<ShopOrder.Line>> lines = jdbc
                .sql("select l.* from order_line l join shop_order o on o.id = l.order_id " + where
                        + " order by l.order_id, l.line")
                .param("value", value)
                .query((row, at) -> Map.entry(
                        row.getString("order_id"),
                        new ShopOrder.Line(
                                row.getString("line"),
                                row.getString("product"),
                                row.getString("option"),
                                row.getString("title"),
                                row.getInt("quantity"),
                                row.getBigDecimal("amount"),
                                row.getBoolean("thing"),
                                row.getString("gift_to"),
                                row.getBoolean("refunded"))))
                .list()
                .stream()
                .collect(Collectors.groupingBy(
                        Map.Entry::getKey,
                        LinkedHashMap::new,
                        Collectors.mapping(Map.Entry::getValue, Collectors.toList())));
        return jdbc.sql("select o.* from shop_order o " + where + " order by o.placed_at desc, o.id desc")
                .param("value", value)
                .query((row, at) -> new ShopOrder(
                        row.getString("id"),
                        row.getString("email"),
                        row.getString("name"),
                        row.getBoolean("guest"),
                        row.getObject("placed_at", OffsetDateTime.class).toInstant(),
                        instant(row.getObject("paid_at", OffsetDateTime.class)),
                        instant(row.getObject("fulfilled_at", OffsetDateTime.class)),
                        instant(row.getObject("refunded_at", OffsetDateTime.class)),
                        instant(row.getObject("cancelled_at", OffsetDateTime.class)),
                        row.getBigDecimal("given_back"),
                        lines.getOrDefault(row.getString("id"), List.of())))
                .list();
    }

    private static @Nullable OffsetDateTime utc(@Nullable Instant instant) {
        return instant == null ? null : instant.atOffset(ZoneOffset.UTC);
    }

    private static @Nullable Instant instant(@Nullable OffsetDateTime time) {
        return time == null ? null : time.toInstant();
    }
}
