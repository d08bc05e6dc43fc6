package yoru.core.ledger;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Happening.AccountMade;
import yoru.core.ledger.Happening.CourseChosen;
import yoru.core.ledger.Happening.CourseCompleted;
import yoru.core.ledger.Happening.CourseReleased;
import yoru.core.ledger.Happening.FollowupStopped;
import yoru.core.ledger.Happening.FollowupWent;
import yoru.core.ledger.Happening.GiftClaimed;
import yoru.core.ledger.Happening.GrantEnded;
import yoru.core.ledger.Happening.GrantGiven;
import yoru.core.ledger.Happening.InstalmentFailed;
import yoru.core.ledger.Happening.InstalmentPaid;
import yoru.core.ledger.Happening.LevelEnded;
import yoru.core.ledger.Happening.LevelStarted;
import yoru.core.ledger.Happening.ListJoined;
import yoru.core.ledger.Happening.ListLeft;
import yoru.core.ledger.Happening.OrderCancelled;
import yoru.core.ledger.Happening.OrderFulfilled;
import yoru.core.ledger.Happening.OrderInvoiced;
import yoru.core.ledger.Happening.OrderPaid;
import yoru.core.ledger.Happening.OrderPlaced;
import yoru.core.ledger.Happening.OrderRefunded;
import yoru.core.ledger.Happening.PersonErased;
import yoru.core.ledger.Happening.PersonMerged;
import yoru.core.ledger.Happening.PersonParted;
import yoru.core.ledger.Happening.SubscriptionCancelled;
import yoru.core.ledger.Happening.SubscriptionPaymentFailed;
import yoru.core.ledger.Happening.SubscriptionRefunded;
import yoru.core.ledger.Happening.SubscriptionRenewed;
import yoru.core.ledger.Happening.SubscriptionStarted;
import yoru.core.ledger.Happening.TagAdded;
import yoru.core.ledger.Happening.TagRemoved;
import yoru.core.ledger.Happening.Unknown;

/** A ledger folded person by person. */
public final class Histories {

    private final Map<String, History> byPerson = new TreeMap<>(ByCodePoint.ORDER);
    private final List<Warning> warnings;
    private final Merges merges;
    private final Map<String, OrderSoFar> byOrder = new LinkedHashMap<>();
    private final Map<String, Subscription> subscriptions = new LinkedHashMap<>();
    private final Map<String, Grant> grants = new LinkedHashMap<>();
    private final Map<String, List<Fact>> grantEnds = new HashMap<>();
    private final Set<String> erased = new HashSet<>(0);

    private Histories(Ledger ledger) {
        this.warnings = new ArrayList<>(ledger.warnings());
        this.merges = new Merges(ledger.facts());
        ledger.facts().forEach(this::sort);
        byOrder.forEach(this::keep);
        subscriptions.values().forEach(it -> of(it.person()).subscriptions().add(it));
        grants.values().forEach(this::keep);
        erased.forEach(byPerson::remove);
        grantEnds.forEach(
                (grant, facts) -> facts.forEach(fact -> warnings.add(new Warning.NoSuchGrant(fact.id(), grant))));
    }

    /** @param ledger no fact later than what is to be known */
    public static Histories of(Ledger ledger) {
        return new Histories(ledger);
    }

    /** By person, in code point order. */
    public Collection<History> all() {
        return byPerson.values();
    }

    /** What there is of the person whose key this is now; an empty history where there is nothing. */
    public History person(String key) {
        var known = byPerson.get(key);
        return known == null ? new History(key) : known;
    }

    /** An order, whoever placed it. */
    public Optional<Order> order(String id) {
        return Optional.ofNullable(byOrder.get(id)).map(OrderSoFar::folded);
    }

    /** A subscription, of whomever something is known. */
    public Optional<Subscription> subscription(String id) {
        return Optional.ofNullable(subscriptions.get(id)).filter(it -> byPerson.containsKey(it.person()));
    }

    /** Whose facts the subject's are. */
    public String personOf(String subject) {
        return merges.person(subject);
    }

    /** Into whom a subject was merged last, as far as it was not taken back. */
    public Optional<String> mergedInto(String subject) {
        return merges.mergedInto(subject);
    }

    /** Whether the facts of both count for the same person. */
    public boolean isOnePerson(String one, String other) {
        return personOf(one).equals(personOf(other));
    }

    public List<Warning> warnings() {
        return warnings;
    }

    private History of(String person) {
        return byPerson.computeIfAbsent(person, History::new);
    }

