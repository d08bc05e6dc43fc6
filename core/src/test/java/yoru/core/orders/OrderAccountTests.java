package yoru.core.orders;

import static org.assertj.core.api.Assertions.assertThat;
import static yoru.core.Shop.day;
import static yoru.core.Shop.line;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import yoru.core.Shop;
import yoru.core.Shrink;
import yoru.core.World;
import yoru.core.access.Engine;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.OpensOn;

/** The books of an order. */
class OrderAccountTests {

    private static final long WORLDS = 1_500;

    private final Shop shop = new Shop();
    private final List<Fact> facts = new ArrayList<>();

    private OrderAccount account() {
        var engine = new Engine(Shop.rulebook(OpensOn.PAID));
        return accounts(engine, facts, day(100)).getFirst();
    }

    private static List<OrderAccount> accounts(Engine engine, List<Fact> facts, Instant asOf) {
        var histories = Histories.of(Ledger.of(facts).asOf(asOf));
        return facts.stream()
                .flatMap(fact ->
                        fact.happening() instanceof Happening.OrderPlaced it ? Stream.of(it.order()) : Stream.empty())
                .distinct()
                .flatMap(order -> histories.order(order).stream())
                .map((Order order) -> new OrderAccount(order, engine))
                .toList();
    }

    private void placed(String... amounts) {
        var lines = new ArrayList<OrderLine>();
        for (String amount : amounts) {
            lines.add(line("" + (lines.size() + 1), "FIRST", amount));
        }
        facts.add(shop.placed("O1", "ada", day(0), lines.toArray(OrderLine[]::new)));
    }

    private void refunded(int day, @Nullable String line, @Nullable String amount) {
        var money = amount == null ? null : new BigDecimal(amount);
        facts.add(shop.fact("ada", day(day), new Happening.OrderRefunded("O1", line, money)));
    }

    private static void is(OrderAccount account, PaidState state, String paid, String givenBack, String owed) {
        assertThat(account.state()).isEqualTo(state);
        assertThat(account.sums().paid()).isEqualByComparingTo(paid);
        assertThat(account.sums().givenBack()).isEqualByComparingTo(givenBack);
        assertThat(account.sums().owed()).isEqualByComparingTo(owed);
    }

    @Test
    void onlyMoneyThatCameIsCounted() {
        placed("90.00", "180.00");
        is(account(), PaidState.UNPAID, "0", "0", "270.00");
        facts.add(shop.paid("O1", "ada", day(1)));
        is(account(), PaidState.PAID, "270.00", "0", "0");
        refunded(2, "1", null);
        is(account(), PaidState.PARTLY_REFUNDED, "270.00", "90.00", "0");
        refunded(3, null, null);
        is(account(), PaidState.REFUNDED, "270.00", "270.00", "0");
    }

    @Test
    void whatWasNotPaidIsNotGivenBackButNeedNotCome() {
        placed("90.00");
        refunded(1, null, "30.00");
        is(account(), PaidState.UNPAID, "0", "0", "60.00");
        facts.add(shop.fact("ada", day(2), new Happening.OrderCancelled("O1")));
        is(account(), PaidState.DROPPED, "0", "0", "0");
        facts.add(shop.paid("O1", "ada", day(3)));
        is(account(), PaidState.PAID, "90.00", "0", "0");
    }

    private int surplusOf(OrderLine line) {
        assertThat(account().surplus(line, thing -> true))
                .as("each thing is sent")
                .isZero();
        return account().surplus(line, thing -> false);
    }

    @Test
    void ofWhatOpensOnceTheRestIsSurplusUntilItsMoneyIsGivenBack() {
        var three = new OrderLine("1", "FIRST", null, 3, new BigDecimal("100.00"), null);
        facts.add(shop.placed("O1", "ada", day(0), three, line("2", "QUEEN", "9.00")));
        assertThat(surplusOf(three)).as("nothing came yet").isZero();
        facts.add(shop.paid("O1", "ada", day(1)));
        assertThat(surplusOf(three)).isEqualTo(2);
        assertThat(surplusOf(account().order().details().lines().getLast())).isZero();
        refunded(2, "1", "33.33");
        assertThat(surplusOf(three)).as("a third, as far as cents go").isEqualTo(1);
        refunded(3, "1", "20.00");
        assertThat(surplusOf(three)).isEqualTo(1);
        refunded(4, "1", "13.33");
        assertThat(surplusOf(three)).isZero();
    }

    @Test
    void nothingToPayIsFree() {
        placed("0.00");
        is(account(), PaidState.FREE, "0", "0", "0");
    }

    /** Whatever happens, in whatever order: the movements come to the sums, and no sum leaves its bounds. */
    @Test
    void theSumsAlwaysAgree() {
        LongStream.range(0, WORLDS)
                .mapToObj(World::of)
                .forEach(any -> Shrink.check(any, world -> {
                    var engine = new Engine(world.rulebook());
                    for (OrderAccount account : accounts(engine, world.facts(), World.END)) {
                        var sums = account.sums();
                        assertThat(of(account, Movement.Kind.PAID)).isEqualByComparingTo(sums.paid());
                        assertThat(of(account, Movement.Kind.GIVEN_BACK)).isEqualByComparingTo(sums.givenBack());
                        assertThat(sums.amount())
                                .isEqualByComparingTo(account.order().total())
                                .isEqualByComparingTo(sums.paid()
                                        .add(of(account, Movement.Kind.WAIVED))
                                        .add(sums.owed()));
                        assertThat(sums.givenBack()).isBetween(BigDecimal.ZERO, sums.paid());
                        assertThat(sums.owed()).isNotNegative();
                        assertThat(sums.paid()).isLessThanOrEqualTo(sums.amount());
                        if (account.order().cancelled().isPresent()
                                && account.order().paid().isEmpty()) {
                            assertThat(account.overdueAt()).isEmpty();
                        }
                        assertThat(account.order().details().lines().stream()
                                        .map(line -> account.sums(line.line()).owed())
                                        .reduce(BigDecimal.ZERO, BigDecimal::add))
                                .isEqualByComparingTo(sums.owed());
                    }
                }));
    }

    /** At every moment the books say what they said then. */
    @Test
    void laterFactsDoNotRewriteTheBooks() {
        LongStream.range(0, WORLDS / 5)
                .mapToObj(World::of)
                .forEach(any -> Shrink.check(any, world -> {
                    var engine = new Engine(world.rulebook());
                    var whole = accounts(engine, world.facts(), World.END);
                    for (Instant at : World.MOMENTS) {
                        for (OrderAccount then : accounts(engine, world.facts(), at)) {
                            var now = whole.stream()
                                    .filter(it ->
                                            it.order().id().equals(then.order().id()))
                                    .findFirst()
                                    .orElseThrow();
                            assertThat(now.movements().stream()
                                            .filter(it -> !it.at().isAfter(at)))
                                    .as("order %s at %s", then.order().id(), at)
                                    .isEqualTo(then.movements());
                        }
                    }
                }));
    }

    private static BigDecimal of(OrderAccount account, Movement.Kind kind) {
        return account.movements().stream()
                .filter(movement -> movement.kind() == kind)
                .map(Movement::amount)
                .reduce(BigDecimal.ZERO, BigDecimal::add);
    }
}
