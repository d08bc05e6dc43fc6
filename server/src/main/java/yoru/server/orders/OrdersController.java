package yoru.server.orders;

import java.math.BigDecimal;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.ledger.Channel;
import yoru.core.orders.OrderAccount.LineSums;
import yoru.core.orders.PaidState;
import yoru.core.rulebook.Rulebook;
import yoru.formats.OrdersCsv;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.SearchWords;
import yoru.server.rulebooks.Rulebooks;

/** Orders: the list, and one of them whole. */
@RestController
class OrdersController {

    private static final int PAGE = 50;
    private static final int MOST_ROWS = 200_000;
    private static final Instant LONG_AGO = Instant.parse("0001-01-01T00:00:00Z");
    private static final Instant LONG_HENCE = Instant.parse("9999-12-31T00:00:00Z");

    private final OrderTable orders;
    private final OrderPage page;
    private final Rulebooks rulebooks;
    private final SchoolSettings settings;
    private final Clock clock;

    OrdersController(OrderTable orders, OrderPage page, Rulebooks rulebooks, SchoolSettings settings, Clock clock) {
        this.orders = orders;
        this.page = page;
        this.rulebooks = rulebooks;
        this.settings = settings;
        this.clock = clock;
    }

    /** How the list is sorted. */
    enum Sort {
        NEWEST,
        TOTAL,
        NAME,
        DUE
    }

    /** What the list is about. */
    enum Show {
        ALL,
        PAYMENT,
        OVERDUE,
        FULFIL,
        CLAIM
    }

    /**
     * Which orders.
     *
     * @param at the as-of time, none = now
     * @param from the first day, as the school counts days
     * @param to the last day
     */
    record Filter(
            @Nullable String q,
            @Nullable Instant at,
            @Nullable Show show,
            @Nullable Long person,
            @Nullable String product,
            @Nullable Channel channel,
            @Nullable LocalDate from,
            @Nullable LocalDate to) {

        String toDo() {
            return switch (Objects.requireNonNullElse(show, Show.ALL)) {
                case ALL, OVERDUE -> "";
                case PAYMENT -> ToDo.PAYMENT.name();
                case FULFIL -> ToDo.FULFIL.name();
                case CLAIM -> ToDo.CLAIM.name();
            };
        }

        boolean overdue() {
            return show == Show.OVERDUE;
        }
    }

    /** @param sums one for each currency */
    record OrderList(int total, int pageSize, List<OrderSum> sums, List<ListedOrder> orders) {}

    /**
     * What orders in one currency come to: total = paid + owed + waived.
     *
     * @param givenBack of what was paid
     * @param waived what was never paid and need not be any more, as where an order was cancelled
     */
    record OrderSum(
            String currency,
            int orders,
            BigDecimal total,
            BigDecimal paid,
            BigDecimal givenBack,
            BigDecimal owed,
            BigDecimal waived) {}

    /**
     * An order in the list.
     *
     * @param products what they are called, with how many where it is more than one
     * @param toDo what is left to do about it now, whatever the as-of time
     * @param overdue whether a payment is late at the as-of time
     */
    record ListedOrder(
            String id,
            long person,
            String name,
            String key,
            Channel channel,
            Instant placedAt,
            List<String> products,
            String currency,
            BigDecimal total,
            BigDecimal paid,
            BigDecimal givenBack,
            BigDecimal owed,
            PaidState state,
            boolean opened,
            boolean cancelled,
            boolean overdue,
            @Nullable String invoice,
            List<ToDo> toDo) {}

    @GetMapping("/api/orders")
    @Transactional(readOnly = true)
    public OrderList list(
            @ParameterObject Filter filter,
            @RequestParam(defaultValue = "NEWEST") Sort sort,
            @RequestParam(defaultValue = "0") int page) {
        orders.planForItself();
        var sums = sums(filter);
        return new OrderList(
                sums.stream().mapToInt(OrderSum::orders).sum(),
                PAGE,
                sums,
                rows(filter, sort, PAGE, Math.clamp(page, 0, 1_000_000) * PAGE));
    }

