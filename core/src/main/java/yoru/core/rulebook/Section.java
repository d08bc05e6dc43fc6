package yoru.core.rulebook;

import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A part of a course that can be opened by itself.
 *
 * @param ownTier none = the school's lowest
 */
public record Section(String id, String title, @Nullable String ownTier) {

    public Optional<String> tier() {
        return Optional.ofNullable(ownTier);
    }
}
