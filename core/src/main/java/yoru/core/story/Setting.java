package yoru.core.story;

import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Engine;
import yoru.core.followup.Followups;
import yoru.core.letters.LetterWording;
import yoru.core.rulebook.Rulebook;
import yoru.core.systems.Landscape;

/**
 * Where a story takes place.
 *
 * @param school as letters call it
 * @param wording the school's own words for the letter about what opened; none = those that it ships with
 * @param seatsAreKnown of an order: whether its buyer has the address already under which its seats are given
 * @param ownPage whether letters carry a link to a page of the reader's own
 * @param followups what is done beside; none = it is left out
 */
public record Setting(
        String school,
        Engine engine,
        Landscape landscape,
        Predicate<String> seatsAreKnown,
        @Nullable LetterWording wording,
        boolean ownPage,
        @Nullable Followups followups) {

    /** Without what follow-ups do. */
    public Setting(
            String school,
            Engine engine,
            Landscape landscape,
            Predicate<String> seatsAreKnown,
            @Nullable LetterWording wording,
            boolean ownPage) {
        this(school, engine, landscape, seatsAreKnown, wording, ownPage, null);
    }

    /** Nobody has had a letter before. */
    public Setting(String school, Engine engine, Landscape landscape) {
        this(school, engine, landscape, order -> false, null, false);
    }

    Rulebook rulebook() {
        return engine.index().rulebook();
    }
}
