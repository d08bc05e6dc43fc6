package yoru.server.charges;

import java.math.BigDecimal;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import yoru.core.access.Words;
import yoru.core.desk.Desk;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.systems.Ability;
import yoru.server.charges.OrderCharge.State;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.FactKeeper;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Origin;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.orders.OrderStory;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.ProblemException;
import yoru.server.platform.Queue;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Connector;
import yoru.server.systems.Connectors;
import yoru.server.systems.TroubleException;

/** Has shops charge methods of payment on file. */
@Service
public class Charges implements OrderStory {

    private final OrderCharges charges;
    private final Connections connections;
    private final Connectors connectors;
    private final LedgerReader ledger;
    private final Register register;
    private final FactKeeper keeper;
    private final Journal journal;
    private final Queue queue;
    private final TransactionTemplate transactions;
    private final Clock clock;

    Charges(
            OrderCharges charges,
            Connections connections,
            Connectors connectors,
            LedgerReader ledger,
            Register register,
            FactKeeper keeper,
            Journal journal,
            Queue queue,
            TransactionTemplate transactions,
            Clock clock) {
        this.charges = charges;
        this.connections = connections;
        this.connectors = connectors;
        this.ledger = ledger;
        this.register = register;
        this.keeper = keeper;
        this.journal = journal;
        this.queue = queue;
        this.transactions = transactions;
        this.clock = clock;
    }

    /**
     * A method of payment that somebody left with a shop.
     *
     * @param connection the shop
     */
    public record OnFile(String connection, String system, String method, String label) {}

    /**
     * How a charge stands.
     *
     * @param said what the shop said last
     */
    record ShownCharge(
            String order,
            String system,
            String label,
            BigDecimal amount,
            String currency,
            State state,
            String said,
            Instant askedAt,
            @Nullable Instant answeredAt) {}

    /** What somebody left with the shops; a shop that does not answer has nothing to offer just now. */
    public List<OnFile> onFile(String person) {
        var found = new ArrayList<OnFile>();
        for (Connection shop : connections.all()) {
            if (shop.isOn() && connectors.abilities(shop).contains(Ability.CHARGING)) {
                try {
                    connectors
                            .of(shop)
                            .methods(connections.place(shop), person)
                            .forEach(method ->
                                    found.add(new OnFile(shop.id(), shop.title(), method.id(), method.label())));
                } catch (TroubleException _) {
                    // whoever enters an order can have it paid otherwise; that the shop is away is said under Systems
                }
            }
        }
        return found;
    }

    /** Has an order charged as soon as the transaction has committed. */
    @Transactional
    public void begin(String order, String connection, Connector.Method method, String operator) {
        var shop = connections.find(connection);
        if (shop.isEmpty() || !connectors.abilities(shop.get()).contains(Ability.CHARGING)) {
            throw new ProblemException(
                    HttpStatus.UNPROCESSABLE_CONTENT,
                    "This cannot be charged",
                    "No such shop charges methods on file.");
        }
        var placed = ledger.order(order, clock.instant()).orElseThrow();
        var charge = new OrderCharge();
        charge.orderId = order;
        charge.connectionId = connection;
        charge.personKey = placed.person();
        charge.method = method.id();
        charge.label = method.label();
        charge.amount = placed.total();
        charge.currency = placed.details().currency().getCurrencyCode();
        charge.askedAt = clock.instant();
        charge.askedBy = operator;
        charges.save(charge);
        queue.now(ChargeTasks.CHARGE, order);
    }

    @Transactional(readOnly = true)
    public List<ShownCharge> of(String order) {
        return charges.findById(order).stream()
                .map(charge -> new ShownCharge(
                        order,
                        connections.title(charge.connectionId),
                        charge.label,
                        charge.amount,
                        charge.currency,
                        charge.state,
                        charge.said,
                        charge.askedAt,
                        charge.answeredAt))
                .toList();
    }

    @Override
    @Transactional(readOnly = true)
    public List<OrderEvent> about(String order) {
        return charges.findById(order).stream()
                .flatMap(charge -> {
                    var shop = connections.title(charge.connectionId);
                    return Stream.concat(
                            charge.answers.stream()
                                    .flatMap(it -> Stream.of(
                                            asked(shop, charge, it.askedAt(), it.askedBy()), answer(shop, it))),
                            charge.state == State.WAITING
                                    ? Stream.of(asked(shop, charge, charge.askedAt, charge.askedBy))
                                    : Stream.empty());
                })
                .toList();
    }

    private static OrderEvent asked(String shop, OrderCharge charge, Instant at, String by) {
        var amount = Words.money(charge.amount, Currency.getInstance(charge.currency));
        return new OrderEvent(at, shop + " asked to charge " + amount, charge.label + ", by " + by);
    }

