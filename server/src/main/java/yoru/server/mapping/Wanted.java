package yoru.server.mapping;

import java.util.List;
import org.jspecify.annotations.Nullable;
import yoru.core.rulebook.CellChange;
import yoru.formats.ThingChange;

/**
 * A mapping that is wanted.
 *
 * @param document a whole rulebook that the changes are made to; none = the one in force
 * @param things changes of what is no cell
 */
public record Wanted(@Nullable String document, List<ThingChange> things, List<CellChange> cells) {

    public Wanted(List<CellChange> cells) {
        this(null, List.of(), cells);
    }
}
