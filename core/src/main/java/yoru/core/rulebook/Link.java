package yoru.core.rulebook;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * One mapping, from one source to one or more targets, under terms.
 *
 * @param termsNameOrNone the id of the terms in the rulebook that these are; none = they are its own
 */
public record Link(
        String id,
        Source from,
        List<Destination> to,
        Terms terms,
        Applies applies,
        @Nullable String termsNameOrNone) {

    public Link {
        to = List.copyOf(to);
    }

    public Link(String id, Source from, List<Destination> to, Terms terms, Applies applies) {
        this(id, from, to, terms, applies, null);
    }

    public Link(String id, Source from, List<Destination> to, Terms terms) {
        this(id, from, to, terms, Applies.ALWAYS);
    }

    public Optional<String> termsName() {
        return Optional.ofNullable(termsNameOrNone);
    }

    /** Whether it leads from the source to the place of the destination. */
    public boolean leads(Source source, Destination destination) {
        return from.equals(source) && to.stream().anyMatch(it -> it.place().equals(destination.place()));
    }
}
