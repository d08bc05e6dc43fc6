package yoru.core.rulebook;

import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A membership level.
 *
 * @param ownLadder the ladder it stands on, if any
 * @param rank its place on the ladder, higher is more; no two levels of a ladder share one
 */
public record Level(
        String id,
        String title,
        @Nullable String ownLadder,
        int rank,
        @Nullable Allowance ownAllowance) implements Thing {

    public Optional<String> ladder() {
        return Optional.ofNullable(ownLadder);
    }

    public Optional<Allowance> allowance() {
        return Optional.ofNullable(ownAllowance);
    }
}
