package yoru.core.followup;

import java.time.Instant;
import java.util.Optional;
import yoru.core.access.Ending;
import yoru.core.access.Engine;
import yoru.core.access.Holding;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Order;
import yoru.core.ledger.Subscription;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Followup.When;
import yoru.core.rulebook.Terms;

/** How long what runs give lasts: as long as what their occasion is about. */
final class Causes {

    private final Engine engine;
    private final Conditions conditions;

    Causes(Engine engine, Conditions conditions) {
        this.engine = engine;
        this.conditions = conditions;
    }

    /** Whether the cause of a run is over; never where it has none, or what it gives lasts for good. */
    boolean hasEnded(Run run, View view) {
        if (run.as.always()) {
            return false;
        }
        var occasion = run.occasion;
        return switch (run.as.when()) {
            case When.OfOrder it ->
                switch (it.moment()) {
                    case PLACED, PAID, FULFILLED ->
                        order(occasion, view.histories())
                                .filter(order -> isOver(order, it.of(), occasion))
                                .isPresent();
                    case CANCELLED, REFUNDED -> false;
                };
            case When.Claimed it ->
                order(occasion, view.histories())
                        .filter(order -> isOver(order, it.of(), occasion))
                        .isPresent();
            case When.OfSubscription _ ->
                endsAt(run, view.histories())
                        .filter(end -> !end.isAfter(view.now()))
                        .isPresent();
            case When.Opened _, When.Ending _ ->
                occasion.targetOrNone() != null && view.isOver(occasion.targetOrNone());
            case When.Ended _, When.Completed _, When.Account _ -> false;
        };
    }

    private static Optional<Order> order(Occasion occasion, Histories known) {
        return Optional.ofNullable(occasion.orderOrNone()).flatMap(known::order);
    }

    /** Cancelled, or what it is about was given back in full. */
    private boolean isOver(Order order, Followup.Sold set, Occasion occasion) {
        var line = occasion.lineOrNone();
        var about = order.details().lines().stream()
                .filter(one ->
                        line == null ? conditions.isOf(set, one) : one.line().equals(line))
                .toList();
        return order.cancelled().isPresent()
                || (!about.isEmpty() && about.stream().allMatch(one -> conditions.isGivenBack(order, one)));
    }

    /** When the subscription that it is about ends, as far as that is known. */
    Optional<Instant> endsAt(Run run, Histories known) {
        if (run.as.always() || !(run.as.when() instanceof When.OfSubscription it) || it.turn() == When.Turn.CANCELLED) {
            return Optional.empty();
        }
        return holding(run.occasion, known).map(one -> one.end(Terms.DEFAULT)).map(Ending::at);
    }

    /** The unbroken run of the subscription in which the occasion lies, or the last one before it. */
    Optional<Holding.Subscribed> holding(Occasion occasion, Histories known) {
        return Optional.ofNullable(occasion.subscriptionOrNone())
                .flatMap(known::subscription)
                .flatMap(one -> holding(one, occasion.moment()));
    }

    private Optional<Holding.Subscribed> holding(Subscription subscription, Instant at) {
        return engine.runs(subscription).stream()
                .filter(one -> !one.start().isAfter(at))
                .reduce((first, later) -> later);
    }
}
