package yoru.core.ledger;

import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Happening.GrantGiven;

/** Something given by hand, as its facts tell it. */
public record Grant(
        Fact given,
        GrantGiven details,
        String person,
        @Nullable Fact endedFact) {

    public Optional<Fact> ended() {
        return Optional.ofNullable(endedFact);
    }
}
