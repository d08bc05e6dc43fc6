package yoru.server.people;

import java.time.Instant;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Access;
import yoru.core.access.Choices;
import yoru.core.access.Ending;
import yoru.core.access.Holding;
import yoru.core.access.LeftLists;
import yoru.core.access.Reason;
import yoru.core.desk.Desk;
import yoru.core.followup.Followups;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Grant;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.Subscription;
import yoru.core.rulebook.Allowance;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
import yoru.server.rulebooks.Rulebooks;

/**
 * What a person has beside orders, and what can be done about it.
 *
 * @param places of each level with an allowance that counts
 * @param waiting courses that were chosen and have no place
 * @param choosable courses for which there is a place
 * @param levels held now, and not suspended
 * @param grants given by hand, and not over
 * @param left lists that they left, and that nothing gives them again unless they ask for it
 * @param outside levels and tags that came from a system or by hand, and can be taken back
 */
record Holdings(
        List<Places> places,
        List<Named> waiting,
        List<Named> choosable,
        List<HeldLevel> levels,
        List<Given> grants,
        List<Subscribed> subscriptions,
        List<LeftList> left,
        List<Named> outside) {

    record Named(String id, String title) {}

    record LeftList(String id, String title, Instant since) {}

    /** @param others levels that could take its place, those of its ladder first */
    record HeldLevel(String id, String title, List<OtherLevel> others) {}

    /** @param courses how many can be chosen with it */
    record OtherLevel(String id, String title, int courses) {}

    /** @param premiumLeft none = as many as there are places */
    record Places(
            String level,
            String title,
            int courses,
            int left,
            @Nullable Integer premiumLeft,
            List<Named> taken) {}

    record Given(
            String grant,
            List<String> titles,
            String reason,
            Instant since,
            @Nullable Instant until) {}

    /** How a subscription stands. */
    enum Paying {
        PAID,
        /** The paid time is over, and it is waited for the next payment. */
        IN_GRACE,
        ENDED
    }

    /**
     * @param failedAt when the last payment that did not come was reported, where none came since
     * @param ends when it ends, if nothing more is paid; none = never
     * @param cancelled whether it was cancelled or paid back, so that nothing more is to be paid
     */
    record Subscribed(
            String subscription,
            String product,
            Instant since,
            Instant paidThrough,
            Paying paying,
            @Nullable Instant failedAt,
            @Nullable Instant ends,
            boolean cancelled) {}

    static Holdings of(Rulebooks.InForce now, Ledger facts, String person, List<Access> access, Instant asOf) {
        var history = Histories.of(facts).person(person);
        var choices = now.engine().choices(history, asOf);
        var rulebook = now.rulebook();
        return new Holdings(
                choices.places().stream()
                        .filter(places -> places.allowance().courses() > 0)
                        .map(places -> places(places, rulebook))
                        .toList(),
                choices.waiting().stream()
                        .map(course -> course(course, rulebook))
                        .toList(),
                new Desk(now.engine(), facts, asOf)
                        .choosable(person).stream()
                                .map(course -> course(course, rulebook))
                                .toList(),
                topmost(access.stream()
                                .filter(one -> one.state().isOpen())
                                .map(Access::target)
                                .flatMap(target -> target instanceof Target.OfLevel it
                                        ? now.engine().index().level(it.level()).stream()
                                        : Stream.empty())
                                .toList())
                        .map(level -> level(level, rulebook))
                        .toList(),
                history.grants().stream()
                        .filter(grant -> !Followups.isOwn(grant.given()))
                        .filter(grant -> grant.ended().isEmpty())
                        .flatMap(grant -> given(grant, access, rulebook, asOf).stream())
                        .toList(),
                history.subscriptions().stream()
                        .map(it -> subscribed(it, now, asOf))
                        .toList(),
                LeftLists.of(history.lists()).still().entrySet().stream()
                        .map(left -> new LeftList(
                                left.getKey(), rulebook.title(new Target.OfList(left.getKey())), left.getValue()))
                        .toList(),
                outside(history, rulebook));
    }

    private static Places places(Choices.Places places, Rulebook rulebook) {
        OptionalInt premium = places.premiumLeft();
        return new Places(
                places.level().id(),
                places.level().title(),
                places.allowance().courses(),
                places.left(),
                premium.isPresent() ? premium.getAsInt() : null,
                places.taken().stream().map(course -> course(course, rulebook)).toList());
    }

    /** Of each ladder the highest: it is in the place of those below it. */
    private static Stream<Level> topmost(List<Level> held) {
        return held.stream()
                .filter(level -> held.stream()
                        .noneMatch(other -> other.ladder().isPresent()
                                && other.ladder().equals(level.ladder())
                                && other.rank() > level.rank()));
    }

    private static HeldLevel level(Level held, Rulebook rulebook) {
        return new HeldLevel(
                held.id(),
                held.title(),
                rulebook.levels().stream()
                        .filter(other -> !other.id().equals(held.id()))
                        .sorted(Comparator.comparing(
                                        (Level other) -> held.ladder().isEmpty()
                                                || !other.ladder().equals(held.ladder()))
                                .thenComparingInt(Level::rank))
                        .map(other -> new OtherLevel(
                                other.id(),
                                other.title(),
                                other.allowance().map(Allowance::courses).orElse(0)))
                        .toList());
    }

    private static Named course(String id, Rulebook rulebook) {
        return new Named(id, rulebook.title(new Target.OfCourse(id)));
    }

    private static Optional<Given> given(Grant grant, List<Access> access, Rulebook rulebook, Instant asOf) {
        var opened = access.stream()
                .flatMap(one -> one.entitlements().stream())
                .filter(it -> it.reason() instanceof Reason.ByHand byHand
                        && byHand.grant()
                                .details()
                                .grant()
                                .equals(grant.details().grant()))
                .toList();
        if (opened.isEmpty()
                || opened.stream().allMatch(it -> it.stretch().span().isOverAt(asOf))) {
            return Optional.empty();
        }
        return Optional.of(new Given(
                grant.details().grant(),
                grant.details().to().stream().map(rulebook::title).toList(),
                grant.details().reason(),
                grant.given().time(),
                opened.getFirst().stretch().span().endOrNone()));
    }

    private static Subscribed subscribed(Subscription subscription, Rulebooks.InForce now, Instant asOf) {
        var paidThrough = Stream.concat(
                        Stream.of(subscription.details().paidThrough()),
                        subscription.later().stream()
                                .map(Fact::happening)
                                .flatMap(it -> it instanceof Happening.SubscriptionRenewed renewed
                                        ? Stream.of(renewed.paidThrough())
                                        : Stream.empty()))
                .max(Instant::compareTo)
                .orElseThrow();
        var ending = now.engine().runs(subscription).stream()
                .reduce((first, later) -> later)
                .map(Holding.Subscribed::ending)
                .orElse(null);
        return new Subscribed(
                subscription.id(),
                now.rulebook().titleOfProduct(subscription.details().product()),
                subscription.started().time(),
                paidThrough,
                ending != null && !ending.at().isAfter(asOf)
                        ? Paying.ENDED
                        : paidThrough.isAfter(asOf) ? Paying.PAID : Paying.IN_GRACE,
                failedAt(subscription),
                ending == null ? null : ending.at(),
                ending != null
                        && (ending.cause() instanceof Ending.Cause.Cancelled
                                || ending.cause() instanceof Ending.Cause.Refunded));
    }

    private static @Nullable Instant failedAt(Subscription subscription) {
        return subscription.later().stream()
                .filter(fact -> fact.happening() instanceof Happening.SubscriptionRenewed
                        || fact.happening() instanceof Happening.SubscriptionPaymentFailed)
                .reduce((first, later) -> later)
                .filter(fact -> fact.happening() instanceof Happening.SubscriptionPaymentFailed)
                .map(Fact::time)
                .orElse(null);
    }

    private static void holds(Set<Target> held, Target target, boolean begins) {
        if (begins) {
            held.add(target);
        } else {
            held.remove(target);
        }
    }

    private static List<Named> outside(History history, Rulebook rulebook) {
        var held = new LinkedHashSet<Target>();
        for (Fact fact : history.levels()) {
            if (fact.happening() instanceof Happening.OfLevel it) {
                holds(held, new Target.OfLevel(it.level()), it instanceof Happening.LevelStarted);
            }
        }
        for (Fact fact : history.tags()) {
            if (fact.happening() instanceof Happening.OfTag it) {
                holds(held, new Target.OfTag(it.tag()), it instanceof Happening.TagAdded);
            }
        }
        return held.stream()
                .map(target -> new Named(target.path(), rulebook.title(target)))
                .toList();
    }
}
