package yoru.core.ledger;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.Period;
import java.util.Currency;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Followup;

/** What a fact says. A new kind does not compile until every place that reads facts has decided about it. */
public sealed interface Happening {

    /** What is said about an order. */
    sealed interface OfOrder extends Happening {
        String order();
    }

    /** What is said about a subscription. */
    sealed interface OfSubscription extends Happening {
        String subscription();
    }

    /** What is said about something given by hand. */
    sealed interface OfGrant extends Happening {
        String grant();
    }

    /** What is said about a level that was given or taken outside. */
    sealed interface OfLevel extends Happening {
        String level();
    }

    /** What is said about a tag that was put on or taken off outside. */
    sealed interface OfTag extends Happening {
        String tag();
    }

    /** What somebody decided about a list. */
    sealed interface OfList extends Happening {
        String list();
    }

    /** What somebody did about a course. */
    sealed interface OfCourse extends Happening {
        String course();
    }

    /** What is said about who is who. */
    sealed interface OfPerson extends Happening {}

    /**
     * Somebody ordered.
     *
     * @param lines at least one, each with an id of its own
     * @param payBy by when it is to be paid, as the school counts days
     * @param reason why it costs what it costs, in the words of who entered it; empty = nothing was said
     */
    record OrderPlaced(
            String order,
            Channel channel,
            Currency currency,
            List<OrderLine> lines,
            @Nullable LocalDate payBy,
            String reason)
            implements OfOrder {
        public OrderPlaced {
            lines = List.copyOf(lines);
        }

        public OrderPlaced(String order, Channel channel, Currency currency, List<OrderLine> lines) {
            this(order, channel, currency, lines, null, "");
        }

        public BigDecimal total() {
            return lines.stream().map(OrderLine::amount).reduce(BigDecimal.ZERO, BigDecimal::add);
        }
    }

    /**
     * @param method how, in a word or two, as "bank transfer"; empty = nothing was said
     * @param reference by which the payment is found in the books; empty = nothing was said
     */
    record OrderPaid(String order, String method, String reference) implements OfOrder {
        public OrderPaid(String order) {
            this(order, "", "");
        }
    }

    /**
     * An invoice was sent; it changes no access.
     *
     * @param payBy as the school counts days
     */
    record OrderInvoiced(
            String order, String number, @Nullable LocalDate payBy) implements OfOrder {}

    record OrderFulfilled(String order) implements OfOrder {}

    record OrderCancelled(String order) implements OfOrder {}

    /**
     * Money was given back: for one line or for the whole order, an amount or all that is left of it.
     *
     * @param reason in the words of who did it; empty = nothing was said
     */
    record OrderRefunded(
            String order,
            @Nullable String onlyLine,
            @Nullable BigDecimal onlyAmount,
            String reason) implements OfOrder {
        public OrderRefunded(String order, @Nullable String onlyLine, @Nullable BigDecimal onlyAmount) {
            this(order, onlyLine, onlyAmount, "");
        }

        public Optional<String> line() {
            return Optional.ofNullable(onlyLine);
        }

        public Optional<BigDecimal> amount() {
            return Optional.ofNullable(onlyAmount);
        }
    }

    /** @param number from 2 on; the first is the order's own payment */
    record InstalmentPaid(String order, String line, int number) implements OfOrder {}

    /** Changes no access: only that the payment has not come does. */
    record InstalmentFailed(String order, String line, int number) implements OfOrder {}

    /**
     * Somebody took up a seat or a gift; the subject is the receiver.
     *
     * @param seat from 1 on
     */
    record GiftClaimed(String order, String line, int seat) implements OfOrder {}

    /** @param trial whether nothing was charged yet */
    record SubscriptionStarted(
            String subscription, String product, @Nullable String chosenOption, Instant paidThrough, boolean trial)
            implements OfSubscription {
        public Optional<String> option() {
            return Optional.ofNullable(chosenOption);
        }
    }

    record SubscriptionRenewed(String subscription, Instant paidThrough) implements OfSubscription {}

    /** Changes no access: the grace after the paid time is for this. */
    record SubscriptionPaymentFailed(String subscription) implements OfSubscription {}

    /** @param atPeriodEnd at the end of the paid time; otherwise at once */
    record SubscriptionCancelled(String subscription, boolean atPeriodEnd) implements OfSubscription {}

