package yoru.server.rulebooks;

import java.time.Instant;
import java.util.List;

/**
 * That a rulebook came into force.
 *
 * @param difference from the one before, in words
 * @param gained how many people gained something by it
 * @param despite stories that did not come out as they should, and it was published all the same
 * @param why it was
 */
public record Publish(
        int number,
        String note,
        String by,
        Instant at,
        List<String> difference,
        int gained,
        int lost,
        int otherEnd,
        List<String> despite,
        String why) {

    /** With all stories as they should be. */
    public Publish(
            int number,
            String note,
            String by,
            Instant at,
            List<String> difference,
            int gained,
            int lost,
            int otherEnd) {
        this(number, note, by, at, difference, gained, lost, otherEnd, List.of(), "");
    }
}
