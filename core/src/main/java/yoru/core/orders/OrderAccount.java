package yoru.core.orders;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.IntStream;
import yoru.core.access.Engine;
import yoru.core.access.LineMoney;
import yoru.core.access.Purchase;
import yoru.core.access.Window;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening.InstalmentPaid;
import yoru.core.ledger.Happening.OrderInvoiced;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Quantity;

/**
 * What was paid for an order, given back and is still owed. The engine looks at shares of what a line costs, whether or not
 * the money has come; the books count only money that has.
 *
 * <p>Amounts are in the order's currency.
 */
public final class OrderAccount {

    private final Order order;
    private final Engine engine;
    private final Purchase purchase;
    private final List<Movement> movements = new ArrayList<>();
    private final Map<String, LineSums> byLine = new HashMap<>();

    public OrderAccount(Order order, Engine engine) {
        this.order = order;
        this.engine = engine;
        this.purchase = engine.purchase(order);
        for (OrderLine line : order.details().lines()) {
            purchase.money(line.line()).ifPresent(money -> follow(line, money));
        }
        movements.sort(
                Comparator.comparing(Movement::at).thenComparing(it -> it.by().id()));
    }

    /**
     * The sums of one line, or of all.
     *
     * @param owed what should still come; nothing once the order is cancelled
     */
    public record LineSums(BigDecimal amount, BigDecimal paid, BigDecimal givenBack, BigDecimal owed) {

        static final LineSums NONE = new LineSums(BigDecimal.ZERO, BigDecimal.ZERO, BigDecimal.ZERO, BigDecimal.ZERO);

        LineSums plus(LineSums other) {
            return new LineSums(
                    amount.add(other.amount),
                    paid.add(other.paid),
                    givenBack.add(other.givenBack),
                    owed.add(other.owed));
        }

        /** What did not come and need not any more. */
        public BigDecimal waived() {
            return amount.subtract(paid).subtract(owed);
        }
    }

    public Order order() {
        return order;
    }

    /** In the order of time. */
    public List<Movement> movements() {
        return List.copyOf(movements);
    }

    public LineSums sums(String line) {
        return byLine.getOrDefault(line, LineSums.NONE);
    }

    /** Of the whole order. */
    public LineSums sums() {
        return byLine.values().stream().reduce(LineSums.NONE, LineSums::plus);
    }

    public PaidState state() {
        var sums = sums();
        return PaidState.of(sums.amount, sums.paid, sums.givenBack, sums.owed);
    }

    /**
     * When the first payment that is still missing is overdue: the day after the one by which the order is to be paid, as
     * its last invoice or else the order says, or when an instalment is due.
     */
    public Optional<Instant> overdueAt() {
        if (sums().owed.signum() == 0) {
            return Optional.empty();
        }
        var dues = order.details().lines().stream()
                .flatMap(line -> dues(line).stream())
                .filter(due -> due.paid().isEmpty())
                .map(Due::at);
        return order.paid().isPresent()
                ? dues.min(Comparator.naturalOrder())
                : payBy().map(day -> engine.calendar().at(day.plusDays(1).atStartOfDay()));
    }

    /** By when it is to be paid, as its last invoice or else the order says. */
    public Optional<LocalDate> payBy() {
        return invoice()
                .map(OrderInvoiced::payBy)
                .or(() -> Optional.ofNullable(order.details().payBy()));
    }

    /** The last invoice that was sent. */
    public Optional<OrderInvoiced> invoice() {
        return order.invoices().stream()
                .map(Fact::happening)
                .filter(OrderInvoiced.class::isInstance)
                .map(OrderInvoiced.class::cast)
                .reduce((first, later) -> later);
    }

    /** How many seats and gifts nobody has taken up, of an order that still stands. */
    public int unclaimed() {
        return order.details().lines().stream().mapToInt(this::countFree).sum();
    }

    /** The first seats and gifts of a line that somebody else can still take up, {@link OrderLine#MOST_OF_ONE} at most. */
    public List<Order.Seat> free(OrderLine line) {
        return isTakenBack(line)
                ? List.of()
                : seats(line).stream()
                        .filter(seat -> !order.claims().containsKey(seat))
                        .toList();
    }

