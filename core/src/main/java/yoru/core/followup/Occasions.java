package yoru.core.followup;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.access.LineMoney;
import yoru.core.access.Purchase;
import yoru.core.followup.Occasion.Kind;
import yoru.core.ledger.ByCodePoint;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.ledger.Subscription;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Followup.When;
import yoru.core.rulebook.Target;

/** Finds what follow-ups can wait for. */
final class Occasions {

    /** An occasion and whose it is. */
    record OfPerson(String person, Occasion occasion) {}

    private final Engine engine;

    Occasions(Engine engine) {
        this.engine = engine;
    }

    /** What a fact makes, in its order; nothing where it was brought in as long past. */
    List<OfPerson> of(Fact fact, Histories known) {
        var found = new ArrayList<OfPerson>();
        if (fact.past()) {
            return found;
        }
        switch (fact.happening()) {
            case Happening.OrderPlaced it ->
                known.order(it.order())
                        .filter(order -> order.placed().equals(fact))
                        .ifPresent(order -> placed(order, found::add));
            case Happening.OrderPaid it ->
                atOrAfterPlaced(known, it.order(), fact)
                        .filter(order -> order.paid().filter(fact::equals).isPresent()
                                && order.total().signum() != 0)
                        .ifPresent(order -> ofOrder(order, Kind.PAID, fact.time(), found::add));
            case Happening.OrderFulfilled it ->
                atOrAfterPlaced(known, it.order(), fact)
                        .filter(order -> order.fulfilled().filter(fact::equals).isPresent())
                        .ifPresent(order -> ofOrder(order, Kind.FULFILLED, fact.time(), found::add));
            case Happening.OrderCancelled it ->
                atOrAfterPlaced(known, it.order(), fact)
                        .filter(order -> order.cancelled().filter(fact::equals).isPresent())
                        .ifPresent(order -> ofOrder(order, Kind.CANCELLED, fact.time(), found::add));
            case Happening.OrderRefunded it ->
                atOrAfterPlaced(known, it.order(), fact)
                        .ifPresent(order -> refunded(order, fact, fact.time(), found::add));
            case Happening.GiftClaimed it ->
                atOrAfterPlaced(known, it.order(), fact)
                        .ifPresent(order -> claimed(order, fact, it, fact.time(), found::add));
            case Happening.OfSubscription it -> subscription(known, it, fact).ifPresent(found::add);
            case Happening.CourseCompleted it -> {
                var person = known.personOf(fact.subject());
                boolean first = known.person(person).completed().stream()
                        .filter(other -> other.happening().equals(it))
                        .findFirst()
                        .filter(fact::equals)
                        .isPresent();
                if (first) {
                    var course = new Target.OfCourse(it.course());
                    found.add(new OfPerson(
                            person,
                            new Occasion(
                                    Kind.COMPLETED,
                                    "completed/" + it.course(),
                                    fact.time(),
                                    null,
                                    null,
                                    null,
                                    null,
                                    course)));
                }
            }
            case Happening.AccountMade it ->
                found.add(new OfPerson(
                        known.personOf(fact.subject()),
                        new Occasion(
                                Kind.ACCOUNT, "account/" + it.system(), fact.time(), null, null, null, null, null)));
            case Happening.OrderInvoiced _,
                    Happening.InstalmentPaid _,
                    Happening.InstalmentFailed _,
                    Happening.OfGrant _,
                    Happening.OfLevel _,
                    Happening.OfTag _,
                    Happening.OfList _,
                    Happening.CourseChosen _,
                    Happening.CourseReleased _,
                    Happening.OfPerson _,
                    Happening.OfFollowup _,
                    Happening.Unknown _ -> {}
        }
        return found;
    }

    /** The order, where it was placed by then. */
    private static Optional<Order> atOrAfterPlaced(Histories known, String id, Fact fact) {
        return known.order(id).filter(order -> !order.placed().time().isAfter(fact.time()));
    }

    /** Also what was said of it before: no moment of an order lies before it was placed. */
    private void placed(Order order, Consumer<OfPerson> to) {
        var at = order.placed().time();
        ofOrder(order, Kind.PLACED, at, to);
        if (order.total().signum() == 0 || wasBefore(order.paid(), at)) {
            ofOrder(order, Kind.PAID, at, to);
        }
        if (wasBefore(order.fulfilled(), at)) {
            ofOrder(order, Kind.FULFILLED, at, to);
        }
        if (wasBefore(order.cancelled(), at)) {
            ofOrder(order, Kind.CANCELLED, at, to);
        }
        order.money().stream()
                .filter(fact -> fact.happening() instanceof Happening.OrderRefunded
                        && !fact.past()
                        && fact.time().isBefore(at))
                .forEach(fact -> refunded(order, fact, at, to));
        order.claims().values().stream()
                .map(Order.Claim::fact)
                .filter(fact -> !fact.past() && fact.time().isBefore(at))
                .sorted(Fact.FOLDING_ORDER)
                .forEach(fact -> claimed(order, fact, (Happening.GiftClaimed) fact.happening(), at, to));
    }

