package yoru.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import yoru.core.World;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Applies;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Quantity;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Starts;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;

/** A generator that quietly stopped making something would make the properties prove less. */
class WorldTests {

    private static final int SEEDS = 400;

    private final Map<String, Integer> worldsWith = new HashMap<>();

    @Test
    void everythingIsMadeOftenEnough() {
        for (long seed = 0; seed < SEEDS; seed++) {
            var found = new HashSet<String>();
            look(World.of(seed), found);
            found.forEach(what -> worldsWith.merge(what, 1, Integer::sum));
        }
        assertThat(leaves(Happening.class)).allSatisfy(kind -> share(name(kind), 0.1));
        assertThat(Stream.of(
                                Source.class,
                                Starts.class,
                                Length.class,
                                Billing.class,
                                Target.class,
                                Holding.class,
                                Reason.class,
                                Ending.Cause.class)
                        .flatMap(type -> leaves(type).stream())
                        .toList())
                .allSatisfy(kind -> share(name(kind), 0.04));
        assertThat(leaves(Destination.class)).allSatisfy(kind -> share("link to " + name(kind), 0.04));
        assertThat(List.of(State.values())).allSatisfy(state -> share(state.toString(), 0.04));
        assertThat(List.of(Quantity.values())).allSatisfy(quantity -> share(quantity.toString(), 0.04));
        assertThat(List.of(
                        "capped",
                        "refund keep",
                        "refund share",
                        "applies from",
                        "TAKE_BACK",
                        "RUN_OUT",
                        "suspended",
                        "taken out",
                        "grace",
                        "renews",
                        "seat",
                        "moved by a chain",
                        "waiting choice",
                        "behind two links",
                        "same person, target and instant"))
                .allSatisfy(what -> share(what, 0.04));
    }

    private void share(String what, double least) {
        assertThat(worldsWith.getOrDefault(what, 0) / (double) SEEDS).as(what).isGreaterThanOrEqualTo(least);
    }

    private static String name(Class<?> kind) {
        return kind.getEnclosingClass().getSimpleName() + "." + kind.getSimpleName();
    }

    private static List<Class<?>> leaves(Class<?> sealed) {
        return Arrays.stream(sealed.getPermittedSubclasses())
                .flatMap(kind -> kind.isSealed() ? leaves(kind).stream() : Stream.<Class<?>>of(kind))
                .toList();
    }

    private static void look(World world, Set<String> found) {
        world.facts().forEach(fact -> found.add(name(fact.happening().getClass())));
        world.rulebook().products().forEach(product -> {
            found.add(name(product.billing().getClass()));
            found.add(product.quantity().toString());
        });
        world.rulebook().links().forEach(link -> look(link, found));
        var engine = new Engine(world.rulebook());
        for (var asOf : List.of(World.MOMENTS.get(5), World.MOMENTS.get(9), World.END)) {
            var access = engine.evaluate(Ledger.of(world.facts()), asOf).access();
            access.forEach(one -> look(one, found));
            var starts = access.stream()
                    .flatMap(one -> one.entitlements().stream())
                    .distinct()
                    .map(it -> List.of(
                            it.person(), it.target(), it.stretch().span().start()))
                    .toList();
            if (new HashSet<>(starts).size() < starts.size()) {
                found.add("same person, target and instant");
            }
            var histories = Histories.of(Ledger.of(world.facts()).asOf(asOf));
            if (histories.all().stream()
                    .anyMatch(
                            history -> !engine.choices(history, asOf).waiting().isEmpty())) {
                found.add("waiting choice");
            }
        }
    }

    private static void look(Link link, Set<String> found) {
        found.add(name(link.from().getClass()));
        link.to().forEach(to -> {
            found.add("link to " + name(to.getClass()));
            if (to instanceof Destination.Exactly it) {
                found.add(name(it.target().getClass()));
            } else {
                found.add(name(Target.OfCourse.class));
            }
        });
        var terms = link.terms();
        found.add(name(terms.starts().getClass()));
        found.add(name(terms.length().getClass()));
        terms.until().ifPresent(cap -> found.add("capped"));
        if (terms.refund() == Terms.OnRefund.KEEP) {
            found.add("refund keep");
        }
        if (terms.refundShare().signum() < 1 || terms.refundShare().scale() > 0) {
            found.add("refund share");
        }
        link.applies().from().ifPresent(from -> found.add("applies from"));
        if (!link.applies().equals(Applies.ALWAYS)) {
            found.add(link.applies().afterwards().toString());
        }
    }

    private static void look(Access access, Set<String> found) {
        found.add(access.state().toString());
        if (access.renews()) {
            found.add("renews");
        }
        for (Entitlement one : access.entitlements()) {
            found.add(name(one.reason().getClass()));
            if (one.ending() != null) {
                found.add(name(one.ending().cause().getClass()));
            }
            if (!one.stretch().suspended().isEmpty()) {
                found.add("suspended");
            }
            if (!one.stretch().takenOut().isEmpty()) {
                found.add("taken out");
            }
            if (!one.stretch().grace().isEmpty()) {
                found.add("grace");
            }
            if (one.reason() instanceof Reason.Linked it) {
                found.add(name(it.holding().getClass()));
                look(it, one, found);
            }
        }
    }

    private static void look(Reason.Linked reason, Entitlement entitlement, Set<String> found) {
        if (reason.holding() instanceof Holding.Bought bought && bought.claim().isPresent()) {
            found.add("seat");
        }
        if (reason.holding() instanceof Holding.Held held && held.through() != null) {
            found.add("behind two links");
        }
        if (reason.link().terms().repeat() == Terms.Repeat.EXTEND
                && reason.link().terms().starts() instanceof Starts.AtOnce
                && entitlement.stretch().span().start().isAfter(reason.holding().start())) {
            found.add("moved by a chain");
        }
    }
}