    private static OrderEvent answer(String shop, OrderCharge.Answer answer) {
        var title = switch (answer.state()) {
            case PAID -> shop + " charged it";
            case REFUSED -> shop + " refused to charge it";
            case LEFT, WAITING -> "Not charged";
        };
        return new OrderEvent(answer.at(), title, answer.said());
    }

    /** Has a charge that was refused asked for once more. */
    @Transactional
    public void again(String order, String operator) {
        var charge = charges.lock(order)
                .orElseThrow(() -> ProblemException.notFound("Nothing is to be charged for order " + order + "."));
        if (charge.state != State.REFUSED || isSettled(order)) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "This is not charged again",
                    charge.state == State.WAITING
                            ? "The shop has not answered yet."
                            : "Nothing of it is owed any more.");
        }
        charge.askAgain(operator, clock.instant());
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                "The shop is asked again to charge order " + order,
                charge.label,
                operator,
                register.person(charge.personKey).map(Person::id).orElse(null),
                null));
        queue.now(ChargeTasks.CHARGE, order + "#" + charge.attempt);
    }

    /** A charge that was refused, of an order that is still to be paid. */
    public record Refused(String order, String system, String person, String said) {}

    @Transactional(readOnly = true)
    public List<Refused> refused() {
        return charges.findByStateOrderByAskedAt(State.REFUSED).stream()
                .filter(charge -> !isSettled(charge.orderId))
                .map(charge -> new Refused(
                        charge.orderId,
                        connections.title(charge.connectionId),
                        register.person(charge.personKey).map(Person::name).orElse(charge.personKey),
                        charge.said))
                .toList();
    }

    private boolean isSettled(String order) {
        return ledger.order(order, clock.instant())
                .filter(it -> it.paid().isEmpty() && it.cancelled().isEmpty())
                .isEmpty();
    }

    /**
     * Asks the shop, and enters the payment when it says so. Where anything breaks in between it is asked again under the
     * same key.
     *
     * @param task the order, and which try it is where it is not the first
     * @return whether there is nothing left to do
     */
    boolean attempt(String task) {
        var order = task.split("#", 2)[0];
        var charge = transactions.execute(status -> stillWanted(order));
        if (charge == null) {
            return true;
        }
        var shop = connections.get(charge.connectionId);
        if (!shop.isOn()) {
            transactions.executeWithoutResult(status -> saidMeanwhile(order, "is off"));
            return false;
        }
        try {
            var answer = connectors
                    .of(shop)
                    .charge(
                            connections.place(shop),
                            new Connector.Charge(
                                    charge.key(),
                                    charge.personKey,
                                    charge.method,
                                    charge.amount,
                                    Currency.getInstance(charge.currency),
                                    "Order " + order));
            transactions.executeWithoutResult(status -> answered(order, answer));
            return true;
        } catch (TroubleException e) {
            transactions.executeWithoutResult(status -> saidMeanwhile(order, e.words()));
            return false;
        }
    }

    private void saidMeanwhile(String order, String words) {
        charges.lock(order).ifPresent(it -> it.answer(it.state, words, clock.instant()));
    }

    /** None = the order was paid otherwise, or cancelled, or this is decided. */
    private @Nullable OrderCharge stillWanted(String order) {
        var charge = charges.lock(order).orElseThrow();
        var known = ledger.order(order, clock.instant()).orElseThrow();
        if (charge.state == State.WAITING
                && (known.paid().isPresent() || known.cancelled().isPresent())) {
            charge.answer(State.LEFT, "the order was paid or cancelled before", clock.instant());
        }
        return charge.state == State.WAITING ? charge : null;
    }

    private void answered(String order, Connector.Charged answer) {
        var charge = charges.lock(order).orElseThrow();
        if (charge.state != State.WAITING) {
            return;
        }
        charge.answer(answer.paid() ? State.PAID : State.REFUSED, answer.said(), clock.instant());
        if (answer.paid()) {
            keeper.keep(
                    new Origin.OfOperator(charge.askedBy),
                    new Fact(
                            new FactId(Desk.SOURCE, "charge/" + order),
                            charge.personKey,
                            clock.instant(),
                            new Happening.OrderPaid(order, charge.label, answer.said())));
        } else {
            journal.write(new Journal.Line(
                    Kind.WARNING,
                    "The shop refused to charge order " + order,
                    charge.label + ": " + answer.said(),
                    charge.connectionId,
                    register.person(charge.personKey).map(Person::id).orElse(null),
                    null));
        }
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        var forgetting = forgotten.forgetting();
        charges.findByPersonKeyIn(forgetting.keys()).forEach(charge -> {
            charge.personKey = forgetting.text(charge.personKey);
            charge.label = "method on file";
        });
    }
}
