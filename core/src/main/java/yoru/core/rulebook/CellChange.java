package yoru.core.rulebook;

import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A change to one cell of the mapping: from now on the source opens the destination under these terms, or not at all.
 * Whatever led from the source to the same {@linkplain Destination#place() place} before no longer does.
 *
 * @param newTerms none = no longer opens
 * @param newApplies none = as it was, or always
 * @param newTermsName the id of the terms in the rulebook that these are; none = they are its own
 */
public record CellChange(
        Source source,
        Destination destination,
        @Nullable Terms newTerms,
        @Nullable Applies newApplies,
        @Nullable String newTermsName) {

    public CellChange(Source source, Destination destination, @Nullable Terms newTerms) {
        this(source, destination, newTerms, null, null);
    }

    public Optional<Applies> applies() {
        return Optional.ofNullable(newApplies);
    }

    public Optional<String> termsName() {
        return Optional.ofNullable(newTermsName);
    }

    public Optional<Terms> terms() {
        return Optional.ofNullable(newTerms);
    }
}
