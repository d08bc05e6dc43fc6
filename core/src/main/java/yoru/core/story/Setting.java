package yoru.core.story;

import java.util.function.Predicate;
import yoru.core.access.Engine;
import yoru.core.rulebook.Rulebook;
import yoru.core.systems.Landscape;

/**
 * Where a story takes place.
 *
 * @param school as letters call it
 * @param seatsAreKnown of an order: whether its buyer has the address already under which its seats are given
 */
public record Setting(String school, Engine engine, Landscape landscape, Predicate<String> seatsAreKnown) {

    /** Nobody has had a letter before. */
    public Setting(String school, Engine engine, Landscape landscape) {
        this(school, engine, landscape, order -> false);
    }

    Rulebook rulebook() {
        return engine.index().rulebook();
    }
}
