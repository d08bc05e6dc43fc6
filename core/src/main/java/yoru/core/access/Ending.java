package yoru.core.access;

import java.time.Instant;
import java.time.Period;
import yoru.core.ledger.Fact;

/** Why an entitlement ends. */
public sealed interface Ending {

    Instant at();

    /** The link's length is over. */
    record Elapsed(Instant at, Period length) implements Ending {}

    record Refunded(Instant at, Fact by) implements Ending {}

    record Cancelled(Instant at, Fact by) implements Ending {}
}
