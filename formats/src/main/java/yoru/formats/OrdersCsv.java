package yoru.formats;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Orders as CSV to be opened in a spreadsheet (RFC 4180, lines end with LF; nothing in it is a formula): one row each, times ISO 8601 in UTC, amounts in the order's currency. */
public final class OrdersCsv {

    static final String HEADER =
            "order,person,name,channel,placed,products,currency,total,paid,given back,owed,state,invoice\n";

    private OrdersCsv() {}

    /** @param state as "partly-paid" */
    public record Row(
            String order,
            String person,
            String name,
            String channel,
            Instant placed,
            String products,
            String currency,
            BigDecimal total,
            BigDecimal paid,
            BigDecimal givenBack,
            BigDecimal owed,
            String state,
            String invoice) {}

    public static String write(List<Row> rows) {
        return rows.stream().map(OrdersCsv::line).collect(Collectors.joining("", HEADER, ""));
    }

    private static String line(Row row) {
        return Stream.of(
                        row.order,
                        row.person,
                        row.name,
                        row.channel,
                        AccessCsv.seconds(row.placed),
                        row.products,
                        row.currency,
                        row.total.toPlainString(),
                        row.paid.toPlainString(),
                        row.givenBack.toPlainString(),
                        row.owed.toPlainString(),
                        row.state,
                        row.invoice)
                .map(SheetText::cell)
                .collect(Collectors.joining(",", "", "\n"));
    }
}
