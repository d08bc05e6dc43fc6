package yoru.server.reception;

import java.time.Clock;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.access.Access;
import yoru.core.access.State;
import yoru.core.impact.Concern;
import yoru.core.ledger.Mention;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Quantity;
import yoru.server.ledger.LedgerFigures;
import yoru.server.ledger.LedgerReader;
import yoru.server.orders.OrderBook;
import yoru.server.rulebooks.Rulebooks;

/** Counts for how many people a policy matters. */
@Service
class PolicyEffects {

    private static final Duration YEAR = Duration.ofDays(365);
    private static final int MOST_PAIRS = 20;

    /** Beyond that many, who is in grace is not counted while somebody waits for the page. */
    private static final int MOST_COUNTED = 5_000;

    private final LedgerReader ledger;
    private final LedgerFigures figures;
    private final Rulebooks rulebooks;
    private final OrderBook orders;
    private final HeldBack held;
    private final SamePeople samePeople;
    private final Clock clock;

    PolicyEffects(
            LedgerReader ledger,
            LedgerFigures figures,
            Rulebooks rulebooks,
            OrderBook orders,
            HeldBack held,
            SamePeople samePeople,
            Clock clock) {
        this.ledger = ledger;
        this.figures = figures;
        this.rulebooks = rulebooks;
        this.orders = orders;
        this.held = held;
        this.samePeople = samePeople;
        this.clock = clock;
    }

    /**
     * For how many people each policy matters.
     *
     * @param guests who bought as guests within a year
     * @param held what waits now
     * @param onlyContacts who are known from tags, levels and finished courses alone
     * @param sameCount how many pairs of keys are one person, as a system says, and are not joined
     * @param same the first of them
     */
    record Effects(
            int guests,
            HeldBack.HeldCount held,
            int onlyContacts,
            int sameCount,
            List<SamePeople.Pair> same,
            Opening opening,
            List<Several> quantity,
            Grace grace) {}

    /**
     * @param notOpened people with an order that has not opened anything yet
     * @param others products that say something else than the school
     */
    record Opening(OpensOn school, int notOpened, List<OtherOpening> others) {}

    record OtherOpening(String product, String title, OpensOn opensOn) {}

    /**
     * What more than one of a product means.
     *
     * @param people who bought more than one at once, for each product
     */
    record Several(Quantity means, int products, int people) {}

    /**
     * @param products with something to be paid again
     * @param withoutGrace those of them that close on the day the payment is missing
     * @param counted whether the people were counted
     * @param inGrace people who have something only until their grace is over
     * @param suspended people who would have something again if they paid
     */
    record Grace(int products, int withoutGrace, boolean counted, int inGrace, int suspended) {}

    @Transactional(readOnly = true)
    public Effects now() {
        var pairs = samePeople.notJoined();
        return new Effects(
                figures.guests(clock.instant().minus(YEAR)),
                held.count(),
                figures.onlyContacts(),
                pairs.size(),
                pairs.stream().limit(MOST_PAIRS).toList(),
                opening(),
                several(),
                grace());
    }

    private Opening opening() {
        var rulebook = rulebooks.current().rulebook();
        var school = rulebook.school().opensOn();
        return new Opening(
                school,
                orders.peopleNotOpened(),
                rulebook.products().stream()
                        .flatMap(product -> product.opensOn().stream()
                                .filter(own -> own != school)
                                .map(own -> new OtherOpening(product.id(), product.title(), own)))
                        .toList());
    }

    private List<Several> several() {
        Map<String, Integer> buyers = figures.soldSeveral().stream()
                .collect(Collectors.toMap(LedgerFigures.Sold::product, LedgerFigures.Sold::buyers));
        var products = rulebooks.current().rulebook().products();
        return Arrays.stream(Quantity.values())
                .map(means -> {
                    var own = products.stream()
                            .filter(product -> product.quantity() == means)
                            .toList();
                    return new Several(
                            means,
                            own.size(),
                            own.stream()
                                    .mapToInt(product -> buyers.getOrDefault(product.id(), 0))
                                    .sum());
                })
                .toList();
    }

    private Grace grace() {
        var current = rulebooks.current();
        var products = current.rulebook().products().stream()
                .filter(product -> product.billing() instanceof Billing.Instalments
                        || product.billing() instanceof Billing.Recurring)
                .toList();
        int withoutGrace =
                (int) products.stream().filter(PolicyEffects::hasNoGrace).count();
        var people = ledger.concernedBy(new Concern(
                false,
                products.stream()
                        .map(product -> new Mention.OfProduct(product.id()))
                        .collect(Collectors.toSet())));
        if (people.size() > MOST_COUNTED) {
            return new Grace(products.size(), withoutGrace, false, 0, 0);
        }
        var inGrace = new AtomicInteger();
        var suspended = new AtomicInteger();
        var now = clock.instant();
        ledger.walk(people, now, done -> {}, history -> {
            var states = current.engine().access(history, now).stream()
                    .map(Access::state)
                    .collect(Collectors.toSet());
            count(states, State.GRACE, inGrace);
            count(states, State.SUSPENDED, suspended);
        });
        return new Grace(products.size(), withoutGrace, true, inGrace.get(), suspended.get());
    }

    private static void count(Set<State> states, State state, AtomicInteger into) {
        if (states.contains(state)) {
            into.incrementAndGet();
        }
    }

    private static boolean hasNoGrace(Product product) {
        return switch (product.billing()) {
            case Billing.Instalments it -> it.grace().isZero();
            case Billing.Recurring it -> it.grace().isZero();
            case Billing.Once _, Billing.Free _ -> false;
        };
    }
}
