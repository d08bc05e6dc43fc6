package yoru.core.impact;

import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import yoru.core.ledger.Fact;
import yoru.core.ledger.History;
import yoru.core.ledger.Mention;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.ledger.Subscription;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Thing;

/**
 * Whom the difference between two rulebooks can concern: those of whom a fact mentions one of these things. Rather too
 * many than too few.
 *
 * @param everybody whether the difference can concern anybody whatever they have
 * @param mentions otherwise, what a fact must mention
 */
public record Concern(boolean everybody, Set<Mention> mentions) {

    public static final Concern EVERYBODY = new Concern(true, Set.of());
    public static final Concern NOBODY = new Concern(false, Set.of());

    public Concern {
        mentions = Set.copyOf(mentions);
    }

    /** Whom the difference between two can concern. */
    public static Concern of(Rulebook before, Rulebook after) {
        var old = before.school();
        var now = after.school();
        boolean everybody = !old.zone().equals(now.zone())
                || old.opensOn() != now.opensOn()
                || !old.tiers().equals(now.tiers())
                || !old.ladders().equals(now.ladders())
                || !before.levels().equals(after.levels());
        if (everybody) {
            return EVERYBODY;
        }
        var search = new Search(new RulebookIndex(before), new RulebookIndex(after));
        search.links();
        search.things();
        return new Concern(false, search.found);
    }

    /**
     * Whom the difference between two can concern in what follow-ups do and say: everybody where anything but links differs,
     * for it can be waited for, asked or named in a letter, and where what is given counts, for follow-ups give.
     */
    public static Concern inFollowups(Rulebook before, Rulebook after) {
        if (!before.withLinks(after.links()).equals(after)) {
            return EVERYBODY;
        }
        var concern = of(before, after);
        return concern.mentions.contains(new Mention.OfGrant()) ? EVERYBODY : concern;
    }

    /** Whoever can have, or have had, a target under a rulebook. */
    public static Concern ofAccessTo(Target target, RulebookIndex index) {
        var others = index.rulebook().links().stream()
                .filter(link -> !index.targets(link).contains(target))
                .toList();
        var search = new Search(new RulebookIndex(index.rulebook().withLinks(others)), index);
        search.links();
        search.found.add(new Mention.OfGrant());
        switch (target) {
            case Target.OfCourse it -> search.found.add(new Mention.OfCourse(it.course()));
            case Target.OfSection it -> search.found.add(new Mention.OfCourse(it.course()));
            case Target.OfLevel it -> search.touch(new Source.OfLevel(it.level()));
            case Target.OfTag it -> search.touch(new Source.OfTag(it.tag()));
            case Target.OfGroup _, Target.OfArea _, Target.OfDownload _, Target.OfList _ -> {}
        }
        return new Concern(false, search.found);
    }

    /** Whom the one or the other can concern. */
    public Concern or(Concern other) {
        return new Concern(
                everybody || other.everybody,
                Stream.concat(mentions.stream(), other.mentions.stream()).collect(Collectors.toSet()));
    }

    /** Whether it can concern somebody. */
    public boolean isOf(History history) {
        return everybody
                || (!isNothing()
                        && (history.orders().stream().anyMatch(this::isOf)
                                || history.claimed().stream().anyMatch(this::isOf)
                                || history.subscriptions().stream()
                                        .map(Subscription::started)
                                        .anyMatch(this::isOf)
                                || history.levels().stream().anyMatch(this::isOf)
                                || history.tags().stream().anyMatch(this::isOf)
                                || history.completed().stream().anyMatch(this::isOf)
                                || history.choices().stream().anyMatch(this::isOf)
                                || (!history.grants().isEmpty() && mentions.contains(new Mention.OfGrant()))));
    }

    private boolean isOf(Order order) {
        return order.details().lines().stream()
                .map(OrderLine::product)
                .anyMatch(product -> mentions.contains(new Mention.OfProduct(product)));
    }

