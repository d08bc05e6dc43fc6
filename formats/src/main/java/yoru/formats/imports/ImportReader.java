package yoru.formats.imports;

import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Currency;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.ledger.EmailAddress;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.School;
import yoru.formats.FactReader;
import yoru.formats.UnreadableException;
import yoru.formats.imports.ImportEntry.ImportedFact;
import yoru.formats.imports.ImportKind.Field;
import yoru.formats.matching.Amounts;
import yoru.formats.matching.Rows;

/**
 * Reads a table as facts. The same row gives the same fact with the same id whenever it is read, so that a table read twice
 * changes nothing the second time.
 */
public final class ImportReader {

    private static final JsonNodeFactory JSON = JsonNodeFactory.instance;

    private final ImportKind kind;
    private final ImportMatching matching;
    private final School school;
    private final IdOrTitle products;
    private final IdOrTitle levels;
    private final IdOrTitle courses;
    private final Instant now;

    /**
     * @param rulebook says which products, levels and courses there are, the zone and the currency
     * @param now what is said to have happened after it is a fault
     */
    public ImportReader(ImportKind kind, ImportMatching matching, Rulebook rulebook, Instant now) {
        this.kind = kind;
        this.matching = matching;
        this.school = rulebook.school();
        this.products = new IdOrTitle(rulebook.products(), Product::id, Product::title);
        this.levels = new IdOrTitle(rulebook.levels(), Level::id, Level::title);
        this.courses = new IdOrTitle(rulebook.courses(), Course::id, Course::title);
        this.now = now;
    }

    /** Fields that no column is matched with and that the table cannot do without, or whose column it does not have. */
    public List<Field> missing(List<String> columns) {
        return kind.fields().stream()
                .filter(field -> {
                    var column = matching.columns().get(field);
                    return column == null ? field.required() : !columns.contains(column);
                })
                .toList();
    }

    /** The entries in the order of their first rows; nothing must be {@link #missing}. */
    public List<ImportEntry> read(Rows rows) {
        Map<String, List<Cells>> together = new LinkedHashMap<>();
        for (Rows.Row row : rows.rows()) {
            var cells = new Cells(row, rows.columns());
            var key = kind == ImportKind.ORDERS && row.fits() ? cells.text(Field.ORDER) : "";
            together.computeIfAbsent(key.isEmpty() ? "row " + row.number() : "order " + key, it -> new ArrayList<>())
                    .add(cells);
        }
        return together.values().stream().map(some -> new Entry(some).read()).toList();
    }

    /** One row by its fields. */
    private final class Cells {

        private final Rows.Row row;
        private final List<String> columns;

        Cells(Rows.Row row, List<String> columns) {
            this.row = row;
            this.columns = columns;
        }

        /** Empty where there is none. */
        String text(Field field) {
            var column = matching.columns().get(field);
            int at = column == null ? -1 : columns.indexOf(column);
            return at < 0 || at >= row.cells().size() ? "" : row.cells().get(at).strip();
        }
    }

    static boolean hasOffset(String text) {
        return text.endsWith("Z") || text.matches(".*T.*[+-]\\d{2}:?\\d{2}$");
    }

    /** How a table says in a word what became of an order. */
    private enum Status {
        PAID("paid|complete|completed|fulfilled|shipped|processing|succeeded|success|closed|done"),
        UNPAID("unpaid|pending|open|due|on hold|awaiting payment|pending payment|draft|new"),
        CANCELLED("cancelled|canceled|failed|void|voided|expired"),
        REFUNDED("refunded|refund|given back|returned");

        private final String words;

        Status(String words) {
            this.words = "|" + words + "|";
        }

