package yoru.core.rehearsal;

import java.math.BigDecimal;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.letters.LetterWording;
import yoru.core.systems.Landscape;

/**
 * What is around a rulebook where a story is tried.
 *
 * @param school as letters call it
 * @param prices what things cost in the shop
 * @param guestsAreHeld whether an order of somebody unknown without an account waits until it is let in
 * @param guestsCanBuy whether the shop lets anybody buy without an account
 * @param wording the school's own words for the letter about what opened; none = those that it ships with
 */
public record Surroundings(
        String school,
        Landscape landscape,
        Prices prices,
        boolean guestsAreHeld,
        boolean guestsCanBuy,
        @Nullable LetterWording wording) {

    /** What the shop's catalogue says. */
    @FunctionalInterface
    public interface Prices {

        /** No price is known. */
        Prices UNKNOWN = (product, option) -> Optional.empty();

        /** Of one of it, in the school's currency; nothing where it is not known. */
        Optional<BigDecimal> of(String product, Optional<String> option);
    }

    public Surroundings(String school, Landscape landscape) {
        this(school, landscape, Prices.UNKNOWN, false, true, null);
    }
}
