package yoru.formats.matching;

import java.io.IOException;
import java.io.StringReader;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.stream.Stream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import tools.jackson.databind.json.JsonMapper;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;

/**
 * The rows of a CSV file (RFC 4180, with a heading), each as a report of its own: an object with the columns as names. The
 * separator is the one of comma, semicolon and tab that the heading has most of.
 *
 * @param columns the heading
 */
public record Rows(List<String> columns, List<Row> rows) {

    public static final int MOST = 100_000;
    private static final int MOST_COLUMNS = 200;
    private static final String BYTE_ORDER_MARK = "\uFEFF";
    private static final JsonMapper JSON = JsonMapper.builder().build();

    public Rows {
        columns = List.copyOf(columns);
        rows = List.copyOf(rows);
    }

    /**
     * One row.
     *
     * @param number as a text editor counts rows of the file, the heading being the first
     * @param fits whether it has a cell for each column
     */
    public record Row(long number, List<String> cells, boolean fits) {
        public Row {
            cells = List.copyOf(cells);
        }
    }

    /** A row that was not taken. */
    public record Left(Row row, String why) {}

    /** @throws UnreadableException when it is no table with a heading */
    public static Rows read(String text) {
        var plain = text.startsWith(BYTE_ORDER_MARK) ? text.substring(1) : text;
        var heading = plain.lines().findFirst().orElse("");
        var separator = Stream.of(',', ';', '\t')
                .max(Comparator.comparingLong(
                        it -> heading.chars().filter(at -> at == it).count()))
                .orElseThrow();
        var format = CSVFormat.RFC4180
                .builder()
                .setDelimiter(separator)
                .setIgnoreEmptyLines(true)
                .get();
        try (var parser = CSVParser.parse(new StringReader(plain), format)) {
            var records = parser.iterator();
            if (!records.hasNext()) {
                throw unreadable("has no heading");
            }
            var columns = records.next().stream().map(String::strip).toList();
            check(columns);
            List<Row> rows = new ArrayList<>();
            while (records.hasNext()) {
                CSVRecord record = records.next();
                rows.add(new Row(rows.size() + 2L, record.toList(), record.size() == columns.size()));
                if (rows.size() > MOST) {
                    throw unreadable("has more than %,d rows; hand it over in parts".formatted(MOST));
                }
            }
            return new Rows(columns, rows);
        } catch (UncheckedIOException | IOException e) {
            throw unreadable("is no CSV: " + e.getMessage());
        }
    }

    /** The row as a report. */
    public String report(Row row) {
        var object = JSON.createObjectNode();
        for (int at = 0; at < columns.size(); at++) {
            object.put(columns.get(at), row.cells.get(at));
        }
        return object.toString();
    }

    /** A file of rows to mend: as they were, and why they were not taken. */
    public String toMend(List<Left> left) {
        var text = new StringWriter();
        try (var printer = CSVFormat.RFC4180.print(text)) {
            printer.printRecord(Stream.concat(columns.stream(), Stream.of("not taken because")));
            for (Left one : left) {
                printer.printRecord(Stream.concat(one.row.cells.stream(), Stream.of(one.why)));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return text.toString();
    }

    private static void check(List<String> columns) {
        if (columns.size() > MOST_COLUMNS) {
            throw unreadable("has more than " + MOST_COLUMNS + " columns");
        }
        var seen = new HashSet<String>();
        for (String column : columns) {
            if (column.isEmpty()) {
                throw unreadable("has a column without a name");
            }
            if (!seen.add(column)) {
                throw unreadable("has two columns named " + column);
            }
        }
    }

    private static UnreadableException unreadable(String problem) {
        return new UnreadableException(List.of(new Fault("", problem)));
    }
}
