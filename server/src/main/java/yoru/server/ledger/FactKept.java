package yoru.server.ledger;

import java.util.List;

/**
 * A fact was kept; published in the transaction that keeps it.
 *
 * @param people the ids of those whom it can concern
 */
public record FactKept(long seq, List<Long> people) {}
