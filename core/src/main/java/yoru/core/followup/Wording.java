package yoru.core.followup;

import java.util.function.UnaryOperator;
import yoru.core.systems.Landscape;

/**
 * What letters say that the ledger does not know.
 *
 * @param names how people are called, by key
 * @param landscape where things are found
 */
public record Wording(UnaryOperator<String> names, Landscape landscape) {

    /** People are called by their keys, and nothing is found anywhere. */
    public static final Wording PLAIN = new Wording(UnaryOperator.identity(), Landscape.EMPTY);
}
