package yoru.core.ledger;

import java.util.List;
import yoru.core.ledger.Happening.SubscriptionStarted;

/**
 * A subscription as its facts tell it.
 *
 * @param started the first fact that started it; its subject is the person of the subscription
 * @param later what was said about it after that, in folding order
 */
public record Subscription(Fact started, SubscriptionStarted details, String person, List<Fact> later) {

    public String id() {
        return details.subscription();
    }
}
