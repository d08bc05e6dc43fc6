package yoru.core.ledger;

import java.util.Set;
import java.util.stream.Collectors;

/** Something that a fact speaks of and that a rulebook can say something about. */
public sealed interface Mention {

    record OfProduct(String product) implements Mention {}

    record OfLevel(String level) implements Mention {}

    record OfTag(String tag) implements Mention {}

    /** Finished, chosen or released. */
    record OfCourse(String course) implements Mention {}

    /** Something given by hand, whatever it is. */
    record OfGrant() implements Mention {}

    /** In a form to be kept and looked for: "product QUEEN". */
    default String key() {
        return switch (this) {
            case OfProduct it -> "product " + it.product;
            case OfLevel it -> "level " + it.level;
            case OfTag it -> "tag " + it.tag;
            case OfCourse it -> "course " + it.course;
            case OfGrant _ -> "grant";
        };
    }

    /** All that is mentioned. */
    static Set<Mention> in(Happening happening) {
        return switch (happening) {
            case Happening.OrderPlaced it ->
                it.lines().stream().map(line -> new OfProduct(line.product())).collect(Collectors.toSet());
            case Happening.SubscriptionStarted it -> Set.of(new OfProduct(it.product()));
            case Happening.LevelStarted it -> Set.of(new OfLevel(it.level()));
            case Happening.LevelEnded it -> Set.of(new OfLevel(it.level()));
            case Happening.TagAdded it -> Set.of(new OfTag(it.tag()));
            case Happening.TagRemoved it -> Set.of(new OfTag(it.tag()));
            case Happening.CourseCompleted it -> Set.of(new OfCourse(it.course()));
            case Happening.CourseChosen it -> Set.of(new OfCourse(it.course()));
            case Happening.CourseReleased it -> Set.of(new OfCourse(it.course()));
            case Happening.GrantGiven _ -> Set.of(new OfGrant());
            case Happening.OrderPaid _,
                    Happening.OrderInvoiced _,
                    Happening.OrderFulfilled _,
                    Happening.OrderCancelled _,
                    Happening.OrderRefunded _,
                    Happening.InstalmentPaid _,
                    Happening.InstalmentFailed _,
                    Happening.GiftClaimed _,
                    Happening.SubscriptionRenewed _,
                    Happening.SubscriptionPaymentFailed _,
                    Happening.SubscriptionCancelled _,
                    Happening.SubscriptionRefunded _,
                    Happening.GrantEnded _,
                    Happening.ListLeft _,
                    Happening.ListJoined _,
                    Happening.AccountMade _,
                    Happening.FollowupWent _,
                    Happening.FollowupStopped _,
                    Happening.PersonMerged _,
                    Happening.PersonParted _,
                    Happening.PersonErased _,
                    Happening.Unknown _ -> Set.of();
        };
    }
}
