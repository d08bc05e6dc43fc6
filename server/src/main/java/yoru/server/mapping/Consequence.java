package yoru.server.mapping;

import java.util.List;
import java.util.Set;
import yoru.core.impact.Change;
import yoru.core.impact.Change.Kind;
import yoru.core.rulebook.Rulebook;

/** What a draft would change, computed by the engine over the facts there are. */
public record Consequence(Rulebook before, Rulebook after, List<Change> changes) {

    /** How many people something of the kind happens to. */
    public int people(Set<Kind> kinds) {
        return people(changes, kinds);
    }

    /** To how many of them nothing happens before some later day. */
    public int later(Set<Kind> kinds) {
        return people(kinds) - people(changes.stream().filter(Change::now).toList(), kinds);
    }

    private static int people(List<Change> changes, Set<Kind> kinds) {
        return (int) changes.stream()
                .filter(change -> kinds.contains(change.kind()))
                .map(Change::person)
                .distinct()
                .count();
    }
}
