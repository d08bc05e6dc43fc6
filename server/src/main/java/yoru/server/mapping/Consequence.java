package yoru.server.mapping;

import java.util.List;
import yoru.core.impact.Change;
import yoru.core.impact.Headcount;
import yoru.core.rulebook.Rulebook;

/** What a draft would change, computed by the engine over the facts there are. */
public record Consequence(Rulebook before, Rulebook after, List<Change> changes, Headcount people) {

    Consequence(Rulebook before, Rulebook after, List<Change> changes) {
        this(before, after, List.copyOf(changes), Headcount.of(changes));
    }
}
