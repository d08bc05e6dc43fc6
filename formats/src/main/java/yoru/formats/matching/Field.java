package yoru.formats.matching;

import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A field of Yoru's facts that incoming fields are matched with.
 *
 * @param id as it stands in a matching
 * @param title in words
 * @param facts the facts that have it; those of a line lie within the elements that {@code lines} selects
 * @param required whether such a fact cannot do without
 */
public record Field(String id, String title, Set<String> facts, boolean required) {

    private static final String ORDER = "order.placed";
    private static final Set<String> ORDERS =
            Set.of(ORDER, "order.paid", "order.fulfilled", "order.cancelled", "order.refunded");
    private static final Set<String> SUBSCRIPTIONS = Set.of(
            "subscription.started",
            "subscription.renewed",
            "subscription.payment-failed",
            "subscription.cancelled",
            "subscription.refunded");
    private static final Set<String> LEVELS = Set.of("level.started", "level.ended");
    private static final Set<String> TAGS = Set.of("tag.added", "tag.removed");
    private static final Set<String> LISTS = Set.of("list.left", "list.joined");

    /** The facts that can be made of a report. */
    public static final List<String> FACTS = List.of(
            ORDER,
            "order.paid",
            "order.fulfilled",
            "order.cancelled",
            "order.refunded",
            "subscription.started",
            "subscription.renewed",
            "subscription.payment-failed",
            "subscription.cancelled",
            "subscription.refunded",
            "level.started",
            "level.ended",
            "tag.added",
            "tag.removed",
            "list.left",
            "list.joined",
            "course.completed");

    /** All fields, in the order in which they are shown. */
    public static final List<Field> ALL = List.of(
            new Field("person", "person, address", Set.copyOf(FACTS), true),
            new Field("name", "person, name", Set.copyOf(FACTS), false),
            new Field("verifiedEmail", "person, address verified there", Set.copyOf(FACTS), false),
            new Field("guest", "person, without an account", Set.of(ORDER), false),
            new Field("time", "time", Set.copyOf(FACTS), false),
            new Field("id", "its own id", Set.copyOf(FACTS), false),
            new Field("order", "order", ORDERS, true),
            new Field("currency", "currency", Set.of(ORDER), true),
            new Field("lines", "lines", Set.of(ORDER), true),
            new Field("line.product", "lines: product", Set.of(ORDER), true),
            new Field("line.option", "lines: option", Set.of(ORDER), false),
            new Field("line.quantity", "lines: quantity", Set.of(ORDER), false),
            new Field("line.amount", "lines: amount", Set.of(ORDER), true),
            new Field("line.giftTo", "lines: gift to", Set.of(ORDER), false),
            new Field("refund.line", "refunded line", Set.of("order.refunded"), false),
            new Field("refund.amount", "refunded amount", Set.of("order.refunded"), false),
            new Field("subscription", "subscription", SUBSCRIPTIONS, true),
            new Field("product", "product", Set.of("subscription.started"), true),
            new Field("paidThrough", "paid through", Set.of("subscription.started", "subscription.renewed"), true),
            new Field("at", "cancelled now or at the end", Set.of("subscription.cancelled"), true),
            new Field("level", "level", LEVELS, true),
            new Field("tag", "tag", TAGS, true),
            new Field("list", "list", LISTS, true),
            new Field("course", "course", Set.of("course.completed"), true));

    public Field {
        facts = Set.copyOf(facts);
    }

    static Optional<Field> of(String id) {
        return ALL.stream().filter(field -> field.id.equals(id)).findFirst();
    }

    boolean isOfALine() {
        return id.startsWith("line.");
    }

    static String idsInWords() {
        return String.join(", ", ALL.stream().map(Field::id).toArray(String[]::new));
    }

    static boolean isFact(String type) {
        return FACTS.contains(type);
    }
}
