package yoru.core.ledger;

import java.time.Instant;
import java.util.Comparator;

/**
 * Something that happened.
 *
 * @param subject the key of the person it is about
 * @param time when it happened (UTC), not when it was heard of
 * @param past whether it was brought in as something long known: no follow-up begins with it
 */
public record Fact(FactId id, String subject, Instant time, Happening happening, boolean past) {

    public Fact(FactId id, String subject, Instant time, Happening happening) {
        this(id, subject, time, happening, false);
    }

    /** The order in which facts count: time, source, id. */
    public static final Comparator<Fact> FOLDING_ORDER =
            Comparator.comparing(Fact::time).thenComparing(Fact::id);
}
