package yoru.formats.matching;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.charset.CharacterCodingException;
import java.util.Comparator;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;

/**
 * Reads a CSV file (RFC 4180, with a heading) row by row, so that it need not be in memory as a whole. The separator is the
 * one of comma, semicolon and tab that the heading has most of.
 */
public final class RowReader implements Iterator<Rows.Row>, AutoCloseable {

    private static final int MOST_COLUMNS = 200;

    /** Of all rows together: what is made of them is in memory at once. */
    private static final int MOST_CELLS = 2_000_000;

    private static final int LONGEST_HEADING = 64 * 1024;
    private static final char BYTE_ORDER_MARK = '\uFEFF';

    private final CSVParser parser;
    private final Iterator<CSVRecord> records;
    private final List<String> columns;
    private int read;
    private int cells;

    /** @throws UnreadableException when it is no table with a heading */
    public RowReader(Reader text) {
        try {
            var buffered = new BufferedReader(text, LONGEST_HEADING);
            var format = CSVFormat.RFC4180
                    .builder()
                    .setDelimiter(separator(buffered))
                    .setIgnoreEmptyLines(true)
                    .get();
            parser = CSVParser.parse(buffered, format);
            records = parser.iterator();
            if (!hasNext()) {
                throw unreadable("has no heading");
            }
            columns = nextRecord().stream().map(String::strip).toList();
        } catch (IOException e) {
            throw inWords(e);
        }
        check(columns);
    }

    /** By the first line, which is read again as the heading; a byte order mark is not. */
    private static char separator(BufferedReader text) throws IOException {
        text.mark(1);
        if (text.read() != BYTE_ORDER_MARK) {
            text.reset();
        }
        text.mark(LONGEST_HEADING);
        var heading = new StringBuilder();
        for (int at = 0; at < LONGEST_HEADING - 1; at++) {
            int one = text.read();
            if (one < 0 || one == '\n' || one == '\r') {
                break;
            }
            heading.append((char) one);
        }
        text.reset();
        return Stream.of(',', ';', '\t')
                .max(Comparator.comparingLong(
                        it -> heading.chars().filter(at -> at == it).count()))
                .orElseThrow();
    }

    public List<String> columns() {
        return columns;
    }

    @Override
    public boolean hasNext() {
        try {
            return records.hasNext();
        } catch (UncheckedIOException e) {
            throw inWords(Objects.requireNonNull(e.getCause()));
        }
    }

    /** @throws UnreadableException where it is no row, or there are too many */
    @Override
    public Rows.Row next() {
        var record = nextRecord();
        if (++read > Rows.MOST) {
            throw unreadable("has more than %,d rows; hand it over in parts".formatted(Rows.MOST));
        }
        cells += record.size();
        if (cells > MOST_CELLS) {
            throw unreadable("has more than %,d cells; hand it over in parts".formatted(MOST_CELLS));
        }
        return new Rows.Row(read + 1L, record.toList(), record.size() == columns.size());
    }

    private CSVRecord nextRecord() {
        try {
            var record = records.next();
            // PostgreSQL cannot keep it, and it is in no text
            if (record.stream().anyMatch(cell -> cell.indexOf('\0') >= 0)) {
                throw notUtf8();
            }
            return record;
        } catch (UncheckedIOException e) {
            throw inWords(Objects.requireNonNull(e.getCause()));
        }
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

    private static UnreadableException inWords(IOException e) {
        return e instanceof CharacterCodingException ? notUtf8() : unreadable("is no CSV: " + e.getMessage());
    }

    private static UnreadableException notUtf8() {
        return unreadable("is not in UTF-8; save it as CSV UTF-8");
    }

    private static UnreadableException unreadable(String problem) {
        return new UnreadableException(List.of(new Fault("", problem)));
    }

    @Override
    public void close() {
        try {
            parser.close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
