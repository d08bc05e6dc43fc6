package yoru.core.desk;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.access.Entitlement;
import yoru.core.access.Holding;
import yoru.core.access.Reason;
import yoru.core.access.Window;
import yoru.core.desk.Decision.Refusal;
import yoru.core.ledger.Grant;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Happening.Followed;
import yoru.core.ledger.History;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Target;

/**
 * What it takes to put somebody on another level. A higher one is laid over what they have; for a lower one what gives the
 * higher must end, and what was paid for the rest of its time is kept as time of the lower.
 */
final class LevelChange {

    private final RulebookIndex index;
    private final Act.ChangeLevel act;
    private final String key;
    private final List<Happening> happenings = new ArrayList<>();
    private final List<Refusal> refusals = new ArrayList<>();
    private boolean outside;

    private LevelChange(RulebookIndex index, Act.ChangeLevel act, String key) {
        this.index = index;
        this.act = act;
        this.key = key;
    }

    /** What would be said, or why it cannot be. */
    record Outcome(List<Happening> happenings, List<Refusal> refusals) {}

    /** @param key under which something that is given would be known */
    static Outcome of(Act.ChangeLevel act, History history, Engine engine, Instant now, String key) {
        var change = new LevelChange(engine.index(), act, key);
        var from = new Target.OfLevel(act.from());
        var held = engine.access(history, now).stream()
                .filter(one -> one.target().equals(from) && one.state().isOpen())
                .findFirst()
                .orElse(null);
        change.decide(held, now);
        return new Outcome(change.happenings, change.refusals);
    }

    private void decide(@Nullable Access held, Instant now) {
        var from = index.level(act.from()).orElse(null);
        var to = index.level(act.to()).orElse(null);
        if (from == null || held == null) {
            refusals.add(new Refusal("from", "They do not have this level now."));
        }
        if (to == null) {
            refusals.add(new Refusal("to", "There is no such level."));
        }
        if (act.to().equals(act.from())) {
            refusals.add(new Refusal("to", "They have it already."));
        }
        if (refusals.isEmpty() && from != null && to != null && held != null) {
            act.returned().forEach(course -> happenings.add(new Happening.CourseReleased(course)));
            held.entitlements().stream()
                    .filter(one -> one.stretch().open().contains(now))
                    .map(Entitlement::reason)
                    .forEach(reason -> end(reason, isHigher(to, from)));
            happenings.add(outside ? new Happening.LevelStarted(to.id()) : given(to, held, now, isHigher(to, from)));
        }
    }

    /** A higher level lasts as long as what it is laid over; of a lower one's time no more is known than what was paid. */
    private Happening given(Level to, Access held, Instant now, boolean higher) {
        var follows = held.entitlements().stream()
                .filter(one -> act.follows() && higher && one.stretch().open().contains(now))
                .sorted(Comparator.comparing(
                                (Entitlement one) -> one.stretch().span().end().orElse(Instant.MAX))
                        .reversed())
                .flatMap(one -> followed(one.reason()).stream())
                .findFirst()
                .orElse(null);
        return new Happening.GrantGiven(
                key,
                List.of(Destination.to(new Target.OfLevel(to.id()))),
                null,
                follows == null ? paidUntil(held) : null,
                follows,
                act.reason().strip());
    }

    /** Grace is time that was not paid for. */
    private static @Nullable Instant paidUntil(Access held) {
        var end = held.window().endOrNone();
        return end == null
                ? null
                : held.entitlements().stream()
                        .filter(one -> end.equals(one.stretch().span().endOrNone()))
                        .flatMap(one -> one.stretch().grace().asList().stream())
                        .filter(grace -> end.equals(grace.endOrNone()))
                        .map(Window::start)
                        .findFirst()
                        .orElse(end);
    }

    private static Optional<Followed> followed(Reason reason) {
        return switch (reason) {
            case Reason.Linked it ->
                switch (it.holding()) {
                    case Holding.Subscribed holding ->
                        Optional.of(new Followed.OfSubscription(
                                holding.subscription().id()));
                    case Holding.Bought holding ->
                        Optional.of(new Followed.OfLine(
                                holding.order().id(), holding.line().line()));
                    case Holding.Held holding ->
                        Optional.ofNullable(holding.through()).flatMap(through -> followed(through.reason()));
                    case Holding.Finished _ -> Optional.empty();
                };
            case Reason.ByHand it -> it.grant().details().follows();
            case Reason.FromOutside _, Reason.Chosen _ -> Optional.empty();
        };
    }

    private static boolean isHigher(Level to, Level from) {
        return to.ladder().isPresent() && to.ladder().equals(from.ladder()) && to.rank() > from.rank();
    }

    private void end(Reason reason, boolean higher) {
        switch (reason) {
            case Reason.FromOutside _ -> {
                outside = true;
                happenings.add(new Happening.LevelEnded(act.from()));
            }
            case Reason.ByHand it -> end(it.grant(), higher);
            case Reason.Linked it when !higher -> end(it.holding());
            case Reason.Linked _, Reason.Chosen _ -> {}
        }
    }

    private void end(Grant grant, boolean higher) {
        boolean alone = grant.details().to().size() == 1;
        if (alone) {
            happenings.add(new Happening.GrantEnded(grant.details().grant()));
        } else if (!higher) {
            refusals.add(
                    new Refusal("from", "It was given together with other things. End that, and give the rest anew."));
        }
    }

    private void end(Holding holding) {
        switch (holding) {
            case Holding.Subscribed it ->
                happenings.add(
                        new Happening.SubscriptionCancelled(it.subscription().id(), false));
            case Holding.Bought it ->
                refusals.add(new Refusal(
                        "from",
                        "It comes from order %s. Give that back first."
                                .formatted(it.order().id())));
            case Holding.Held it ->
                refusals.add(new Refusal("from", "It comes from %s. Take that back first.".formatted(it.path())));
            case Holding.Finished it ->
                refusals.add(
                        new Refusal("from", "It comes from a course that was finished (%s).".formatted(it.path())));
        }
    }
}
