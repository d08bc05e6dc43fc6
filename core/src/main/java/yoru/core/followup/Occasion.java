package yoru.core.followup;

import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.rulebook.Followup.When;
import yoru.core.rulebook.Target;

/**
 * Something that happened to a person and that a follow-up can wait for.
 *
 * @param kind what sort of thing it is
 * @param key tells it from all others of the person
 * @param moment when it happened
 * @param orderOrNone the order it is about
 * @param lineOrNone the line of the order, where it is about one
 * @param subscriptionOrNone the subscription it is about
 * @param productOrNone the product it is about, where it is about one
 * @param targetOrNone the target it is about
 */
record Occasion(
        Kind kind,
        String key,
        Instant moment,
        @Nullable String orderOrNone,
        @Nullable String lineOrNone,
        @Nullable String subscriptionOrNone,
        @Nullable String productOrNone,
        @Nullable Target targetOrNone) {

    enum Kind {
        PLACED,
        PAID,
        FULFILLED,
        CANCELLED,
        REFUNDED,
        CLAIMED,
        SUBSCRIPTION_STARTED,
        SUBSCRIPTION_TRIAL,
        SUBSCRIPTION_RENEWED,
        SUBSCRIPTION_FAILED,
        SUBSCRIPTION_CANCELLED,
        OPENED,
        ENDED,
        ENDING,
        COMPLETED,
        ACCOUNT;

        static Kind of(When when) {
            return switch (when) {
                case When.OfOrder it ->
                    switch (it.moment()) {
                        case PLACED -> PLACED;
                        case PAID -> PAID;
                        case FULFILLED -> FULFILLED;
                        case CANCELLED -> CANCELLED;
                        case REFUNDED -> REFUNDED;
                    };
                case When.Claimed _ -> CLAIMED;
                case When.OfSubscription it ->
                    switch (it.turn()) {
                        case STARTED -> SUBSCRIPTION_STARTED;
                        case TRIAL -> SUBSCRIPTION_TRIAL;
                        case RENEWED -> SUBSCRIPTION_RENEWED;
                        case FAILED -> SUBSCRIPTION_FAILED;
                        case CANCELLED -> SUBSCRIPTION_CANCELLED;
                    };
                case When.Opened _ -> OPENED;
                case When.Ended _ -> ENDED;
                case When.Ending _ -> ENDING;
                case When.Completed _ -> COMPLETED;
                case When.Account _ -> ACCOUNT;
            };
        }
    }

    /** What it is about, as one path: a product or a target. */
    Optional<String> thing() {
        return productOrNone != null
                ? Optional.of("product/" + productOrNone)
                : Optional.ofNullable(targetOrNone).map(Target::path);
    }
}
