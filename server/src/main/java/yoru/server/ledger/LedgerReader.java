package yoru.server.ledger;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.IntConsumer;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.impact.Concern;
import yoru.core.ledger.ByCodePoint;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.Mention;
import yoru.core.ledger.Order;

/** Gives back the facts that can matter for something. */
@Service
public class LedgerReader {

    private static final int AT_A_TIME = 1_000;

    private final FactTable facts;
    private final PersonTable people;

    LedgerReader(FactTable facts, PersonTable people) {
        this.facts = facts;
        this.people = people;
    }

    /** Whether it is known who a subject is: something was said that is not only about an order never heard of. */
    @Transactional(readOnly = true)
    public boolean isKnown(String subject) {
        return facts.isKnown(subject);
    }

    /** Whether somebody was ever joined with another or parted from them. */
    @Transactional(readOnly = true)
    public boolean wasJoined(String subject) {
        return facts.wasJoined(subject);
    }

    /** Somebody's key, and those of all who were ever joined with them. */
    @Transactional(readOnly = true)
    public List<String> joinedWith(String key) {
        return facts.joinedWith(Rows.json(List.of(key)));
    }

    /** A key under which a system reports somebody, and the address that it says it has verified. */
    public record Verified(String subject, String address) {}

    /** Whom systems know by a verified address too, in the order in which they said so; none of them was joined or parted. */
    @Transactional(readOnly = true)
    public List<Verified> verified() {
        return verified("");
    }

    /** The same of one subject; empty = of all. */
    @Transactional(readOnly = true)
    public List<Verified> verified(String subject) {
        return facts.verified(subject).stream()
                .map(row -> new Verified(row.getSubject(), row.getAddress()))
                .toList();
    }

    /** What is said about some orders, and about whom they belong to. */
    @Transactional(readOnly = true)
    public Ledger aboutOrders(Collection<String> orders) {
        return Rows.ledger(facts.aboutThings(
                Rows.json(orders.stream().map(order -> "order " + order).toList())));
    }

    /** One order as it was known at a time. */
    @Transactional(readOnly = true)
    public Optional<Order> order(String id, Instant asOf) {
        return Histories.of(aboutOrders(List.of(id)).asOf(asOf)).order(id);
    }

    /** The ids of the orders that some people, and those joined with them, placed. */
    @Transactional(readOnly = true)
    public List<String> ordersOf(Collection<String> persons) {
        return orderIds(facts.ordersOf(Rows.json(persons)));
    }

    /** The ids of the orders for which a change of the rulebook can matter. */
    @Transactional(readOnly = true)
    public List<String> ordersConcernedBy(Concern concern) {
        if (concern.isNothing()) {
            return List.of();
        }
        return concern.everybody()
                ? allOrders()
                : orderIds(facts.ordersMentioning(
                        Rows.json(concern.mentions().stream().map(Mention::key).toList())));
    }

    @Transactional(readOnly = true)
    public List<String> allOrders() {
        return orderIds(facts.allOrders());
    }

    private static List<String> orderIds(List<String> things) {
        return things.stream().map(thing -> thing.substring("order ".length())).toList();
    }

    /** Whether anything was ever said about an order. */
    @Transactional(readOnly = true)
    public boolean knowsOrder(String order) {
        return facts.knows("order " + order);
    }

    /** The keys of all whom a fact about an order can concern; they must be known. */
    @Transactional(readOnly = true)
    public List<String> concernedByOrder(String order, String placedBy) {
        return people.findAllById(facts.concerned(placedBy, "order " + order)).stream()
                .map(Person::key)
                .toList();
    }

    /** All that can matter for one person. */
    @Transactional(readOnly = true)
    public Ledger concerning(String person) {
        return concerning(List.of(person));
    }

    /** All that can matter for some people; of others there may be a part. */
    @Transactional(readOnly = true)
    public Ledger concerning(Collection<String> persons) {
        return Rows.ledger(facts.concerning(Rows.json(persons)));
    }

    /**
     * Walks over some people, so many at a time that any number of them fits into memory.
     *
     * @param progress is told how many are done before each step, and may throw to end the walk
     */
    @Transactional(readOnly = true)
    public void walk(List<String> persons, Instant asOf, IntConsumer progress, Consumer<History> each) {
        for (int from = 0; from < persons.size(); from += AT_A_TIME) {
            progress.accept(from);
            var some = persons.subList(from, Math.min(persons.size(), from + AT_A_TIME));
            var wanted = Set.copyOf(some);
            Histories.of(concerning(some).asOf(asOf)).all().stream()
                    .filter(history -> wanted.contains(history.person()))
                    .forEach(each);
        }
    }

    /** The same over everybody who is known. */
    @Transactional(readOnly = true)
    public void walkEverybody(Instant asOf, Consumer<History> each) {
        walk(concernedBy(Concern.EVERYBODY), asOf, done -> {}, each);
    }

    /** Everybody whom a change of the rulebook can concern, by code point. */
    @Transactional(readOnly = true)
    public List<String> concernedBy(Concern concern) {
        if (concern.isNothing()) {
            return List.of();
        }
        var subjects = concern.everybody()
                ? facts.everybody()
                : facts.mentioning(
                        Rows.json(concern.mentions().stream().map(Mention::key).toList()));
        return facts.same(Rows.json(subjects)).stream()
                .sorted(ByCodePoint.ORDER)
                .toList();
    }
}
