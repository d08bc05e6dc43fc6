package yoru.formats.imports;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** What the rows of a table are. */
public enum ImportKind {
    PEOPLE,
    ORDERS,
    MEMBERSHIPS,
    ENROLMENTS;

    /** In the order in which they are shown. */
    public List<Field> fields() {
        return switch (this) {
            case PEOPLE -> List.of(Field.PERSON, Field.NAME);
            case ORDERS ->
                List.of(
                        Field.ORDER,
                        Field.PERSON,
                        Field.NAME,
                        Field.PLACED,
                        Field.PRODUCT,
                        Field.OPTION,
                        Field.QUANTITY,
                        Field.AMOUNT,
                        Field.CURRENCY,
                        Field.STATUS,
                        Field.PAID,
                        Field.CANCELLED,
                        Field.REFUNDED);
            case MEMBERSHIPS -> List.of(Field.PERSON, Field.NAME, Field.LEVEL, Field.FROM, Field.UNTIL);
            case ENROLMENTS -> List.of(Field.PERSON, Field.NAME, Field.COURSE, Field.FROM, Field.UNTIL, Field.REASON);
        };
    }

    /** What a column can be matched with. */
    public enum Field {
        PERSON(
                "person, address",
                true,
                "person|e mail|email|mail|address|customer email|customer e mail|buyer email|buyer e mail|billing email"
                        + "|email address|e mail address|customer email address|contact"),
        NAME("person, name", false, "name|customer|customer name|full name|buyer|buyer name|billing name"),
        ORDER("order", true, "order|order id|order no|order nr|order number|number|no|nr|id"),
        PLACED(
                "placed on",
                true,
                "placed|placed on|date|order date|date of order|ordered|ordered on|created|created at|created on"),
        PRODUCT("product, id or name", true, "product|product id|product name|sku|item|item name|article"),
        OPTION("option, id", false, "option|option id|variant|variation"),
        QUANTITY("quantity", false, "quantity|qty"),
        AMOUNT("amount of the line", true, "amount|total|line total|price|sum|item total|order total"),
        CURRENCY("currency", false, "currency"),
        STATUS("status: paid, unpaid, cancelled, refunded", false, "status|order status|payment status|state"),
        PAID("paid on, or yes and no", false, "paid|paid at|paid on|date paid|payment date"),
        CANCELLED("cancelled on", false, "cancelled|canceled|cancelled at|cancelled on"),
        REFUNDED("given back on", false, "refunded|refunded at|refunded on|refund date|given back"),
        LEVEL("level, id or name", true, "level|level id|membership|plan"),
        COURSE("course, id or name", true, "course|course id|class|course code"),
        FROM("from", true, "from|start|started|since|begin date|enrolled"),
        UNTIL("until", false, "until|end|ends|expires|end date"),
        REASON("reason", false, "reason|note|comment");

        private final String title;
        private final boolean required;
        private final String usual;

        Field(String title, boolean required, String usual) {
            this.title = title;
            this.required = required;
            this.usual = usual;
        }

        /** What such columns are usually called, the likeliest first. */
        private Stream<String> usual() {
            return Arrays.stream(usual.split("\\|"));
        }

        /** The title without what of the thing stands in the column. */
        String thing() {
            return title.replaceFirst(",.*", "");
        }

        public String title() {
            return title;
        }

        /** Whether a table cannot do without. */
        public boolean required() {
            return required;
        }
    }

    /** Which columns the fields are probably in, by how columns are usually called. */
    public Map<Field, String> guess(List<String> columns) {
        return fields().stream()
                .flatMap(field -> field
                        .usual()
                        .flatMap(name ->
                                columns.stream().filter(column -> plain(column).equals(name)))
                        .findFirst()
                        .map(column -> Map.entry(field, column))
                        .stream())
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
    }

    private static String plain(String column) {
        return column.toLowerCase(Locale.ROOT)
                .replaceAll("[^\\p{L}\\p{N}]+", " ")
                .strip();
    }
}
