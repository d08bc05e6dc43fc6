package yoru.server.orders;

import java.time.Clock;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.node.JsonNodeFactory;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Order;
import yoru.core.orders.Movement;
import yoru.core.orders.OrderAccount;
import yoru.server.ledger.FactDue;
import yoru.server.ledger.FactKeeper;
import yoru.server.ledger.FactKept;
import yoru.server.ledger.FactsKept;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Register;
import yoru.server.platform.AtEnd;
import yoru.server.platform.Queue;
import yoru.server.rulebooks.RulebookPublished;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Catalogue;

/** Keeps the list of orders as the facts and the rulebook have it. */
@Service
public class OrderBook {

    private static final int MOST_SURPLUS = 100;

    private final OrderTable orders;
    private final LedgerReader ledger;
    private final Register register;
    private final FactKeeper keeper;
    private final Rulebooks rulebooks;
    private final Catalogue catalogue;
    private final Queue queue;
    private final Clock clock;
    private final AtEnd<String> changed = new AtEnd<>(this::refresh);

    OrderBook(
            OrderTable orders,
            LedgerReader ledger,
            Register register,
            FactKeeper keeper,
            Rulebooks rulebooks,
            Catalogue catalogue,
            Queue queue,
            Clock clock) {
        this.orders = orders;
        this.ledger = ledger;
        this.register = register;
        this.keeper = keeper;
        this.rulebooks = rulebooks;
        this.catalogue = catalogue;
        this.queue = queue;
        this.clock = clock;
    }

    /**
     * How many orders wait for somebody.
     *
     * @param overdue that should have been paid by now
     * @param unclaimed with a gift or a seat that nobody has taken up
     */
    public record Waiting(int overdue, int toFulfil, int unclaimed) {}

    @Transactional(readOnly = true)
    public Waiting waiting() {
        return new Waiting(
                orders.countOverdue(clock.instant()),
                orders.countToDo(ToDo.FULFIL.name()),
                orders.countToDo(ToDo.CLAIM.name()));
    }

    /**
     * An order of which more is paid for than opens.
     *
     * @param products their ids
     */
    public record Surplus(String order, String name, List<String> products) {}

    /** The newest of them. */
    @Transactional(readOnly = true)
    public List<Surplus> surplus() {
        return orders.surplus(MOST_SURPLUS).stream()
                .map(row -> new Surplus(row.getId(), row.getName(), List.of(row.getSurplus())))
                .toList();
    }

    /** How many people have placed an order that has not opened yet. */
    @Transactional(readOnly = true)
    public int peopleNotOpened() {
        return orders.peopleNotOpened();
    }

    /** The id of the next order by hand. */
    @Transactional
    public String nextId() {
        String id;
        do {
            id = "H" + orders.nextNumber();
        } while (ledger.knowsOrder(id));
        return id;
    }

    @EventListener
    void on(FactDue due) {
        look(due.fact());
    }

    @EventListener
    void on(FactKept kept) {
        look(kept.fact());
    }

    private void look(Fact fact) {
        switch (fact.happening()) {
            case Happening.OfOrder it -> changed.with(Set.of(it.order()));
            case Happening.PersonMerged _, Happening.PersonParted _ ->
                changed.with(ledger.ordersOf(List.of(fact.subject())));
            case Happening.OfSubscription _,
                    Happening.OfGrant _,
                    Happening.OfLevel _,
                    Happening.OfTag _,
                    Happening.OfList _,
                    Happening.OfCourse _,
                    Happening.PersonErased _,
                    Happening.AccountMade _,
                    Happening.OfFollowup _,
                    Happening.Unknown _ -> {}
        }
    }

    @EventListener
    void on(FactsKept kept) {
        refresh(kept.orders());
    }

    @EventListener
    void on(RulebookPublished published) {
        queue.now(OrderTasks.ANEW, String.valueOf(published.number()));
    }

    /** Makes the rows of some orders anew, while nobody keeps facts about them. */
    @Transactional
    public void lookAgain(List<String> ids) {
        keeper.holdBack(ids.stream().map(id -> "order " + id).toList());
        refresh(ids);
    }

    private void refresh(Collection<String> ids) {
        if (ids.isEmpty()) {
            return;
        }
        var engine = rulebooks.current().engine();
        var known = Histories.of(ledger.aboutOrders(ids));
        var things = catalogue.thingsToPost();
        var all =
                ids.stream().distinct().flatMap(id -> known.order(id).stream()).toList();
        var people = register.people(all.stream().map(Order::person).collect(Collectors.toSet()));
        var rows = JsonNodeFactory.instance.arrayNode();
        var movements = JsonNodeFactory.instance.arrayNode();
        for (Order order : all) {
            var account = new OrderAccount(order, engine);
            var person = Optional.ofNullable(people.get(order.person())).orElseGet(() -> register.know(order.person()));
            rows.add(OrderRow.of(account, person.id(), things::contains));
            for (Movement movement : account.movements()) {
                movements
                        .addObject()
                        .put("order_id", order.id())
                        .put("at", movement.at().toString())
                        .put("line", movement.line())
                        .put("kind", movement.kind().name())
                        .put("amount", movement.amount());
            }
        }
        orders.put(rows.toString());
        orders.forgetMoney(rows.toString());
        orders.putMoney(movements.toString());
    }
}