    private void sort(Fact fact) {
        var person = merges.person(fact.subject());
        switch (fact.happening()) {
            case OrderPlaced it -> order(it).placed(fact, it);
            case OrderPaid it -> order(it).paid(fact);
            case OrderInvoiced it -> order(it).invoiced(fact);
            case OrderFulfilled it -> order(it).fulfilled(fact);
            case OrderCancelled it -> order(it).cancelled(fact);
            case OrderRefunded it -> order(it).money(fact);
            case InstalmentPaid it -> order(it).money(fact);
            case InstalmentFailed it -> order(it).money(fact);
            case GiftClaimed it -> order(it).claimed(fact, it, person);
            case SubscriptionStarted it ->
                subscriptions.putIfAbsent(it.subscription(), new Subscription(fact, it, person, new ArrayList<>()));
            case SubscriptionRenewed it -> subscriptionFact(it.subscription(), fact);
            case SubscriptionPaymentFailed it -> subscriptionFact(it.subscription(), fact);
            case SubscriptionCancelled it -> subscriptionFact(it.subscription(), fact);
            case SubscriptionRefunded it -> subscriptionFact(it.subscription(), fact);
            case GrantGiven it -> grants.putIfAbsent(it.grant(), new Grant(fact, it, person, null));
            case GrantEnded it ->
                grantEnds.computeIfAbsent(it.grant(), id -> new ArrayList<>(1)).add(fact);
            case LevelStarted _, LevelEnded _ -> of(person).levels().add(fact);
            case TagAdded _, TagRemoved _ -> of(person).tags().add(fact);
            case ListLeft _, ListJoined _ -> of(person).lists().add(fact);
            case AccountMade _, FollowupWent _, FollowupStopped _ -> {}
            case CourseCompleted _ -> of(person).completed().add(fact);
            case CourseChosen _, CourseReleased _ -> of(person).choices().add(fact);
            case PersonErased _ -> erased.add(person);
            case PersonMerged _, PersonParted _ -> {}
            case Unknown it -> warnings.add(new Warning.UnknownType(fact.id(), it.type()));
        }
    }

    private OrderSoFar order(Happening.OfOrder of) {
        return byOrder.computeIfAbsent(of.order(), id -> new OrderSoFar());
    }

    private void subscriptionFact(String id, Fact fact) {
        var started = subscriptions.get(id);
        if (started == null) {
            warnings.add(new Warning.NoSuchSubscription(fact.id(), id));
        } else {
            started.later().add(fact);
        }
    }

    private void keep(Grant grant) {
        var ends = grantEnds.remove(grant.details().grant());
        var end = ends == null ? null : ends.getFirst();
        of(grant.person()).grants().add(new Grant(grant.given(), grant.details(), grant.person(), end));
    }

    private void keep(String id, OrderSoFar facts) {
        var order = facts.folded();
        if (order == null) {
            facts.all.forEach(fact -> warnings.add(new Warning.NoSuchOrder(fact.id(), id)));
            return;
        }
        of(order.person()).orders().add(order);
        order.claims().values().stream()
                .map(Order.Claim::person)
                .distinct()
                .forEach(person -> of(person).claimed().add(order));
    }

    /** The facts of one order; of repeated ones the first counts. */
    private final class OrderSoFar {

        private final List<Fact> all = new ArrayList<>(2);
        private final List<Fact> money = new ArrayList<>(0);
        private final Map<Order.Seat, Order.Claim> claims = new LinkedHashMap<>(0);
        private @Nullable Fact placed;
        private final List<Fact> invoices = new ArrayList<>(0);
        private @Nullable OrderPlaced details;
        private @Nullable Fact paid;
        private @Nullable Fact fulfilled;
        private @Nullable Fact cancelled;

        void placed(Fact fact, OrderPlaced it) {
            all.add(fact);
            if (placed == null) {
                placed = fact;
                details = it;
            }
        }

        void paid(Fact fact) {
            all.add(fact);
            paid = paid == null ? fact : paid;
        }

        void invoiced(Fact fact) {
            all.add(fact);
            invoices.add(fact);
        }

        void fulfilled(Fact fact) {
            all.add(fact);
            fulfilled = fulfilled == null ? fact : fulfilled;
        }

        void cancelled(Fact fact) {
            all.add(fact);
            cancelled = cancelled == null ? fact : cancelled;
        }

        void money(Fact fact) {
            all.add(fact);
            money.add(fact);
        }

        void claimed(Fact fact, GiftClaimed it, String person) {
            all.add(fact);
            claims.putIfAbsent(new Order.Seat(it.line(), it.seat()), new Order.Claim(fact, person));
        }

        @Nullable
        Order folded() {
            if (placed == null || details == null) {
                return null;
            }
            return new Order(
                    placed,
                    details,
                    merges.person(placed.subject()),
                    paid,
                    fulfilled,
                    cancelled,
                    invoices,
                    money,
                    claims);
        }
    }
}
