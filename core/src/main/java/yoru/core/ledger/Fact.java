package yoru.core.ledger;

import java.time.Instant;
import java.util.Comparator;

/**
 * Something that happened.
 *
 * @param subject the key of the person it is about
 * @param time when it happened (UTC), not when it was heard of
 */
public record Fact(FactId id, String subject, Instant time, Happening happening) {

    /** The order in which facts count: time, source, id. */
    public static final Comparator<Fact> FOLDING_ORDER =
            Comparator.comparing(Fact::time).thenComparing(Fact::id);
}
