package yoru.formats;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Sort;
import yoru.formats.matching.Rows;

/** Products, options, courses, sections, levels and other things of a rulebook as rows (docs/formats/catalogue.md). */
public final class CatalogueCsv {

    private static final Map<String, Column> COLUMNS = columns();
    private static final Map<Sort, DocumentSchema> SCHEMAS = schemas();

    /** {@code levels[3].rank}. */
    private static final Pattern PLACE = Pattern.compile("(\\w+)\\[(\\d+)](.*)", Pattern.DOTALL);

    private CatalogueCsv() {}

    /** What becomes of a row. */
    public enum Change {
        NEW,
        CHANGED,
        SAME,
        FAULTY
    }

    /**
     * A row and its fate.
     *
     * @param number as a text editor counts rows, the heading being the first
     * @param why it is faulty; otherwise empty
     */
    public record Row(long number, String thing, String title, Change fate, String why) {}

    /**
     * A file as it would be taken over.
     *
     * @param things what would change
     * @param toMend the faulty rows as a file, with why
     */
    public record Taken(List<Row> rows, List<ThingChange> things, String toMend) {
        public Taken {
            rows = List.copyOf(rows);
            things = List.copyOf(things);
        }
    }

    /** How a column of a row is taken from a thing, and put into it. */
    private record Column(String key, Kind kind) {
        private enum Kind {
            TEXT,
            TEXTS,
            FLAG,
            NUMBER,
            /** A part of how a product is paid for. */
            BILLING,
            BILLING_NUMBER
        }
    }

    public static String write(Rulebook rulebook) {
        var document = RulebookDocument.write(rulebook);
        var text = new StringBuilder("sort,id,parent," + String.join(",", COLUMNS.keySet()) + "\n");
        SCHEMAS.keySet()
                .forEach(sort -> document.path(sort.many()).forEach(thing -> {
                    text.append(row(sort.one(), thing, ""));
                    var part = sort == Sort.COURSE ? "section" : "option";
                    thing.path(part + "s")
                            .forEach(it ->
                                    text.append(row(part, it, thing.path("id").asString(""))));
                }));
        return text.toString();
    }

    /** @throws UnreadableException when it is no table, or one without the columns that it must have */
    public static Taken read(String csv, Rulebook now) {
        var rows = Rows.read(csv);
        check(rows.columns());
        return new Reading(rows, now).taken();
    }

    private static String row(String sort, JsonNode thing, String parent) {
        var cells = new ArrayList<String>();
        cells.add(sort);
        cells.add(thing.path("id").asString(""));
        cells.add(parent);
        COLUMNS.values().forEach(column -> cells.add(cell(column, thing)));
        return String.join(",", cells.stream().map(AccessCsv::quoted).toList()) + "\n";
    }

    private static String cell(Column column, JsonNode thing) {
        return switch (column.kind) {
            case TEXT -> thing.path(column.key).asString("");
            case TEXTS ->
                String.join(
                        ";",
                        thing.path(column.key)
                                .valueStream()
                                .map(JsonNode::asString)
                                .toList());
            case FLAG -> thing.path(column.key).asBoolean(false) ? "yes" : "";
            case NUMBER -> thing.path(column.key).asString("");
            case BILLING, BILLING_NUMBER ->
                thing.path("billing").path(column.key).asString("");
        };
    }

    private static void check(List<String> columns) {
        var faults = new ArrayList<Fault>();
        for (String needed : List.of("sort", "id")) {
            if (!columns.contains(needed)) {
                faults.add(new Fault("", "has no column " + needed));
            }
        }
        for (String column : columns) {
            if (!COLUMNS.containsKey(column) && !List.of("sort", "id", "parent").contains(column)) {
                faults.add(new Fault(
                        "",
                        "has a column `%s`%s; allowed: sort, id, parent, %s"
                                .formatted(
                                        column,
                                        Nearest.to(column, COLUMNS.keySet()),
                                        String.join(", ", COLUMNS.keySet()))));
            }
        }
        if (!faults.isEmpty()) {
            throw new UnreadableException(faults);
        }
    }

    /** Takes the rows over one after another into a document of its own. */
    private static final class Reading {

        private final Rows rows;
        private final ObjectNode before;
        private final ObjectNode document;
        private final Map<Rows.Row, Row> fates = new LinkedHashMap<>();
        private final Map<String, Rows.Row> lastOf = new LinkedHashMap<>();

        Reading(Rows rows, Rulebook now) {
            this.rows = rows;
            this.before = RulebookDocument.write(now);
            this.document = RulebookDocument.write(now);
        }

