package yoru.server.ledger;

import java.util.List;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Fact;

/**
 * A fact was kept; published in the transaction that keeps it.
 *
 * @param connection which system reported it; none = it was entered at the desk
 * @param subject the id of the person whom it is about
 * @param people the ids of those whom it can concern
 */
public record FactKept(long seq, @Nullable String connection, Fact fact, long subject, List<Long> people) {}
