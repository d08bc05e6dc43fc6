package yoru.core.segments;

import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import yoru.core.followup.PurchaseSet;
import yoru.core.impact.Concern;
import yoru.core.ledger.Mention;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.RulebookIndex;

/**
 * People of whom all of some things are so, or any of them.
 *
 * @param conditions none = everybody
 */
public record Segment(boolean any, List<Condition> conditions) {

    public Segment {
        conditions = List.copyOf(conditions);
    }

    /** Of whom it can be so; rather too many than too few. */
    public Concern concern(RulebookIndex index) {
        var each = conditions.stream().map(condition -> condition.concern(index));
        return any
                ? each.reduce(Concern::or).orElse(Concern.EVERYBODY)
                : each.filter(concern -> !concern.everybody()).findFirst().orElse(Concern.EVERYBODY);
    }

    /** Whether it matters how people are called. */
    public boolean asksForNames() {
        return conditions.stream().anyMatch(condition -> condition.criterion instanceof Criterion.Called);
    }

    /** @param not whether it must not be so */
    public record Condition(boolean not, Criterion criterion) {

        private Concern concern(RulebookIndex index) {
            return not ? Concern.EVERYBODY : of(criterion, index);
        }

        private static Concern of(Criterion criterion, RulebookIndex index) {
            return switch (criterion) {
                case Criterion.Has it -> Concern.ofAccessTo(it.target(), index);
                case Criterion.Had it -> Concern.ofAccessTo(it.target(), index);
                case Criterion.WillLose it -> Concern.ofAccessTo(it.target(), index);
                case Criterion.Bought it -> of(it.set(), index);
                case Criterion.FirstBought it -> of(it.set(), index);
                case Criterion.LosesACourse _, Criterion.CouldChoose _, Criterion.Called _ -> Concern.EVERYBODY;
            };
        }

        /** An option can be of a product that the rulebook does not know. */
        private static Concern of(PurchaseSet set, RulebookIndex index) {
            if (!set.options().isEmpty()) {
                return Concern.EVERYBODY;
            }
            var ofCategories = index.rulebook().products().stream()
                    .filter(product -> product.categories().stream().anyMatch(set.categories()::contains))
                    .map(Product::id);
            return new Concern(
                    false,
                    Stream.concat(set.products().stream(), ofCategories)
                            .map(Mention.OfProduct::new)
                            .collect(Collectors.toSet()));
        }
    }
}