        static Optional<Status> of(String said) {
            var plain =
                    said.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}]+", " ").strip();
            return Stream.of(values())
                    .filter(status -> status.words.contains("|" + plain + "|"))
                    .findFirst();
        }
    }

    /** Rows that belong together, being read. */
    private final class Entry {

        private final List<Cells> rows;
        private final Cells first;
        private final List<String> faults = new ArrayList<>();
        private final List<String> remarks = new ArrayList<>();
        private final List<JsonNode> events = new ArrayList<>();

        Entry(List<Cells> rows) {
            this.rows = rows;
            this.first = rows.getFirst();
        }

        ImportEntry read() {
            var person = "";
            if (rows.stream().allMatch(cells -> cells.row.fits())) {
                person = person();
                switch (kind) {
                    case PEOPLE -> {}
                    case ORDERS -> order(person);
                    case MEMBERSHIPS -> membership(person);
                    case ENROLMENTS -> enrolment(person);
                }
            } else {
                fault(first, "does not have a cell under each column");
            }
            var facts = faults.isEmpty()
                    ? events.stream().flatMap(event -> fact(event).stream()).toList()
                    : List.<ImportedFact>of();
            return new ImportEntry(
                    rows.stream().map(cells -> cells.row.number()).toList(),
                    person,
                    first.text(Field.NAME),
                    faults.isEmpty() ? facts : List.of(),
                    faults,
                    remarks);
        }

        private void fault(Cells cells, String problem) {
            var said = rows.size() == 1 ? problem : "row " + cells.row.number() + ": " + problem;
            if (!faults.contains(said)) {
                faults.add(said);
            }
        }

        /** Whatever is wrong with it is a fault. */
        private Optional<ImportedFact> fact(JsonNode event) {
            try {
                // what a file brings is long past: nothing follows it up
                if (event.path("data") instanceof ObjectNode data) {
                    data.put("past", true);
                }
                return Optional.of(new ImportedFact(FactReader.readNew(event), event));
            } catch (UnreadableException e) {
                e.faults().forEach(fault -> faults.add(fault.field().replace("data.", "") + " " + fault.problem()));
                return Optional.empty();
            }
        }

        private String person() {
            var address = first.text(Field.PERSON).toLowerCase(Locale.ROOT);
            if (!EmailAddress.isOne(address)) {
                fault(first, address.isEmpty() ? "has no address" : "“" + address + "” is no e-mail address");
            }
            for (Cells other : rows) {
                if (!other.text(Field.PERSON).equalsIgnoreCase(address)) {
                    fault(other, "is of the same order, and of somebody else");
                }
            }
            return address;
        }

        private void order(String person) {
            var order = required(first, Field.ORDER);
            var placed = time(first, Field.PLACED);
            if (placed.isEmpty() && first.text(Field.PLACED).isEmpty()) {
                fault(first, "does not say when it was placed");
            }
            var currency = currency();
            var lines = JSON.arrayNode();
            rows.forEach(cells -> line(lines, cells, currency));
            var at = placed.orElse(Instant.EPOCH);
            var data = JSON.objectNode()
                    .put("order", order)
                    .put("channel", "shop")
                    .put("currency", currency.getCurrencyCode());
            data.set("lines", lines);
            add("order.placed", order, person, at, data);
            var status = status();
            boolean said =
                    matching.columns().containsKey(Field.PAID) || status == Status.UNPAID || status == Status.CANCELLED;
            moment(first, Field.PAID, at, said).ifPresent(time -> add("order.paid", order, person, time, about(order)));
            moment(first, Field.CANCELLED, at, true)
                    .or(() -> Optional.of(at).filter(time -> status == Status.CANCELLED))
                    .ifPresent(time -> add("order.cancelled", order, person, time, about(order)));
            if (status == Status.REFUNDED
                    && rows.stream()
                            .allMatch(cells -> cells.text(Field.REFUNDED).isEmpty())) {
                add("order.refunded", order, person, at, about(order));
            }
            for (int line = 0; line < rows.size(); line++) {
                var number = String.valueOf(line + 1);
                moment(rows.get(line), Field.REFUNDED, at, true)
                        .ifPresent(time -> add(
                                "order.refunded",
                                order + ":" + number,
                                person,
                                time,
                                about(order).put("line", number)));
            }
        }

        /** What the table says in a word; none = it has no such column, or nothing stands there. */
        private @Nullable Status status() {
            var text = first.text(Field.STATUS);
            if (text.isEmpty()) {
                return null;
            }
            var status = Status.of(text);
            if (status.isEmpty()) {
                fault(first, "“" + text + "” (status) is not known: write paid, unpaid, cancelled or refunded");
            }
            return status.orElse(null);
        }

        private static ObjectNode about(String order) {
            return JSON.objectNode().put("order", order);
        }

        private void line(ArrayNode lines, Cells cells, Currency currency) {
            var text = cells.text(Field.PRODUCT);
            var product = named(cells, Field.PRODUCT, products);
            var amount = cells.text(Field.AMOUNT);
            var plain = Amounts.plain(amount);
            if (plain.isEmpty() || plain.get().startsWith("-")) {
                fault(cells, amount.isEmpty() ? "has no amount" : "“" + amount + "” is no amount");
            }
            if (!cells.text(Field.CURRENCY).isEmpty()
                    && !cells.text(Field.CURRENCY).equalsIgnoreCase(currency.getCurrencyCode())) {
                fault(cells, "is of the same order, and in another currency");
            }
            var line = lines.addObject()
                    .put("line", String.valueOf(lines.size()))
                    .put("product", product.orElse(text))
                    .put("amount", plain.orElse("0"));
            var option = cells.text(Field.OPTION);
            if (!option.isEmpty()) {
                line.put("option", option);
            }
            quantity(cells).ifPresent(quantity -> line.put("quantity", quantity));
            if (product.isEmpty() && !text.isEmpty()) {
                var said = "nobody knows the product " + text + ": it opens nothing until it is mapped";
                if (!remarks.contains(said)) {
                    remarks.add(said);
                }
            }
        }

        private Optional<Integer> quantity(Cells cells) {
            var text = cells.text(Field.QUANTITY);
            if (text.isEmpty()) {
                return Optional.empty();
            }
            try {
                return Optional.of(Integer.parseInt(text));
            } catch (NumberFormatException e) {
                fault(cells, "“" + text + "” is no whole number");
                return Optional.empty();
            }
        }

        private Currency currency() {
            var code = first.text(Field.CURRENCY);
            if (code.isEmpty()) {
                return school.currency();
            }
            try {
                return Currency.getInstance(code.toUpperCase(Locale.ROOT));
            } catch (IllegalArgumentException e) {
                fault(first, "“" + code + "” is no currency of ISO 4217");
                return school.currency();
            }
        }

        private void membership(String person) {
            var level = known(Field.LEVEL, levels);
            var from = from();
            var id = person + " " + level + " " + from;
            add("level.started", id, person, from, JSON.objectNode().put("level", level));
            until(from)
                    .ifPresent(end -> add(
                            "level.ended", id, person, end, JSON.objectNode().put("level", level)));
        }

        private void enrolment(String person) {
            var course = known(Field.COURSE, courses);
            var from = from();
            var reason = first.text(Field.REASON);
            var data = JSON.objectNode()
                    .put("grant", "import " + person + " " + course + " " + from)
                    .put("reason", reason.isEmpty() ? "brought in from a file" : reason);
            data.putArray("to").addObject().put("course", course);
            until(from).ifPresent(end -> data.put("until", end.toString()));
            add("grant.given", person + " " + course + " " + from, person, from, data);
        }

        private Instant from() {
            var from = time(first, Field.FROM);
            if (from.isEmpty() && first.text(Field.FROM).isEmpty()) {
                fault(first, "does not say from when");
            }
            return from.orElse(Instant.EPOCH);
        }

        private Optional<Instant> until(Instant from) {
            var until = when(first, Field.UNTIL);
            until.filter(end -> end.isBefore(from)).ifPresent(end -> fault(first, "ends before it begins"));
            return until;
        }

        private void add(String type, String id, String person, Instant time, ObjectNode data) {
            if (!first.text(Field.NAME).isEmpty()) {
                data.put("name", first.text(Field.NAME));
            }
            var event = JSON.objectNode()
                    .put("specversion", "1.0")
                    .put("id", id + ":" + type)
                    .put("source", "/imports/" + kind.name().toLowerCase(Locale.ROOT))
                    .put("type", "yoru." + type)
                    .put("subject", person)
                    .put("time", time.toString())
                    .put("datacontenttype", "application/json");
            event.set("data", data);
            events.add(event);
        }

        private String required(Cells cells, Field field) {
            var text = cells.text(field);
            if (text.isEmpty()) {
                fault(cells, "has no " + field.thing());
            }
            return text;
        }

        /** The id of what is named, as far as anything is called that. */
        private Optional<String> named(Cells cells, Field field, IdOrTitle things) {
            var meant = things.meant(required(cells, field));
            if (meant.size() > 1) {
                fault(
                        cells,
                        "more than one %s is called “%s”: write the id (%s)"
                                .formatted(field.thing(), cells.text(field), String.join(", ", meant)));
            }
            return meant.stream().findFirst();
        }

        /** The id of what is named; that nothing is called that is a fault. */
        private String known(Field field, IdOrTitle things) {
            return named(first, field, things).orElseGet(() -> {
                if (!first.text(field).isEmpty()) {
                    fault(first, "there is no %s %s".formatted(field.thing(), first.text(field)));
                }
                return "";
            });
        }

        /**
         * When something happened that a day, yes or no stands for; yes = when it was placed.
         *
         * @param said whether the table says it at all; otherwise it is taken to be so
         */
        private Optional<Instant> moment(Cells cells, Field field, Instant placed, boolean said) {
            return switch (cells.text(field).toLowerCase(Locale.ROOT)) {
                case "yes", "true", "1" -> Optional.of(placed);
                case "no", "false", "0" -> Optional.empty();
                case "" -> said ? Optional.empty() : Optional.of(placed);
                default -> time(cells, field).map(time -> time.isBefore(placed) ? placed : time);
            };
        }

        /** When something happened, which is not to come. */
        private Optional<Instant> time(Cells cells, Field field) {
            var time = when(cells, field);
            time.filter(it -> it.isAfter(now))
                    .ifPresent(it -> fault(
                            cells,
                            "“" + cells.text(field) + "” (" + field.title()
                                    + ") is still to come: a table of the past says what was"));
            return time;
        }

        private Optional<Instant> when(Cells cells, Field field) {
            var text = cells.text(field);
            if (text.isEmpty()) {
                return Optional.empty();
            }
            try {
                return Optional.of(instant(text));
            } catch (DateTimeException e) {
                fault(cells, "“" + text + "” (" + field.title() + ") is no day written as chosen");
                return Optional.empty();
            }
        }

        /** A day alone begins at its midnight in the school's zone; a time without an offset is there, too. */
        private Instant instant(String text) {
            if (hasOffset(text)) {
                return OffsetDateTime.parse(text).toInstant();
            }
            var parts = text.split("[T ]+", 2);
            var day = matching.dates().day(text);
            var time = parts.length == 1 ? LocalTime.MIN : LocalTime.parse(parts[1]);
            return day.atTime(time).atZone(school.zone()).toInstant();
        }
    }
}
