package yoru.core.rulebook;

import java.util.List;

/** One mapping, from one source to one or more targets, under terms. */
public record Link(String id, Source from, List<Target> to, Terms terms) {
    public Link {
        to = List.copyOf(to);
    }

    public boolean opens(Source source, Target target) {
        return from.equals(source) && to.contains(target);
    }
}
