package yoru.core.access;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.Order;
import yoru.core.ledger.Subscription;
import yoru.core.ledger.Warning;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Upstream;
import yoru.core.time.SchoolCalendar;

/**
 * Computes access from a ledger and a rulebook. A pure function: the live server, the preview of a change and every
 * question about the past or the future call it, and nothing else decides.
 *
 * <p>An engine may be used by several threads at once.
 */
public final class Engine {

    private final RulebookIndex index;
    private final SchoolCalendar calendar;
    private final Links links;

    public Engine(Rulebook rulebook) {
        this.index = new RulebookIndex(rulebook);
        this.calendar = new SchoolCalendar(rulebook.school().zone());
        this.links = new Links(index, calendar);
    }

    public RulebookIndex index() {
        return index;
    }

    /** Access as known at {@code asOf}: facts with a later time do not count; future starts and ends do. */
    public Evaluation evaluate(Ledger ledger, Instant asOf) {
        var known = ledger.asOf(asOf);
        var histories = Histories.of(known);
        var warnings = new ArrayList<>(histories.warnings());
        warnings.addAll(LedgerCheck.of(known, index));
        warnings.sort(Warning.ORDER);
        return new Evaluation(access(histories, asOf), warnings);
    }

    /** The same for histories that hold no fact later than {@code asOf}, without looking for what cannot be used. */
    public List<Access> access(Histories histories, Instant asOf) {
        var purchases = purchases();
        var access = new ArrayList<Access>();
        for (History history : histories.all()) {
            access.addAll(person(history, purchases).access(asOf));
        }
        return access;
    }

    /** One person's access. */
    public List<Access> access(History history, Instant asOf) {
        return person(history, purchases()).access(asOf);
    }

    /** One person's access as it stands at any time, as long as nothing more is known of them. */
    public Function<Instant, List<Access>> accessOver(History history) {
        return person(history, purchases())::access;
    }

    /** The same as far as it matters for some targets; what it says of others is not all there is. */
    public Engine concerning(Set<Target> targets) {
        return new Engine(index.rulebook().withLinks(Upstream.of(index, targets)));
    }

    /** How one person's allowance stands. */
    public Choices choices(History history, Instant asOf) {
        return person(history, purchases()).allowances().at(asOf);
    }

    /** The unbroken runs of a subscription, in time order; none where the rulebook lacks its product. */
    public List<Holding.Subscribed> runs(Subscription subscription) {
        return index.product(subscription.details().product())
                .map(product -> SubscriptionRuns.of(subscription, product, calendar, true))
                .orElse(List.of());
    }

    public SchoolCalendar calendar() {
        return calendar;
    }

    PersonAccess person(History history) {
        return person(history, purchases());
    }

    /** An order as this rulebook has it. */
    public Purchase purchase(Order order) {
        return new Purchase(order, index, calendar);
    }

    private PersonAccess person(History history, Function<Order, Purchase> purchases) {
        return new PersonAccess(index, calendar, links, history, purchases);
    }

    /** An order of which seats were claimed concerns several people and is looked at once. */
    private Function<Order, Purchase> purchases() {
        Map<String, Purchase> shared = new HashMap<>();
        return order ->
                order.claims().isEmpty() ? purchase(order) : shared.computeIfAbsent(order.id(), id -> purchase(order));
    }
}