        Taken taken() {
            rows.rows().forEach(row -> fates.put(row, fate(row)));
            references();
            var left = fates.entrySet().stream()
                    .filter(it -> it.getValue().fate == Change.FAULTY)
                    .map(it -> new Rows.Left(it.getKey(), it.getValue().why))
                    .toList();
            return new Taken(List.copyOf(fates.values()), things(), rows.toMend(left));
        }

        private Row fate(Rows.Row row) {
            if (!row.fits()) {
                return faulty(
                        row,
                        "",
                        "has %d cells, the heading %d"
                                .formatted(row.cells().size(), rows.columns().size()));
            }
            var sort = cell(row, "sort").toLowerCase(Locale.ROOT);
            var id = cell(row, "id");
            boolean isPart = sort.equals("section") || sort.equals("option");
            var owner = sort.equals("section") ? "course" : sort.equals("option") ? "product" : sort;
            var ownerId = isPart ? cell(row, "parent") : id;
            var listed = Sort.named(owner).filter(SCHEMAS::containsKey);
            if (listed.isEmpty()) {
                return faulty(
                        row,
                        "",
                        "`%s` is no sort; allowed: %s, section, option"
                                .formatted(
                                        sort,
                                        SCHEMAS.keySet().stream().map(Sort::one).collect(Collectors.joining(", "))));
            }
            if (id.isEmpty() || ownerId.isEmpty()) {
                return faulty(row, "", id.isEmpty() ? "has no id" : "has no parent");
            }
            var list = document.withArray(listed.get().many());
            var known = find(list, ownerId);
            if (isPart && known.isEmpty()) {
                return faulty(row, sort + "/" + id, "there is no %s `%s`".formatted(owner, ownerId));
            }
            var whole = known.map(ObjectNode::deepCopy)
                    .orElseGet(() -> document.objectNode().put("id", ownerId));
            var thing = whole;
            boolean isNew = known.isEmpty();
            if (isPart) {
                var parts = whole.withArray(sort + "s");
                isNew = find(parts, id).isEmpty();
                thing = find(parts, id).orElseGet(() -> parts.addObject().put("id", id));
            }
            for (int at = 0; at < rows.columns().size(); at++) {
                var column = COLUMNS.get(rows.columns().get(at));
                if (column != null) {
                    put(column, thing, row.cells().get(at).strip());
                }
            }
            var path = isPart ? sort + "/" + ownerId + "/" + id : sort + "/" + id;
            var faults = Objects.requireNonNull(SCHEMAS.get(listed.get())).faults(whole);
            if (!faults.isEmpty()) {
                return faulty(row, path, words(faults.getFirst()));
            }
            boolean same = known.filter(whole::equals).isPresent();
            known.ifPresentOrElse(
                    it -> {
                        it.removeAll();
                        it.setAll(whole);
                    },
                    () -> list.add(whole));
            lastOf.put(owner + "/" + ownerId, row);
            var title = thing.path("title").asString(id);
            return new Row(row.number(), path, title, isNew ? Change.NEW : same ? Change.SAME : Change.CHANGED, "");
        }

        /** What only the whole can tell: a ladder or tier that there is none, a rank that is taken. */
        private void references() {
            var undo = new ArrayList<Runnable>(); // afterwards, for places count on what stands before them
            for (Fault fault : RulebookReferences.faults(document)) {
                var match = PLACE.matcher(fault.field());
                if (!match.matches()) {
                    continue;
                }
                var list = document.path(match.group(1));
                var id = list.path(Integer.parseInt(match.group(2))).path("id").asString("");
                SCHEMAS.keySet().stream()
                        .filter(sort -> sort.many().equals(match.group(1)))
                        .forEach(sort -> {
                            var path = sort.one() + "/" + id;
                            var row = lastOf.get(path);
                            if (row != null) {
                                fates.put(row, faulty(row, path, words(new Fault(match.group(3), fault.problem()))));
                                undo.add(() -> restore(sort.many(), id));
                            }
                        });
            }
            undo.forEach(Runnable::run);
        }

        private void restore(String list, String id) {
            var now = document.withArray(list);
            var old = find(before.withArray(list), id);
            find(now, id).ifPresent(thing -> {
                thing.removeAll();
                old.ifPresent(thing::setAll);
                if (old.isEmpty()) {
                    now.removeIf(JsonNode::isEmpty);
                }
            });
        }

