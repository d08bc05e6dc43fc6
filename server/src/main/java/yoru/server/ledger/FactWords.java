package yoru.server.ledger;

import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import yoru.core.access.Words;
import yoru.core.followup.Followups;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.rulebook.Destination;

/** Says in a few words what a fact tells. */
public final class FactWords {

    private FactWords() {}

    /** "Order 2041 paid". */
    public static String title(Fact fact) {
        return switch (fact.happening()) {
            case Happening.OrderPlaced it ->
                "Order " + it.order() + (it.channel() == Channel.HAND ? " entered by hand" : " placed");
            case Happening.OrderPaid it -> "Order " + it.order() + " paid";
            case Happening.OrderInvoiced it -> "Invoice " + it.number() + " for order " + it.order() + " sent";
            case Happening.OrderFulfilled it -> "Order " + it.order() + " fulfilled";
            case Happening.OrderCancelled it -> "Order " + it.order() + " cancelled";
            case Happening.OrderRefunded it -> "Order " + it.order() + " refunded";
            case Happening.InstalmentPaid it -> "Instalment " + it.number() + " of order " + it.order() + " paid";
            case Happening.InstalmentFailed it -> "Instalment " + it.number() + " of order " + it.order() + " failed";
            case Happening.GiftClaimed it -> "Seat " + it.seat() + " of order " + it.order() + " taken up";
            case Happening.SubscriptionStarted it -> "Subscription " + it.subscription() + " started";
            case Happening.SubscriptionRenewed it -> "Subscription " + it.subscription() + " renewed";
            case Happening.SubscriptionPaymentFailed it -> "Payment for subscription " + it.subscription() + " failed";
            case Happening.SubscriptionCancelled it -> "Subscription " + it.subscription() + " cancelled";
            case Happening.SubscriptionRefunded it -> "Subscription " + it.subscription() + " refunded";
            case Happening.LevelStarted it -> "Level " + it.level() + " started";
            case Happening.LevelEnded it -> "Level " + it.level() + " ended";
            case Happening.TagAdded it -> "Tag " + it.tag() + " added";
            case Happening.TagRemoved it -> "Tag " + it.tag() + " removed";
            case Happening.ListLeft it -> "Left the list " + it.list();
            case Happening.ListJoined it -> "Asked for the list " + it.list() + " again";
            case Happening.AccountMade it -> "Has an account in " + it.system();
            case Happening.FollowupWent it -> "Follow-up " + it.followup();
            case Happening.FollowupStopped it -> "Follow-up " + it.followup() + " stopped";
            case Happening.CourseCompleted it -> "Course " + it.course() + " finished";
            case Happening.CourseChosen it -> "Course " + it.course() + " chosen";
            case Happening.CourseReleased it -> "Course " + it.course() + " given back";
            case Happening.GrantGiven _ -> Followups.isOwn(fact) ? "Given by a follow-up" : "Given by hand";
            case Happening.GrantEnded _ ->
                Followups.isOwn(fact) ? "Given by a follow-up, and ended" : "Given by hand, and ended";
            case Happening.PersonMerged it -> "Joined with " + it.into();
            case Happening.PersonParted it -> "Parted from " + it.from();
            case Happening.PersonErased _ -> "Erased";
            case Happening.Unknown it -> "Not known: " + it.type();
        };
    }

    /**
     * What more there is to say: "Queen Rearing €180.00".
     *
     * @param products how products are called, by id
     */
    public static String text(Fact fact, UnaryOperator<String> products) {
        return switch (fact.happening()) {
            case Happening.OrderPlaced it ->
                it.lines().stream()
                                .map(line -> products.apply(line.product())
                                        + (line.quantity() > 1 ? " × " + line.quantity() + " " : " ")
                                        + Words.money(line.amount(), it.currency()))
                                .collect(Collectors.joining(", "))
                        + (it.reason().isEmpty() ? "" : " · " + it.reason());
            case Happening.OrderRefunded it ->
                it.line().map(line -> "line " + line).orElse("the whole order")
                        + it.amount()
                                .map(amount -> ", " + amount.toPlainString())
                                .orElse("")
                        + (it.reason().isEmpty() ? "" : " · " + it.reason());
            case Happening.SubscriptionStarted it -> products.apply(it.product()) + (it.trial() ? ", on trial" : "");
            case Happening.SubscriptionCancelled it -> it.atPeriodEnd() ? "at the end of the paid time" : "at once";
            case Happening.GrantGiven it ->
                Followups.isOwn(fact)
                        ? it.reason() + ": "
                                + it.to().stream().map(Destination::place).collect(Collectors.joining(", "))
                        : it.reason();
            case Happening.FollowupWent it ->
                it.passed()
                        ? "passed by"
                        : it.did().stream().map(Happening.Did::does).collect(Collectors.joining("; "));
            case Happening.OrderPaid it ->
                Stream.of(it.method(), it.reference())
                        .filter(part -> !part.isEmpty())
                        .collect(Collectors.joining(", "));
            case Happening.OrderInvoiced _,
                    Happening.OrderFulfilled _,
                    Happening.OrderCancelled _,
                    Happening.InstalmentPaid _,
                    Happening.InstalmentFailed _,
                    Happening.GiftClaimed _,
                    Happening.SubscriptionRenewed _,
                    Happening.SubscriptionPaymentFailed _,
                    Happening.SubscriptionRefunded _,
                    Happening.LevelStarted _,
                    Happening.LevelEnded _,
                    Happening.TagAdded _,
                    Happening.TagRemoved _,
                    Happening.ListLeft _,
                    Happening.ListJoined _,
                    Happening.AccountMade _,
                    Happening.FollowupStopped _,
                    Happening.CourseCompleted _,
                    Happening.CourseChosen _,
                    Happening.CourseReleased _,
                    Happening.GrantEnded _,
                    Happening.PersonMerged _,
                    Happening.PersonParted _,
                    Happening.PersonErased _,
                    Happening.Unknown _ -> "";
        };
    }
}
