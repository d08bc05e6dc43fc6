package yoru.formats.matching;

import java.io.IOException;
import java.io.StringReader;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.apache.commons.csv.CSVFormat;
import tools.jackson.databind.json.JsonMapper;
import yoru.formats.UnreadableException;

/**
 * The rows of a CSV file ({@link RowReader}), each as a report of its own: an object with the columns as names.
 *
 * @param columns the heading
 */
public record Rows(List<String> columns, List<Row> rows) {

    public static final int MOST = 100_000;
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
        try (var reader = new RowReader(new StringReader(text))) {
            List<Row> rows = new ArrayList<>();
            reader.forEachRemaining(rows::add);
            return new Rows(reader.columns(), rows);
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
}
