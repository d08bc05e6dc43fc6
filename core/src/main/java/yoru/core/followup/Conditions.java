package yoru.core.followup;

import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Engine;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Followup.Condition;
import yoru.core.rulebook.Followup.Sold;
import yoru.core.rulebook.RulebookIndex;

/** Asks conditions of follow-ups. */
final class Conditions {

    private final Engine engine;
    private final RulebookIndex index;
    private final PurchaseCount purchases;

    Conditions(Engine engine) {
        this.engine = engine;
        this.index = engine.index();
        this.purchases = new PurchaseCount(index);
    }

    boolean all(List<Condition> conditions, Occasion occasion, View view) {
        return conditions.stream().allMatch(condition -> holds(condition, occasion, view));
    }

    /** The same, with what came out of each. */
    Followups.Question ask(String step, List<Condition> conditions, Occasion occasion, View view) {
        if (conditions.isEmpty()) {
            return new Followups.Question(step, true, List.of());
        }
        var answers = conditions.stream()
                .map(condition -> new Followups.Answer(
                        condition,
                        holds(condition, occasion, view),
                        condition instanceof Condition.Bought it ? count(it, occasion, view) : null))
                .toList();
        return new Followups.Question(step, answers.stream().allMatch(Followups.Answer::holds), answers);
    }

    private boolean holds(Condition condition, Occasion occasion, View view) {
        return switch (condition) {
            case Condition.Has it ->
                Targets.of(it.targets(), index.rulebook()).stream().anyMatch(view::isOpen);
            case Condition.Had it -> {
                var targets = Targets.of(it.targets(), index.rulebook());
                yield targets.stream().noneMatch(view::isOpen)
                        && targets.stream().anyMatch(view.state().everOpen::contains);
            }
            case Condition.Bought it -> {
                int many = count(it, occasion, view);
                yield (it.atLeast() == null || many >= it.atLeast()) && (it.atMost() == null || many <= it.atMost());
            }
            case Condition.Amount it ->
                order(occasion, view)
                        .filter(order -> order.details()
                                        .currency()
                                        .equals(index.rulebook().school().currency())
                                && order.total().compareTo(it.atLeast()) >= 0)
                        .isPresent();
            case Condition.OfChannel it ->
                order(occasion, view)
                        .filter(order -> (order.details().channel() == Channel.HAND) == it.byHand())
                        .isPresent();
            case Condition.Field it -> {
                var value = view.state().fields.get(it.name());
                yield value != null && value.value().equals(it.is());
            }
            case Condition.Any it -> it.of().stream().anyMatch(one -> holds(one, occasion, view));
            case Condition.Not it -> !holds(it.of(), occasion, view);
        };
    }

    private static Optional<Order> order(Occasion occasion, View view) {
        return Optional.ofNullable(occasion.orderOrNone()).flatMap(view.histories()::order);
    }

    private int count(Condition.Bought bought, Occasion occasion, View view) {
        var counts = switch (bought.counts()) {
            case PLACED -> PurchaseCount.Counts.ORDERED;
            case PAID -> PurchaseCount.Counts.PAID;
            case KEPT -> PurchaseCount.Counts.PAID_AND_KEPT;
        };
        Predicate<OrderLine> isOfIt = line -> isOf(bought.of(), line);
        return order(occasion, view)
                .map(order -> purchases.before(view.history(), order, isOfIt, counts))
                .orElseGet(() -> purchases.all(view.history(), isOfIt, counts).size());
    }

    /** Whether all that was paid for a line was given back. */
    boolean isGivenBack(Order order, OrderLine line) {
        return engine.purchase(order)
                .money(line.line())
                .flatMap(money -> money.reached(BigDecimal.ONE))
                .isPresent();
    }

    boolean isOf(Sold set, OrderLine line) {
        return isOf(set, line.product(), line.chosenOption());
    }

    boolean isOf(Sold set, String product, @Nullable String option) {
        if (set.isAnything()) {
            return true;
        }
        var known = index.product(product);
        return known.isPresent()
                && (set.products().contains(product)
                        || (option != null
                                && set.options().contains(option)
                                && known.get().hasOption(option))
                        || known.get().categories().stream().anyMatch(set.categories()::contains));
    }
}
