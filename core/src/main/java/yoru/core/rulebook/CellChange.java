package yoru.core.rulebook;

import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A change to one cell of the mapping: from now on the source opens the destination under these terms, or not at all.
 *
 * @param newTerms none = no longer opens
 */
public record CellChange(
        Source source, Destination destination, @Nullable Terms newTerms) {

    public Optional<Terms> terms() {
        return Optional.ofNullable(newTerms);
    }
}