    /** The running period was paid back in full. */
    record SubscriptionRefunded(String subscription) implements OfSubscription {}

    record LevelStarted(String level) implements OfLevel {}

    record LevelEnded(String level) implements OfLevel {}

    record TagAdded(String tag) implements OfTag {}

    record TagRemoved(String tag) implements OfTag {}

    /** The person unsubscribed from a list: nothing gives it to them again until they ask for it. */
    record ListLeft(String list) implements OfList {}

    /** The person asked for a list that they had left; it gives nothing by itself. */
    record ListJoined(String list) implements OfList {}

    /** The person has an account in a system; changes no access. */
    record AccountMade(String system) implements Happening {}

    record CourseCompleted(String course) implements OfCourse {}

    /** A place of a level's allowance was spent. */
    record CourseChosen(String course) implements OfCourse {}

    /** A course of the allowance was given back. */
    record CourseReleased(String course) implements OfCourse {}

    /** What is paid for and something given lasts as long as: with its grace, its suspensions and its end. */
    sealed interface Followed {

        record OfSubscription(String subscription) implements Followed {}

        record OfLine(String order, String line) implements Followed {}
    }

    /**
     * @param onlyLength none = as long as it is not ended
     * @param onlyUntil ends it at this time at the latest
     * @param onlyWhile none = whatever is paid for
     */
    record GrantGiven(
            String grant,
            List<Destination> to,
            @Nullable Period onlyLength,
            @Nullable Instant onlyUntil,
            @Nullable Followed onlyWhile,
            String reason)
            implements OfGrant {
        public GrantGiven {
            to = List.copyOf(to);
        }

        public GrantGiven(String grant, List<Destination> to, @Nullable Period onlyLength, String reason) {
            this(grant, to, onlyLength, null, null, reason);
        }

        public Optional<Instant> until() {
            return Optional.ofNullable(onlyUntil);
        }

        public Optional<Followed> follows() {
            return Optional.ofNullable(onlyWhile);
        }

        public Optional<Period> length() {
            return Optional.ofNullable(onlyLength);
        }
    }

    record GrantEnded(String grant) implements OfGrant {}

    /** All facts of the subject, earlier and later, count for somebody else. */
    record PersonMerged(String into) implements OfPerson {}

    /**
     * Takes the last merge of the subject back: its facts, earlier and later, count for itself again.
     *
     * @param from whom it had been merged into
     */
    record PersonParted(String from) implements OfPerson {}

    /**
     * Nothing that was ever said of the subject, or of those joined with it, opens anything any more. What others have of
     * its orders stays.
     */
    record PersonErased() implements OfPerson {}

    /** Something that Yoru does not know: kept, and warned of. */
    record Unknown(String type) implements Happening {}

    /** What is said about a run of a follow-up. */
    sealed interface OfFollowup extends Happening {
        String followup();

        String occasion();
    }

    /** What was done at a step of a follow-up, as a row of it says. */
    record Did(String step, String does) {}

    /**
     * A stretch of a run is decided; it stands, whatever is known later. Changes no access.
     *
     * @param round of the instant, from 1 on
     * @param waits the step at which it waits then, and until when; none = it is over
     * @param as the follow-up as it was served, in the first stretch
     * @param passed whether it was asked, and is not to be served
     */
    record FollowupWent(
            String followup,
            String occasion,
            int round,
            List<Did> did,
            @Nullable String waits,
            @Nullable Instant until,
            @Nullable Followup as,
            boolean passed)
            implements OfFollowup {
        public FollowupWent {
            did = List.copyOf(did);
        }
    }

    /** A run does not go on. */
    record FollowupStopped(String followup, String occasion) implements OfFollowup {}

    /** The thing by which facts of several people can belong together: an order, a subscription, a grant. */
    default Optional<String> thing() {
        return switch (this) {
            case OfOrder it -> Optional.of("order " + it.order());
            case OfSubscription it -> Optional.of("subscription " + it.subscription());
            case OfGrant it -> Optional.of("grant " + it.grant());
            case OfLevel _, OfTag _, OfList _, OfCourse _, OfPerson _, OfFollowup _, AccountMade _, Unknown _ ->
                Optional.empty();
        };
    }
}