    /** The filtered orders as CSV (RFC 4180), times in UTC. */
    @GetMapping(path = "/api/orders.csv", produces = "text/csv")
    @Transactional(readOnly = true)
    public ResponseEntity<String> csv(
            @ParameterObject Filter filter, @RequestParam(defaultValue = "NEWEST") Sort sort) {
        var rows = rows(filter, sort, MOST_ROWS, 0).stream()
                .map(row -> new OrdersCsv.Row(
                        row.id,
                        row.key,
                        row.name,
                        row.channel.name().toLowerCase(Locale.ROOT),
                        row.placedAt,
                        String.join("; ", row.products),
                        row.currency,
                        row.total,
                        row.paid,
                        row.givenBack,
                        row.owed,
                        row.state.name().toLowerCase(Locale.ROOT).replace('_', '-'),
                        Objects.requireNonNullElse(row.invoice, "")))
                .toList();
        return ResponseEntity.ok()
                .contentType(MediaType.parseMediaType("text/csv;charset=UTF-8"))
                .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"orders.csv\"")
                .body(OrdersCsv.write(rows));
    }

    /** @param at the as-of time, none = now */
    @GetMapping("/api/orders/{id}")
    OrderPage.OrderShown order(@PathVariable String id, @RequestParam(required = false) @Nullable Instant at) {
        return page.of(id, at).orElseThrow(() -> ProblemException.notFound("No order " + id + "."));
    }

    private List<OrderSum> sums(Filter filter) {
        return orders
                .sums(
                        at(filter),
                        SearchWords.anywhere(filter.q),
                        Objects.requireNonNullElse(filter.person, 0L),
                        Objects.requireNonNullElse(filter.product, ""),
                        filter.channel == null ? "" : filter.channel.name(),
                        filter.toDo(),
                        filter.overdue(),
                        since(filter),
                        before(filter))
                .stream()
                .map(sum -> new OrderSum(
                        sum.getCurrency(),
                        sum.getOrders(),
                        sum.getTotal(),
                        sum.getPaid(),
                        sum.getGivenBack(),
                        sum.getOwed(),
                        new LineSums(sum.getTotal(), sum.getPaid(), sum.getGivenBack(), sum.getOwed()).waived()))
                .toList();
    }

    private List<ListedOrder> rows(Filter filter, Sort sort, int size, int skip) {
        var at = at(filter);
        var rulebook = rulebooks.current().rulebook();
        return orders
                .page(
                        at,
                        SearchWords.anywhere(filter.q),
                        Objects.requireNonNullElse(filter.person, 0L),
                        Objects.requireNonNullElse(filter.product, ""),
                        filter.channel == null ? "" : filter.channel.name(),
                        filter.toDo(),
                        filter.overdue(),
                        since(filter),
                        before(filter),
                        sort.name().toLowerCase(Locale.ROOT),
                        size,
                        skip)
                .stream()
                .map(row -> new ListedOrder(
                        row.getId(),
                        row.getPersonId(),
                        row.getName(),
                        row.getPersonKey(),
                        Channel.valueOf(row.getChannel()),
                        row.getPlacedAt(),
                        products(row, rulebook),
                        row.getCurrency(),
                        row.getTotal(),
                        row.getPaid(),
                        row.getGivenBack(),
                        row.getOwed(),
                        PaidState.of(row.getTotal(), row.getPaid(), row.getGivenBack(), row.getOwed()),
                        isBy(row.getOpenedAt(), at),
                        isBy(row.getCancelledAt(), at),
                        isBy(row.getOverdueAt(), at),
                        row.getInvoice(),
                        Arrays.stream(row.getToDo()).map(ToDo::valueOf).collect(Collectors.toList())))
                .toList();
    }

    /** "First Hive × 2". */
    private static List<String> products(OrderTable.Row row, Rulebook rulebook) {
        var ids = row.getProducts();
        var quantities = row.getQuantities();
        return IntStream.range(0, ids.length)
                .mapToObj(at -> rulebook.titleOfProduct(ids[at])
                        + (at < quantities.length && quantities[at] > 1 ? " × " + quantities[at] : ""))
                .toList();
    }

    private static boolean isBy(@Nullable Instant moment, Instant at) {
        return moment != null && !moment.isAfter(at);
    }

    private Instant at(Filter filter) {
        return Objects.requireNonNullElseGet(filter.at, clock::instant);
    }

    private Instant since(Filter filter) {
        return filter.from == null
                ? LONG_AGO
                : filter.from.atStartOfDay(settings.zone()).toInstant();
    }

    private Instant before(Filter filter) {
        return filter.to == null
                ? LONG_HENCE
                : filter.to.plusDays(1).atStartOfDay(settings.zone()).toInstant();
    }
}
