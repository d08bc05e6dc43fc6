package yoru.formats;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** People as CSV to be opened in a spreadsheet: quoting of RFC 4180, lines end with LF; nothing in it is a formula. */
public final class PeopleCsv {

    static final String HEADER = "person,name,since,orders,open courses,first end\n";

    private PeopleCsv() {}

    /**
     * @param name empty = none is known
     * @param courses how many are open
     * @param firstEnd when the first of them ends
     */
    public record Row(String person, String name, Instant since, int orders, int courses, Optional<Instant> firstEnd) {}

    public static String write(List<Row> rows) {
        return rows.stream().map(PeopleCsv::line).collect(Collectors.joining("", HEADER, ""));
    }

    private static String line(Row row) {
        return Stream.of(
                        row.person,
                        row.name,
                        AccessCsv.seconds(row.since),
                        String.valueOf(row.orders),
                        String.valueOf(row.courses),
                        row.firstEnd.map(AccessCsv::seconds).orElse(""))
                .map(SheetText::cell)
                .collect(Collectors.joining(",", "", "\n"));
    }
}
