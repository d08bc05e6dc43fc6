package yoru.server.mapping;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
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

    /** Paths of everything that a change is about. */
    public Set<String> touched() {
        return Stream.concat(
                        things.stream().map(ThingChange::thing),
                        cells.stream()
                                .flatMap(cell -> Stream.of(
                                        cell.source().path(), cell.destination().place())))
                .collect(Collectors.toSet());
    }

    public Wanted(List<CellChange> cells) {
        this(null, List.of(), cells);
    }
}