    /** How many they are, counted without looking at each: an order can name any number of seats. */
    private int countFree(OrderLine line) {
        var product = engine.index().product(line.product()).orElse(null);
        if (product == null || isTakenBack(line)) {
            return 0;
        }
        long taken = order.claims().keySet().stream()
                .filter(seat -> seat.line().equals(line.line()))
                .filter(seat -> Purchase.canBeClaimed(line, product, seat.number()))
                .count();
        return (int) (countClaimable(line, product) - taken);
    }

    private static int countClaimable(OrderLine line, Product product) {
        return Math.max(0, Purchase.seats(line, product) - Purchase.firstToClaim(line) + 1);
    }

    private boolean isTakenBack(OrderLine line) {
        return order.cancelled().isPresent() || isGivenBack(line);
    }

    /** How many places its buyer can give to others; those of lines that name whom they are for are sent by themselves. */
    public int givable() {
        return order.details().lines().stream()
                .filter(line -> line.giftTo().isEmpty())
                .mapToInt(this::countFree)
                .sum();
    }

    /**
     * How many of a line are paid for beyond the one that opens, where a quantity means no more than one: what is given
     * back of its money is no longer.
     *
     * @param isThing whether a product is a thing that is sent by post: each of them is sent
     */
    public int surplus(OrderLine line, Predicate<String> isThing) {
        var sums = sums(line.line());
        boolean counts = engine.index().product(line.product()).stream()
                .anyMatch(product -> product.quantity() == Quantity.ONCE);
        if (!counts
                || isThing.test(line.product())
                || order.cancelled().isPresent()
                || sums.paid().compareTo(sums.givenBack()) <= 0) {
            return 0;
        }
        int back = sums.givenBack()
                .multiply(BigDecimal.valueOf(line.quantity()))
                .divide(line.amount(), 2, RoundingMode.HALF_UP) // a third of 100.00 is given back as 33.33
                .intValue();
        return Math.max(0, line.quantity() - 1 - back);
    }

    /** When the first of its lines opened, or began what is paid again and again; nothing where none has. */
    public Optional<Instant> openedAt() {
        return order.details().lines().stream()
                .flatMap(line -> engine.index().product(line.product()).stream())
                .flatMap(product -> purchase.openedAt(product).stream())
                .min(Comparator.naturalOrder());
    }

    /** The payments of a line after its first one; nothing where it is paid at once or has not begun. */
    public List<Due> dues(OrderLine line) {
        var product = engine.index().product(line.product()).orElse(null);
        if (product == null || line.amount().signum() == 0) {
            return List.of();
        }
        return product.billing() instanceof Billing.Instalments plan
                ? purchase.openedAt(product)
                        .map(anchor -> dues(line, plan, anchor))
                        .orElse(List.of())
                : List.of();
    }

    private List<Due> dues(OrderLine line, Billing.Instalments plan, Instant anchor) {
        var money = purchase.money(line.line()).orElseThrow();
        var dues = new ArrayList<Due>();
        for (int number = 2; number <= plan.count(); number++) {
            var at = engine.calendar().plus(anchor, plan.every(), number - 1);
            dues.add(new Due(
                    line.line(),
                    number,
                    money.paidAfter(number).subtract(money.paidAfter(number - 1)),
                    at,
                    engine.calendar().plus(at, plan.grace()),
                    money.paymentOf(number).orElse(null)));
        }
        return dues;
    }

    /** The first seats and gifts of a line that somebody else can take, by number, {@link OrderLine#MOST_OF_ONE} at most. */
    public List<Order.Seat> seats(OrderLine line) {
        return engine.index().product(line.product()).stream()
                .flatMap(product -> IntStream.iterate(Purchase.firstToClaim(line), number -> number + 1)
                        .limit(Math.min(countClaimable(line, product), OrderLine.MOST_OF_ONE))
                        .mapToObj(number -> new Order.Seat(line.line(), number)))
                .toList();
    }

    /** Whether somebody else can still take up a seat. */
    public boolean isFree(OrderLine line, Order.Seat seat) {
        return has(line, seat) && !isTakenBack(line) && !order.claims().containsKey(seat);
    }

    /** Whether a line has a seat that somebody else can take, or could. */
    public boolean has(OrderLine line, Order.Seat seat) {
        return seat.line().equals(line.line())
                && engine.index().product(line.product()).stream()
                        .anyMatch(product -> Purchase.canBeClaimed(line, product, seat.number()));
    }

