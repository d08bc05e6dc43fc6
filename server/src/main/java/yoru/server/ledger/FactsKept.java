package yoru.server.ledger;

import java.util.List;
import java.util.Set;

/**
 * Facts of the past were kept, many at once; published in the transaction that keeps them. Nobody is told of each of them.
 *
 * @param seq the number of the last
 * @param orders the orders that they are about
 * @param people the ids of those whom they can concern
 */
public record FactsKept(long seq, Set<String> orders, List<Long> people) {
    public FactsKept {
        orders = Set.copyOf(orders);
        people = List.copyOf(people);
    }
}
