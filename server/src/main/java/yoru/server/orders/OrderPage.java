package yoru.server.orders;

import java.math.BigDecimal;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.access.Access;
import yoru.core.access.Entitlement;
import yoru.core.access.Explanation;
import yoru.core.access.State;
import yoru.core.access.WhyUnopened;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.orders.Due;
import yoru.core.orders.Movement;
import yoru.core.orders.OrderAccount;
import yoru.core.orders.PaidState;
import yoru.server.deliveries.Confirmations;
import yoru.server.deliveries.Confirmations.Confirmation;
import yoru.server.ledger.FactWords;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Register;
import yoru.server.orders.OrderStory.OrderEvent;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Catalogue;

/** What there is to say about one order at one time, computed anew. */
@Service
class OrderPage {

    private final LedgerReader ledger;
    private final Register register;
    private final Rulebooks rulebooks;
    private final Catalogue catalogue;
    private final Confirmations confirmations;
    private final List<OrderStory> stories;
    private final Clock clock;

    OrderPage(
            LedgerReader ledger,
            Register register,
            Rulebooks rulebooks,
            Catalogue catalogue,
            Confirmations confirmations,
            List<OrderStory> stories,
            Clock clock) {
        this.ledger = ledger;
        this.register = register;
        this.rulebooks = rulebooks;
        this.catalogue = catalogue;
        this.confirmations = confirmations;
        this.stories = stories;
        this.clock = clock;
    }

    /** Everything about one order as of a time. Amounts are in its currency. */
    record OrderShown(
            String id,
            Instant asOf,
            long person,
            String name,
            String key,
            Channel channel,
            String currency,
            Instant placedAt,
            BigDecimal total,
            @Nullable BigDecimal listTotal,
            BigDecimal paid,
            BigDecimal givenBack,
            BigDecimal owed,
            BigDecimal waived,
            PaidState state,
            boolean cancelled,
            boolean fulfilled,
            @Nullable LocalDate payBy,
            @Nullable String invoice,
            String reason,
            List<ToDo> toDo,
            List<ShownLine> lines,
            List<Moved> money,
            List<OrderEvent> happened) {}

    /** Money that came or went for the whole order at once. */
    record Moved(Instant at, Movement.Kind kind, BigDecimal amount) {}

    /**
     * @param surplus how many are paid for beyond the one that opens
     * @param nothing why it opens nothing, where it does not
     */
    record ShownLine(
            String line,
            String product,
            String title,
            @Nullable String option,
            int quantity,
            int surplus,
            BigDecimal amount,
            @Nullable BigDecimal listPrice,
            BigDecimal paid,
            BigDecimal givenBack,
            @Nullable String giftTo,
            List<Opens> opens,
            @Nullable String nothing,
            List<ShownSeat> seats,
            List<ShownDue> dues) {}

    /**
     * Something that a line opens for somebody.
     *
     * @param renews whether it ends only if a payment does not come
     * @param confirmation whether the systems have confirmed it, now, whatever the as-of time
     */
    record Opens(
            String target,
            String title,
            String sort,
            long person,
            String name,
            State state,
            Instant start,
            @Nullable Instant end,
            boolean renews,
            Confirmation confirmation) {}

    record ShownSeat(
            int number,
            @Nullable Long person,
            @Nullable String name,
            @Nullable Instant at) {}

    /** @param failedAt when it was last reported not to have come; none = it was not, or it came */
    record ShownDue(
            int number,
            BigDecimal amount,
            Instant due,
            Instant latest,
            @Nullable Instant paidAt,
            @Nullable Instant failedAt) {}

    @Transactional(readOnly = true)
    public Optional<OrderShown> of(String id, @Nullable Instant at) {
        var asOf = Objects.requireNonNullElseGet(at, clock::instant);
        var about = ledger.aboutOrders(List.of(id)).asOf(asOf);
        return Histories.of(about).order(id).map(order -> shown(order, asOf, about.facts()));
    }

    private OrderShown shown(Order order, Instant asOf, List<Fact> facts) {
        var now = rulebooks.current();
        var account = new OrderAccount(order, now.engine());
        var person = register.person(order.person()).orElseThrow();
        var sums = account.sums();
        var things = catalogue.thingsToPost();
        var effects = effects(order, asOf);
        var lines = order.details().lines().stream()
                .map(line -> line(line, account, effects, things))
                .toList();
        var listTotal = order.details().lines().stream()
                .map(line -> Objects.requireNonNullElse(line.listPrice(), line.amount()))
                .reduce(BigDecimal.ZERO, BigDecimal::add);
        return new OrderShown(
                order.id(),
                asOf,
                person.id(),
                person.name(),
                person.key(),
                order.details().channel(),
                order.details().currency().getCurrencyCode(),
                order.placed().time(),
                sums.amount(),
                listTotal.compareTo(sums.amount()) == 0 ? null : listTotal,
                sums.paid(),
                sums.givenBack(),
                sums.owed(),
                sums.waived(),
                account.state(),
                order.cancelled().isPresent(),
                order.fulfilled().isPresent(),
                account.payBy().orElse(null),
                account.invoice().map(it -> it.number()).orElse(null),
                order.details().reason(),
                OrderRow.toDo(account, things::contains),
                lines,
                money(account),
                happened(order, facts, asOf));
    }

