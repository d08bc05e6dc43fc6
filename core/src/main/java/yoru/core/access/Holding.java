package yoru.core.access;

import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.ledger.Subscription;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Quantity;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;
import yoru.core.rulebook.Terms.OnRefund;

/** A stretch of time in which a person has a source. */
public sealed interface Holding {

    String person();

    Instant start();

    /** The fact that began it. */
    Fact startedBy();

    /** When and why it ends for a link with these terms; none = never. */
    @Nullable
    Ending end(Terms terms);

    /** What it is and where it comes from, to tell it from others of the same person. */
    String path();

    /** When it gives nothing because a payment is missing. */
    default Windows suspended() {
        return Windows.NONE;
    }

    /** When it gives nothing because a higher level covers it. */
    default Windows takenOut() {
        return Windows.NONE;
    }

    /** When it goes on although a payment is due. */
    default Windows grace() {
        return Windows.NONE;
    }

    /** How many times the length of a link it gives. */
    default int times() {
        return 1;
    }

    /**
     * A line of an order, or a seat of one.
     *
     * @param seat 1 = the first, or the line itself
     * @param claimOrNone how somebody came to a seat that they did not buy for themselves
     */
    record Bought(
            Order order,
            OrderLine line,
            Product product,
            int seat,
            @Nullable Fact claimOrNone,
            String person,
            Instant start,
            Fact startedBy,
            LineMoney money,
            Windows suspended,
            Windows grace)
            implements Holding {

        public Optional<Fact> claim() {
            return Optional.ofNullable(claimOrNone);
        }

        @Override
        public @Nullable Ending end(Terms terms) {
            var cancelled = order.cancelled()
                    .map(by -> new Ending(by.time(), new Ending.Cause.Cancelled(by)))
                    .orElse(null);
            if (terms.refund() == OnRefund.KEEP) {
                return cancelled;
            }
            var refunded = money.reached(terms.refundShare())
                    .map(by -> new Ending(by.time(), new Ending.Cause.Refunded(by)))
                    .orElse(null);
            return Ending.earlier(cancelled, refunded);
        }

        @Override
        public String path() {
            return "order " + order.id() + " line " + line.line() + " seat " + seat;
        }

        @Override
        public int times() {
            return product.quantity() == Quantity.LONGER ? line.quantity() : 1;
        }
    }

    /**
     * An unbroken run of a subscription.
     *
     * @param ending as the terms by which it was computed have it; none = never
     */
    record Subscribed(
            Subscription subscription,
            Product product,
            Instant start,
            Fact startedBy,
            @Nullable Ending ending,
            Windows grace)
            implements Holding {

        @Override
        public String person() {
            return subscription.person();
        }

        @Override
        public String path() {
            return "subscription " + subscription.id();
        }

        @Override
        public @Nullable Ending end(Terms terms) {
            return ending;
        }
    }

    /**
     * A level or a tag.
     *
     * @param what which of them
     * @param through what gave it; none = it came from outside
     */
    record Held(
            Target what,
            String person,
            Instant start,
            Fact startedBy,
            @Nullable Ending ending,
            Windows suspended,
            Windows takenOut,
            Windows grace,
            @Nullable Entitlement through)
            implements Holding {

        @Override
        public @Nullable Ending end(Terms terms) {
            return ending;
        }

        @Override
        public String path() {
            return through == null ? what.path() : through.reason().path() + " > " + what.path();
        }

        Window span() {
            return new Window(start, ending == null ? null : ending.at());
        }

        /** When it is held and gives something. */
        Windows effective() {
            return Windows.of(span()).minus(suspended).minus(takenOut);
        }

        /** When it ends only if a payment does not come; none = it does not. */
        Optional<Instant> renewsAt() {
            if (through == null || !through.renews()) {
                return Optional.empty();
            }
            var open = effective();
            return open.isEmpty() ? Optional.empty() : open.asList().getLast().end();
        }

        Held without(Windows covered) {
            return new Held(
                    what,
                    person,
                    start,
                    startedBy,
                    ending,
                    suspended,
                    takenOut.plus(covered.within(span())),
                    grace,
                    through);
        }
    }

    /** A course that was finished, for good. */
    record Finished(String course, String person, Fact startedBy) implements Holding {

        @Override
        public Instant start() {
            return startedBy.time();
        }

        @Override
        public String path() {
            return "finished " + course;
        }

        @Override
        public @Nullable Ending end(Terms terms) {
            return null;
        }
    }
}
