package yoru.server.mapping;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import yoru.formats.ThingChange;

/**
 * A draft as an operator's browser keeps it.
 *
 * @param things what else changes than cells
 * @param document a whole rulebook, where the changes start from one and not from the one in force
 */
public record Draft(
        @NotNull @Size(max = MOST) List<@Valid DraftCell> changes,
        @Nullable @Size(max = MOST) List<@Valid DraftThing> things,
        @Nullable @Size(max = LARGEST_DOCUMENT) String document) {

    static final int MOST = 20_000;
    static final int LARGEST_DOCUMENT = 8_000_000;

    /**
     * A change of something that is no cell.
     *
     * @param thing {@code level/keeper}, {@code product/QUEEN}, {@code school/opensOn}, {@code terms/a-year}, …
     * @param to as it stands in a rulebook's document (docs/formats/rulebook.schema.json); none = it goes
     */
    public record DraftThing(
            @NotBlank @Size(max = 220) String thing,
            @Nullable JsonNode to) {}

    public Wanted wanted() {
        return new Wanted(
                document,
                (things == null ? List.<DraftThing>of() : things)
                        .stream()
                                .map(it -> new ThingChange(it.thing, it.to == null || it.to.isNull() ? null : it.to))
                                .toList(),
                changes.stream().map(DraftCell::change).toList());
    }

    static List<DraftThing> shown(List<ThingChange> things) {
        return things.stream().map(it -> new DraftThing(it.thing(), it.to())).toList();
    }
}
