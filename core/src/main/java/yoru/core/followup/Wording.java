package yoru.core.followup;

import java.util.function.UnaryOperator;
import yoru.core.systems.Landscape;

/**
 * What letters say that the ledger does not know.
 *
 * @param names how people are called, by key
 * @param addresses where people are written to, by key
 * @param landscape where things are found
 * @param alsoInRows whether rows call people so too, and not by their keys
 */
public record Wording(
        UnaryOperator<String> names, UnaryOperator<String> addresses, Landscape landscape, boolean alsoInRows) {

    /** People are called by their keys, and nothing is found anywhere. */
    public static final Wording PLAIN = new Wording(UnaryOperator.identity(), Landscape.EMPTY);

    /** Keys are addresses. */
    public Wording(UnaryOperator<String> names, Landscape landscape) {
        this(names, UnaryOperator.identity(), landscape, false);
    }
}
