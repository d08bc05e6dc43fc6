package yoru.server.ledger;

import java.util.List;
import yoru.core.ledger.Fact;

/**
 * A fact was kept; published in the transaction that keeps it.
 *
 * @param origin where it comes from
 * @param subject the id of the person whom it is about
 * @param people the ids of those whom it can concern
 */
public record FactKept(long seq, Origin origin, Fact fact, long subject, List<Long> people) {}
