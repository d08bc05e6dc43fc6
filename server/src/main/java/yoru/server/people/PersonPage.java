package yoru.server.people;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.access.Access;
import yoru.core.access.Ending;
import yoru.core.access.Engine;
import yoru.core.access.Entitlement;
import yoru.core.access.Explanation;
import yoru.core.access.State;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.Orders;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
import yoru.server.deliveries.Deliveries;
import yoru.server.ledger.LedgerService;
import yoru.server.ledger.Person;
import yoru.server.mapping.Rulebooks;

/** What there is to say about one person at one time, asked of the engine anew. */
@Service
class PersonPage {

    private final LedgerService ledger;
    private final Rulebooks rulebooks;
    private final Deliveries deliveries;
    private final Clock clock;

    PersonPage(LedgerService ledger, Rulebooks rulebooks, Deliveries deliveries, Clock clock) {
        this.ledger = ledger;
        this.rulebooks = rulebooks;
        this.deliveries = deliveries;
        this.clock = clock;
    }

    /** Everything about one person as of a time. */
    record PersonShown(
            long id,
            String key,
            String name,
            Instant since,
            Instant asOf,
            int rulebook,
            int orders,
            List<ShownTarget> targets,
            List<Event> happened) {}

    /** A target with its windows, in time order, and what the systems answered about it (as of now, whatever the as-of time). */
    record ShownTarget(
            String target, String title, String sort, List<ShownWindow> windows, List<Deliveries.Standing> systems) {}

    /** @param why from what happened to what follows */
    record ShownWindow(
            Instant start,
            @Nullable Instant end,
            State state,
            String label,
            List<Bar> bars,
            List<Explanation.Step> why) {}

    /** One reason's own stretch of a window. */
    record Bar(Instant start, @Nullable Instant end, String label, boolean cutShort) {}

    record Event(Instant at, String title, String text) {}

    @Transactional(readOnly = true)
    public Optional<PersonShown> of(long id, @Nullable Instant at) {
        var asOf = Objects.requireNonNullElseGet(at, clock::instant);
        return ledger.person(id).map(person -> shown(person, asOf));
    }

    private PersonShown shown(Person person, Instant asOf) {
        var now = rulebooks.current();
        var facts = ledger.concerning(person.key()).asOf(asOf);
        var orders = Orders.of(facts);
        var access = new Engine(now.rulebook()).evaluate(orders, asOf).access();
        var explanation = new Explanation(now.rulebook(), now.number());
        Map<Target, List<Access>> byTarget = new LinkedHashMap<>();
        access.stream()
                .filter(one -> one.person().equals(person.key()))
                .forEach(one -> byTarget.computeIfAbsent(one.target(), target -> new ArrayList<>())
                        .add(one));
        var told = deliveries.of(person.id());
        var targets = byTarget.entrySet().stream()
                .map(entry -> target(entry.getKey(), entry.getValue(), now.rulebook(), explanation, told))
                .toList();
        int placed = (int) orders.all().stream()
                .filter(order -> order.person().equals(person.key()))
                .count();
        return new PersonShown(
                person.id(),
                person.key(),
                person.name(),
                person.firstSeenAt(),
                asOf,
                now.number(),
                placed,
                targets,
                happened(facts, now.rulebook()));
    }

    private static ShownTarget target(
            Target target,
            List<Access> windows,
            Rulebook rulebook,
            Explanation explanation,
            List<Deliveries.Standing> told) {
        return switch (target) {
            case Target.OfCourse it ->
                new ShownTarget(
                        target.path(),
                        rulebook.course(it.course()).map(Course::title).orElse(it.course()),
                        "course",
                        windows.stream()
                                .map(window -> window(window, explanation))
                                .toList(),
                        told.stream()
                                .filter(standing -> standing.course().equals(it.course()))
                                .toList());
        };
    }

    private static ShownWindow window(Access access, Explanation explanation) {
        var bars =
                access.entitlements().stream().map(it -> bar(it, explanation)).toList();
        var label = String.join(" + ", bars.stream().map(Bar::label).toList());
        return new ShownWindow(
                access.window().start(),
                access.window().endOrNone(),
                access.state(),
                label,
                bars,
                explanation.of(access));
    }

    private static Bar bar(Entitlement entitlement, Explanation explanation) {
        boolean cutShort = switch (entitlement.reason().ending()) {
            case null -> false;
            case Ending.Elapsed _ -> false;
            case Ending.Refunded _, Ending.Cancelled _ -> true;
        };
        return new Bar(
                entitlement.window().start(),
                entitlement.window().endOrNone(),
                explanation.label(entitlement.reason()),
                cutShort);
    }

    private static List<Event> happened(Ledger facts, Rulebook rulebook) {
        return facts.facts().reversed().stream()
                .map((Fact fact) -> new Event(
                        fact.time(),
                        LedgerService.title(fact),
                        LedgerService.text(
                                fact,
                                product -> rulebook.product(product)
                                        .map(Product::title)
                                        .orElse(product))))
                .toList();
    }
}