    private static List<Moved> money(OrderAccount account) {
        Map<String, Moved> byFact = new LinkedHashMap<>();
        for (Movement movement : account.movements()) {
            byFact.merge(
                    movement.by().id() + " " + movement.kind(),
                    new Moved(movement.at(), movement.kind(), movement.amount()),
                    (one, other) -> new Moved(one.at, one.kind, one.amount.add(other.amount)));
        }
        return List.copyOf(byFact.values());
    }

    /** What everybody has who holds something of the order. */
    private List<Access> effects(Order order, Instant asOf) {
        var keys = new LinkedHashSet<String>();
        keys.add(order.person());
        order.claims().values().forEach(claim -> keys.add(claim.person()));
        var histories = Histories.of(ledger.concerning(keys).asOf(asOf));
        var engine = rulebooks.current().engine();
        return keys.stream()
                .flatMap(key -> engine.access(histories.person(key), asOf).stream())
                .toList();
    }

    private ShownLine line(OrderLine line, OrderAccount account, List<Access> effects, Set<String> things) {
        var rulebook = rulebooks.current().rulebook();
        var order = account.order();
        var opens = effects.stream()
                .filter(access -> access.entitlements().stream().anyMatch(it -> isOf(it, order, line)))
                .map(this::opens)
                .toList();
        return new ShownLine(
                line.line(),
                line.product(),
                rulebook.titleOfProduct(line.product()),
                line.option()
                        .map(option -> titleOfOption(line.product(), option))
                        .orElse(null),
                line.quantity(),
                account.surplus(line, things::contains),
                line.amount(),
                line.listPrice(),
                account.sums(line.line()).paid(),
                account.sums(line.line()).givenBack(),
                line.giftTo().orElse(null),
                opens,
                opens.isEmpty() ? nothing(line, order, things) : null,
                account.seats(line).stream().map(seat -> seat(seat, order)).toList(),
                account.dues(line).stream().map(due -> due(due, order)).toList());
    }

    private static boolean isOf(Entitlement entitlement, Order order, OrderLine line) {
        return entitlement
                .reason()
                .bought()
                .filter(bought -> bought.order().id().equals(order.id())
                        && bought.line().line().equals(line.line()))
                .isPresent();
    }

    private String titleOfOption(String product, String option) {
        return rulebooks.current().rulebook().product(product).stream()
                .flatMap(known -> known.options().stream())
                .filter(known -> known.id().equals(option))
                .map(known -> known.title())
                .findFirst()
                .orElse(option);
    }

    private Opens opens(Access access) {
        var person = register.person(access.person());
        return new Opens(
                access.target().path(),
                rulebooks.current().rulebook().title(access.target()),
                access.target().sort(),
                person.map(it -> it.id()).orElse(0L),
                person.map(it -> it.name()).orElse(access.person()),
                access.state(),
                access.window().start(),
                access.window().endOrNone(),
                access.renews(),
                person.map(it -> confirmations.of(it.id(), access.target())).orElse(Confirmation.WAITING));
    }

    private String nothing(OrderLine line, Order order, Set<String> things) {
        var now = rulebooks.current();
        return new Explanation(now.rulebook(), now.number())
                .unopened(new WhyUnopened(now.engine(), things::contains).of(order, line));
    }

    private ShownSeat seat(Order.Seat seat, Order order) {
        var claim = order.claims().get(seat);
        if (claim == null) {
            return new ShownSeat(seat.number(), null, null, null);
        }
        var person = register.person(claim.person());
        return new ShownSeat(
                seat.number(),
                person.map(it -> it.id()).orElse(null),
                person.map(it -> it.name()).orElse(claim.person()),
                claim.fact().time());
    }

    private static ShownDue due(Due due, Order order) {
        return new ShownDue(
                due.number(),
                due.amount(),
                due.at(),
                due.latest(),
                due.paid().map(Fact::time).orElse(null),
                due.paid().isPresent()
                        ? null
                        : order.money().stream()
                                .filter(fact -> fact.happening() instanceof Happening.InstalmentFailed it
                                        && it.line().equals(due.line())
                                        && it.number() == due.number())
                                .map(Fact::time)
                                .max(Instant::compareTo)
                                .orElse(null));
    }

    private List<OrderEvent> happened(Order order, List<Fact> facts, Instant asOf) {
        var told = stories.stream()
                .flatMap(story -> story.about(order.id()).stream())
                .filter(event -> !event.at().isAfter(asOf));
        var kept = facts.reversed().stream()
                .filter(fact -> fact.happening() instanceof Happening.OfOrder it
                        && it.order().equals(order.id()))
                .map(fact -> new OrderEvent(
                        fact.time(),
                        FactWords.title(fact),
                        FactWords.text(fact, rulebooks.current().rulebook()::titleOfProduct)));
        return Stream.concat(kept, told)
                .sorted(Comparator.comparing(OrderEvent::at).reversed())
                .toList();
    }
}
