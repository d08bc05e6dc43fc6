package yoru.core.story;

import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;
import yoru.core.ledger.Happening;

/**
 * What is done at one moment.
 *
 * @param deeds in their order; none = only time passes
 */
public record Step(Instant at, List<Deed> deeds) {

    public Step {
        deeds = List.copyOf(deeds);
    }

    public static Step of(Instant at, Deed... deeds) {
        return new Step(at, List.of(deeds));
    }

    /** Everything happens to the same person, one after the other. */
    public static Step of(Instant at, String person, Happening... happenings) {
        return new Step(
                at,
                Stream.of(happenings)
                        .<Deed>map(it -> new Deed.Happens(person, it))
                        .toList());
    }
}