    /**
     * Whether something is left to be handed over: a thing to post, or a line that opens only then.
     *
     * @param isThing whether a product is a thing that is sent by post
     */
    public boolean isToFulfil(Predicate<String> isThing) {
        return order.fulfilled().isEmpty()
                && order.cancelled().isEmpty()
                && order.details().lines().stream()
                        .filter(line -> !isGivenBack(line))
                        .map(OrderLine::product)
                        .anyMatch(product -> isThing.test(product) || opensWhenFulfilled(product));
    }

    private boolean isGivenBack(OrderLine line) {
        return purchase.money(line.line())
                .flatMap(money -> money.reached(BigDecimal.ONE))
                .isPresent();
    }

    private boolean opensWhenFulfilled(String product) {
        return engine.index()
                .product(product)
                .filter(known -> engine.index().rulebook().opensOn(known) == OpensOn.FULFILLED)
                .isPresent();
    }

    /** Follows one line's money through time. */
    private void follow(OrderLine line, LineMoney money) {
        var refunds = refunds(money);
        var book = new LineBook(line);
        int payments = 1;
        for (Fact fact : inTime()) {
            if (order.paid().filter(fact::equals).isPresent()) {
                book.pay(fact, money.paidAfter(1));
            } else if (fact.happening() instanceof InstalmentPaid it
                    && it.line().equals(line.line())
                    && money.paymentOf(it.number()).filter(fact::equals).isPresent()) {
                book.pay(fact, money.paidAfter(payments + 1).subtract(money.paidAfter(payments)));
                payments++;
            } else if (refunds.containsKey(fact)) {
                book.giveBack(fact, refunds.get(fact));
            }
            if (money.reached(BigDecimal.ONE).filter(fact::equals).isPresent()
                    || order.cancelled().filter(fact::equals).isPresent()) {
                book.waive(fact, book.owed());
            }
        }
        byLine.put(line.line(), new LineSums(line.amount(), book.paid, book.givenBack, book.owed()));
    }

    private static Map<Fact, BigDecimal> refunds(LineMoney money) {
        var refunds = new HashMap<Fact, BigDecimal>();
        var before = BigDecimal.ZERO;
        for (LineMoney.Step step : money.steps()) {
            refunds.merge(step.refund(), step.refunded().subtract(before), BigDecimal::add);
            before = step.refunded();
        }
        return refunds;
    }

    /** What has come of one line so far; paid and waived never come to more than its amount. */
    private final class LineBook {

        private final OrderLine line;
        private BigDecimal paid = BigDecimal.ZERO;
        private BigDecimal givenBack = BigDecimal.ZERO;
        private BigDecimal waived = BigDecimal.ZERO;

        LineBook(OrderLine line) {
            this.line = line;
        }

        BigDecimal owed() {
            return line.amount().subtract(paid).subtract(waived);
        }

        /** A payment that comes although it need not takes back that it need not. */
        void pay(Fact by, BigDecimal amount) {
            var unasked = amount.subtract(owed()).max(BigDecimal.ZERO);
            waive(by, unasked.negate());
            paid = paid.add(amount);
            write(by, Movement.Kind.PAID, amount);
        }

        /** What had not come cannot be given back: it need not come any more. */
        void giveBack(Fact by, BigDecimal amount) {
            var back = amount.min(paid.subtract(givenBack));
            givenBack = givenBack.add(back);
            write(by, Movement.Kind.GIVEN_BACK, back);
            waive(by, amount.subtract(back).min(owed()));
        }

        void waive(Fact by, BigDecimal amount) {
            waived = waived.add(amount);
            write(by, Movement.Kind.WAIVED, amount);
        }

        private void write(Fact by, Movement.Kind kind, BigDecimal amount) {
            if (amount.signum() != 0) {
                var at = Window.later(by.time(), order.placed().time());
                movements.add(new Movement(at, by, line.line(), kind, amount));
            }
        }
    }

    private List<Fact> inTime() {
        var facts = new ArrayList<>(order.money());
        order.paid().ifPresent(facts::add);
        order.cancelled().ifPresent(facts::add);
        facts.sort(Fact.FOLDING_ORDER);
        return facts;
    }
}