    private static boolean wasBefore(Optional<Fact> fact, Instant at) {
        return fact.filter(it -> !it.past() && it.time().isBefore(at)).isPresent();
    }

    /** The order as one, then each of its lines. */
    private static void ofOrder(Order order, Kind kind, Instant at, Consumer<OfPerson> to) {
        to.accept(new OfPerson(
                order.person(), new Occasion(kind, "order/" + order.id(), at, order.id(), null, null, null, null)));
        for (OrderLine line : order.details().lines()) {
            to.accept(new OfPerson(order.person(), ofLine(kind, order, line, "", at)));
        }
    }

    private static Occasion ofLine(Kind kind, Order order, OrderLine line, String more, Instant at) {
        return new Occasion(
                kind,
                "order/" + order.id() + "/" + line.line() + more,
                at,
                order.id(),
                line.line(),
                null,
                line.product(),
                null);
    }

    private void refunded(Order order, Fact refund, Instant at, Consumer<OfPerson> to) {
        var more = "/refund/" + refund.id().id();
        var lines = order.details().lines().stream()
                .filter(line -> takesOff(order, line, refund))
                .toList();
        if (!lines.isEmpty()) {
            to.accept(new OfPerson(
                    order.person(),
                    new Occasion(Kind.REFUNDED, "order/" + order.id() + more, at, order.id(), null, null, null, null)));
        }
        lines.forEach(line -> to.accept(new OfPerson(order.person(), ofLine(Kind.REFUNDED, order, line, more, at))));
    }

    /** Whether a refund takes something off a line. */
    boolean takesOff(Order order, OrderLine line, Fact refund) {
        var before = BigDecimal.ZERO;
        for (LineMoney.Step step :
                engine.purchase(order).money(line.line()).map(LineMoney::steps).orElse(List.of())) {
            if (step.refund().equals(refund) && step.refunded().compareTo(before) > 0) {
                return true;
            }
            before = step.refunded();
        }
        return false;
    }

    private void claimed(Order order, Fact fact, Happening.GiftClaimed claimed, Instant at, Consumer<OfPerson> to) {
        var seat = new Order.Seat(claimed.line(), claimed.seat());
        var claim = order.claims().get(seat);
        var line = order.line(claimed.line()).orElse(null);
        if (claim == null || line == null || !claim.fact().equals(fact) || order.wasCancelledBefore(at)) {
            return;
        }
        boolean exists = engine.index()
                .product(line.product())
                .map(product -> Purchase.canBeClaimed(line, product, claimed.seat()))
                .orElseGet(() -> line.giftTo().isPresent() && claimed.seat() == 1);
        boolean gone = engine.purchase(order)
                .money(line.line())
                .flatMap(money -> money.reached(BigDecimal.ONE))
                .filter(refund -> refund.time().isBefore(at))
                .isPresent();
        if (exists && !gone) {
            to.accept(new OfPerson(claim.person(), ofLine(Kind.CLAIMED, order, line, "/" + claimed.seat(), at)));
        }
    }

    private static Optional<OfPerson> subscription(Histories known, Happening.OfSubscription it, Fact fact) {
        return known.subscription(it.subscription())
                .flatMap(one -> kind(one, it, fact)
                        .map(kind -> new OfPerson(
                                one.person(),
                                new Occasion(
                                        kind,
                                        "subscription/" + one.id() + "/" + word(kind) + "/"
                                                + fact.id().id(),
                                        fact.time(),
                                        null,
                                        null,
                                        one.id(),
                                        one.details().product(),
                                        null))));
    }

    private static Optional<Kind> kind(Subscription one, Happening.OfSubscription it, Fact fact) {
        return switch (it) {
            case Happening.SubscriptionStarted started ->
                one.started().equals(fact)
                        ? Optional.of(started.trial() ? Kind.SUBSCRIPTION_TRIAL : Kind.SUBSCRIPTION_STARTED)
                        : Optional.empty();
            case Happening.SubscriptionRenewed _ -> Optional.of(Kind.SUBSCRIPTION_RENEWED);
            case Happening.SubscriptionPaymentFailed _ -> Optional.of(Kind.SUBSCRIPTION_FAILED);
            case Happening.SubscriptionCancelled _ -> Optional.of(Kind.SUBSCRIPTION_CANCELLED);
            case Happening.SubscriptionRefunded _ -> Optional.empty();
        };
    }

    private static String word(Kind kind) {
        return kind.name().substring("SUBSCRIPTION_".length()).toLowerCase(Locale.ROOT);
    }

