package yoru.server.mapping;

import java.util.List;
import yoru.core.impact.Change;
import yoru.core.impact.Headcount;
import yoru.core.rulebook.Rulebook;

/**
 * What a draft would change, computed by the engine over the facts there are.
 *
 * @param total changes there are
 * @param first the first of them; all of a large school, with their reasons, would not fit into memory
 * @param people all whom it touches
 */
public record Consequence(Rulebook before, Rulebook after, int total, List<Change> first, Headcount people) {

    public Consequence {
        first = List.copyOf(first);
    }
}