        private List<ThingChange> things() {
            var things = new ArrayList<ThingChange>();
            lastOf.keySet().forEach(path -> {
                var list = Sort.named(path.substring(0, path.indexOf('/')))
                        .orElseThrow()
                        .many();
                var id = path.substring(path.indexOf('/') + 1);
                find(document.withArray(list), id)
                        .filter(thing -> !Optional.of(thing).equals(find(before.withArray(list), id)))
                        .ifPresent(thing -> things.add(new ThingChange(path, thing)));
            });
            return things;
        }

        private String cell(Rows.Row row, String column) {
            int at = rows.columns().indexOf(column);
            return at < 0 ? "" : row.cells().get(at).strip();
        }

        private static Row faulty(Rows.Row row, String thing, String why) {
            return new Row(row.number(), thing, "", Change.FAULTY, why);
        }

        private static String words(Fault fault) {
            var place = fault.field().startsWith(".") ? fault.field().substring(1) : fault.field();
            return new Fault(place, fault.problem()).toString();
        }
    }

    private static void put(Column column, ObjectNode thing, String text) {
        switch (column.kind) {
            case TEXT -> put(thing, column.key, text, (node, key) -> node.put(key, text));
            case TEXTS ->
                put(thing, column.key, text, (node, key) -> {
                    ArrayNode array = node.putArray(key);
                    for (String one : text.split(";", -1)) {
                        if (!one.isBlank()) {
                            array.add(one.strip());
                        }
                    }
                });
            case FLAG ->
                put(thing, column.key, text.equals("no") ? "" : text, (node, key) -> {
                    if (text.equals("yes")) {
                        node.put(key, true);
                    } else {
                        node.put(key, text); // refused with its place
                    }
                });
            case NUMBER -> number(thing, column.key, text);
            case BILLING -> billing(thing, column.key, text, (node, key) -> node.put(key, text));
            case BILLING_NUMBER -> billing(thing, column.key, text, (node, key) -> number(node, key, text));
        }
    }

    private static void billing(ObjectNode thing, String key, String text, BiConsumer<ObjectNode, String> put) {
        if (thing.has("billing") || !text.isEmpty()) {
            put(thing.withObject("/billing"), key, text, put);
            if (thing.get("billing").isEmpty()) {
                thing.remove("billing");
            }
        }
    }

    private static void number(ObjectNode thing, String key, String text) {
        put(thing, key, text, (node, name) -> {
            if (text.matches("-?\\d{1,9}")) {
                node.put(name, Integer.parseInt(text));
            } else {
                node.put(name, text); // refused with its place
            }
        });
    }

    /** An empty cell stands for what is the default. */
    private static void put(ObjectNode node, String key, String text, BiConsumer<ObjectNode, String> put) {
        if (text.isEmpty()) {
            node.remove(key);
        } else {
            put.accept(node, key);
        }
    }

    private static Optional<ObjectNode> find(ArrayNode list, String id) {
        for (JsonNode thing : list) {
            if (id.equals(thing.path("id").asString(""))) {
                return Optional.of((ObjectNode) thing);
            }
        }
        return Optional.empty();
    }

    private static Map<String, Column> columns() {
        Map<String, Column> columns = new LinkedHashMap<>();
        columns.put("title", new Column("title", Column.Kind.TEXT));
        columns.put("categories", new Column("categories", Column.Kind.TEXTS));
        columns.put("tier", new Column("tier", Column.Kind.TEXT));
        columns.put("premium", new Column("premium", Column.Kind.FLAG));
        columns.put("opensOn", new Column("opensOn", Column.Kind.TEXT));
        columns.put("quantity", new Column("quantity", Column.Kind.TEXT));
        columns.put("billing", new Column("kind", Column.Kind.BILLING));
        columns.put("count", new Column("count", Column.Kind.BILLING_NUMBER));
        columns.put("every", new Column("every", Column.Kind.BILLING));
        columns.put("grace", new Column("grace", Column.Kind.BILLING));
        columns.put("ladder", new Column("ladder", Column.Kind.TEXT));
        columns.put("rank", new Column("rank", Column.Kind.NUMBER));
        return columns;
    }

    /** Of what can be said in a row; named terms have more to say. */
    private static Map<Sort, DocumentSchema> schemas() {
        Map<Sort, DocumentSchema> schemas = new EnumMap<>(Sort.class);
        for (Sort sort : Sort.values()) {
            switch (sort) {
                case COURSE, PRODUCT, LEVEL -> schemas.put(sort, DocumentSchema.thing(sort.one()));
                case TAG, GROUP, AREA, DOWNLOAD, LIST -> schemas.put(sort, DocumentSchema.thing("named"));
                case TERMS -> {}
            }
        }
        return schemas;
    }
}
