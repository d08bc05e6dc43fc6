package yoru.core.access;

import java.time.Instant;
import java.time.Period;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening.SubscriptionCancelled;
import yoru.core.ledger.Happening.SubscriptionRefunded;
import yoru.core.ledger.Happening.SubscriptionRenewed;
import yoru.core.ledger.Subscription;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Billing.Recurring;
import yoru.core.rulebook.Product;
import yoru.core.time.SchoolCalendar;

/** Folds the facts of a subscription into the runs in which it was held without a break. */
final class SubscriptionRuns {

    /** How a subscription of something that is not recurring runs: as far as it is paid. */
    private static final Recurring NO_GRACE = new Recurring(Period.ZERO, Period.ZERO, Period.ZERO, null, false);

    private final Subscription subscription;
    private final Product product;
    private final Recurring plan;
    private final SchoolCalendar calendar;
    private final List<Holding.Subscribed> runs = new ArrayList<>(1);

    private Instant start;
    private Fact startedBy;
    private Instant paidThrough;
    private boolean trial;
    private int periods;
    private @Nullable Ending ending;
    /** Ended at once: only a new run can follow. */
    private boolean closed;

    private List<Window> grace = new ArrayList<>(1);

    private SubscriptionRuns(Subscription subscription, Product product, SchoolCalendar calendar) {
        this.subscription = subscription;
        this.product = product;
        this.plan = switch (product.billing()) {
            case Recurring it -> it;
            case Billing.Once _, Billing.Free _, Billing.Instalments _ -> NO_GRACE;
        };
        this.calendar = calendar;
        this.start = subscription.started().time();
        this.startedBy = subscription.started();
        this.paidThrough = subscription.details().paidThrough();
        this.trial = subscription.details().trial();
        this.periods = trial ? 0 : 1;
        this.ending = endAsPaid();
    }

    /** @param refundEnds whether paying back the running period ends it, or changes nothing */
    static List<Holding.Subscribed> of(
            Subscription subscription, Product product, SchoolCalendar calendar, boolean refundEnds) {
        var fold = new SubscriptionRuns(subscription, product, calendar);
        for (Fact fact : subscription.later()) {
            if (fact.happening() instanceof SubscriptionRenewed it) {
                fold.renewed(fact, it);
            } else if (fact.happening() instanceof SubscriptionCancelled it) {
                if (it.atPeriodEnd()) {
                    fold.cancelledAtPeriodEnd(fact);
                } else {
                    fold.endNow(fact, new Ending.Cause.Cancelled(fact));
                }
            } else if (fact.happening() instanceof SubscriptionRefunded && refundEnds) {
                fold.endNow(fact, new Ending.Cause.Refunded(fact));
            }
        }
        fold.finishRun();
        return fold.runs;
    }

    private void renewed(Fact fact, SubscriptionRenewed renewal) {
        boolean continues = !closed && (ending == null || !fact.time().isAfter(ending.at()));
        boolean movesOn = closed || renewal.paidThrough().isAfter(paidThrough);
        var before = ending;
        if (!continues) {
            finishRun();
            start = fact.time();
            startedBy = fact;
            closed = false;
            paidThrough = renewal.paidThrough();
        } else if (movesOn) {
            grace.add(new Window(paidThrough, fact.time()));
            paidThrough = renewal.paidThrough();
        }
        if (movesOn) {
            trial = false;
            periods++;
        }
        ending = endAsPaid();
        if (continues && ending != null && (before == null || ending.at().isBefore(before.at()))) {
            // being paid never moves the end back
            ending = before;
        }
    }

    private void cancelledAtPeriodEnd(Fact fact) {
        if (closed || ending == null || !fact.time().isBefore(ending.at()) || isCancelled(ending)) {
            return;
        }
        ending = new Ending(Window.later(paidThrough, fact.time()), new Ending.Cause.Cancelled(fact));
    }

    private void endNow(Fact fact, Ending.Cause cause) {
        if (closed || (ending != null && fact.time().isAfter(ending.at()))) {
            return;
        }
        ending = new Ending(fact.time(), cause);
        closed = true;
    }

    private static boolean isCancelled(Ending ending) {
        return ending.cause() instanceof Ending.Cause.Cancelled;
    }

    private @Nullable Ending endAsPaid() {
        if (plan.cycles().isPresent() && periods >= plan.cycles().getAsInt()) {
            return plan.keepAfterLast() ? null : new Ending(paidThrough, new Ending.Cause.LastCycle());
        }
        var more = trial ? plan.trialGrace() : plan.grace();
        return new Ending(calendar.plus(paidThrough, more), new Ending.Cause.Unpaid());
    }

    private void finishRun() {
        if (ending != null) {
            grace.add(new Window(paidThrough, ending.at()));
        }
        runs.add(new Holding.Subscribed(subscription, product, start, startedBy, ending, Windows.of(grace)));
        grace = new ArrayList<>(1);
    }
}
