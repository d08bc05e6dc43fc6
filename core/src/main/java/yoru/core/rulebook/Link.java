package yoru.core.rulebook;

import java.util.List;

/** One mapping, from one source to one or more targets, under terms. */
public record Link(String id, Source from, List<Destination> to, Terms terms, Applies applies) {

    public Link {
        to = List.copyOf(to);
    }

    public Link(String id, Source from, List<Destination> to, Terms terms) {
        this(id, from, to, terms, Applies.ALWAYS);
    }

    /** Whether it leads from the source to the place of the destination. */
    public boolean leads(Source source, Destination destination) {
        return from.equals(source) && to.stream().anyMatch(it -> it.place().equals(destination.place()));
    }
}
