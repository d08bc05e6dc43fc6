package yoru.core.orders;

import java.math.BigDecimal;
import java.time.Instant;
import yoru.core.ledger.Fact;

/**
 * Money that came or went for one line.
 *
 * @param at when it counted: a payment never before its order was placed
 * @param amount in the order's currency; above zero, but for a waiver that is taken back because the money came after all
 */
public record Movement(Instant at, Fact by, String line, Kind kind, BigDecimal amount) {

    /** Which way. */
    public enum Kind {
        PAID,
        /** What had been paid was given back. */
        GIVEN_BACK,
        /** What had not been paid need not be paid any more. */
        WAIVED
    }
}