    private boolean isOf(Fact fact) {
        return Mention.in(fact.happening()).stream().anyMatch(mentions::contains);
    }

    public boolean isNothing() {
        return !everybody && mentions.isEmpty();
    }

    /** Follows each difference back to what people have. */
    private static final class Search {

        private final RulebookIndex before;
        private final RulebookIndex after;
        private final Set<Source> seen = new HashSet<>();
        private final Set<Mention> found = new HashSet<>();

        Search(RulebookIndex before, RulebookIndex after) {
            this.before = before;
            this.after = after;
        }

        void links() {
            var old = before.rulebook().linksById();
            var now = after.rulebook().linksById();
            for (Link link : before.rulebook().links()) {
                var other = now.get(link.id());
                if (other == null
                        || !link.equals(other)
                        || !before.targets(link).equals(after.targets(other))) {
                    touch(link.from());
                }
            }
            for (Link link : after.rulebook().links()) {
                if (!link.equals(old.get(link.id()))) {
                    touch(link.from());
                }
            }
        }

        void things() {
            for (String product : differing(Sort.PRODUCT)) {
                touch(new Source.OfProduct(product));
            }
            var courses = differing(Sort.COURSE);
            courses.forEach(course -> found.add(new Mention.OfCourse(course)));
            for (String tag : differing(Sort.TAG)) {
                touch(new Source.OfTag(tag));
            }
            boolean granted = !courses.isEmpty()
                    || Stream.of(Sort.values())
                            .filter(Sort::isOnlyNamed)
                            .anyMatch(sort -> !before.rulebook()
                                    .all(sort)
                                    .equals(after.rulebook().all(sort)));
            if (granted) {
                found.add(new Mention.OfGrant());
            }
        }

        private Set<String> differing(Sort sort) {
            var old = byId(before.rulebook().all(sort));
            var now = byId(after.rulebook().all(sort));
            return Stream.concat(old.keySet().stream(), now.keySet().stream())
                    .filter(one -> !Objects.equals(old.get(one), now.get(one)))
                    .collect(Collectors.toSet());
        }

        private static Map<String, Thing> byId(List<Thing> things) {
            Map<String, Thing> map = new HashMap<>();
            things.forEach(thing -> map.put(thing.id(), thing));
            return map;
        }

        private void touch(Source source) {
            if (!seen.add(source)) {
                return;
            }
            switch (source) {
                case Source.OfProduct it -> found.add(new Mention.OfProduct(it.product()));
                case Source.OfOption it -> products(product -> product.hasOption(it.option()));
                case Source.OfCategory it ->
                    products(product -> product.categories().contains(it.category()));
                case Source.OfCompleted it -> found.add(new Mention.OfCourse(it.course()));
                case Source.OfTag it -> {
                    found.add(new Mention.OfTag(it.tag()));
                    leadingTo(new Target.OfTag(it.tag()));
                }
                case Source.OfLevel it -> {
                    found.add(new Mention.OfLevel(it.level()));
                    leadingTo(new Target.OfLevel(it.level()));
                    // on a ladder, holding another level can serve or cover this one
                    after.level(it.level()).flatMap(Level::ladder).stream()
                            .flatMap(ladder -> after.levelsOn(ladder).stream())
                            .forEach(level -> touch(new Source.OfLevel(level.id())));
                }
            }
        }

        private void products(Predicate<Product> which) {
            Stream.of(before, after)
                    .flatMap(index -> index.rulebook().products().stream())
                    .filter(which)
                    .forEach(product -> found.add(new Mention.OfProduct(product.id())));
        }

        private void leadingTo(Target target) {
            found.add(new Mention.OfGrant());
            Stream.of(before, after)
                    .flatMap(index -> index.rulebook().links().stream())
                    .filter(link -> link.to().contains(new Destination.Exactly(target)))
                    .forEach(link -> touch(link.from()));
        }
    }
}