    /** What is no longer open, and what is since, at this instant; each by target. */
    List<Occasion> turned(View view) {
        var now = view.standing().open();
        var found = new ArrayList<Occasion>();
        if (now.equals(view.state().open)) {
            return found;
        }
        view.state().open.stream()
                .filter(target -> !now.contains(target))
                .sorted(BY_PATH)
                .forEach(target -> found.add(ofTarget(Kind.ENDED, "ended", target, view.now(), view.now())));
        now.stream()
                .filter(target -> !view.state().open.contains(target))
                .sorted(BY_PATH)
                .forEach(target -> found.add(ofTarget(Kind.OPENED, "opened", target, view.now(), view.now())));
        return found;
    }

    private static final Comparator<Target> BY_PATH = Comparator.comparing(Target::path, ByCodePoint.ORDER);

    private static Occasion ofTarget(Kind kind, String word, Target target, Instant named, Instant at) {
        return new Occasion(
                kind, word + "/" + target.path() + "/" + written(named), at, null, null, null, null, target);
    }

    private static String written(Instant moment) {
        return moment.truncatedTo(ChronoUnit.SECONDS).toString();
    }

    /** What is about to end, for a follow-up that waits for it; by target. */
    List<Occasion> ending(View view, Watched watched, Watched.Waits waits) {
        var of = watched.awaited(waits.followup());
        var found = new ArrayList<Occasion>(0);
        for (Access window : view.standing().windows()) {
            if (window.state().isOpen() && of.contains(window.target()) && isReached(window, watched, waits, view)) {
                found.add(ofTarget(
                        Kind.ENDING,
                        "ending",
                        window.target(),
                        window.window().end().orElseThrow(),
                        view.now()));
            }
        }
        if (found.size() > 1) {
            found.sort(Comparator.comparing(
                    it -> Objects.requireNonNull(it.targetOrNone()).path(), ByCodePoint.ORDER));
        }
        return found;
    }

    private static boolean isReached(Access window, Watched watched, Watched.Waits waits, View view) {
        return watched.reachedAt(window, waits.when())
                .filter(at -> !at.isAfter(view.now()))
                .isPresent();
    }

    /** The occasion that a follow-up once served, by its key; of an order as far as it is known. */
    static Occasion read(Followup followup, String key, Instant moment, Histories known) {
        var kind = Kind.of(followup.when());
        return switch (followup.when()) {
            case When.OfOrder _, When.Claimed _ -> ofOrder(followup, kind, key, moment, known);
            case When.OfSubscription _ -> {
                var rest = key.substring("subscription/".length());
                var word = "/" + word(kind) + "/";
                int at = rest.indexOf(word);
                var id = at < 0 ? rest : rest.substring(0, at);
                var product = known.subscription(id)
                        .map(one -> one.details().product())
                        .orElse(null);
                yield new Occasion(kind, key, moment, null, null, id, product, null);
            }
            case When.Opened _, When.Ended _, When.Ending _ -> {
                var path = key.substring(key.indexOf('/') + 1, key.lastIndexOf('/'));
                yield new Occasion(kind, key, moment, null, null, null, null, Target.read(path));
            }
            case When.Completed _ ->
                new Occasion(
                        kind,
                        key,
                        moment,
                        null,
                        null,
                        null,
                        null,
                        new Target.OfCourse(key.substring("completed/".length())));
            case When.Account _ -> new Occasion(kind, key, moment, null, null, null, null, null);
        };
    }

    private static Occasion ofOrder(Followup followup, Kind kind, String key, Instant moment, Histories known) {
        var rest = key.substring("order/".length());
        int refund = rest.lastIndexOf("/refund/");
        if (kind == Kind.REFUNDED && refund >= 0) {
            rest = rest.substring(0, refund);
        } else if (kind == Kind.CLAIMED) {
            rest = rest.substring(0, rest.lastIndexOf('/'));
        }
        String order = rest;
        String line = null;
        if (followup.eachLine() || kind == Kind.CLAIMED) {
            // ids may have a slash in them: where the order is known, it says where its own ends
            int cut = rest.lastIndexOf('/');
            for (int at = rest.indexOf('/'); at >= 0; at = rest.indexOf('/', at + 1)) {
                if (known.order(rest.substring(0, at)).isPresent()) {
                    cut = at;
                    break;
                }
            }
            order = rest.substring(0, cut);
            line = rest.substring(cut + 1);
        }
        String product = productOf(known, order, line);
        return new Occasion(kind, key, moment, order, line, null, product, null);
    }

    private static @Nullable String productOf(Histories known, String order, @Nullable String line) {
        return line == null
                ? null
                : known.order(order)
                        .flatMap(it -> it.line(line))
                        .map(OrderLine::product)
                        .orElse(null);
    }
}
