package yoru.core.followup;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Happening;
import yoru.core.rulebook.Followup;

/** One follow-up serving one occasion of one person. */
final class Run {

    final Followup as;
    /** The key under which it began; it keeps it. */
    final String person;

    final Occasion occasion;
    /** The step at which it waits, by its parts: {@code 4, then, 1}; none = it does not wait. */
    List<String> waits = List.of();

    @Nullable
    Instant until;

    /** How many stretches of it were decided. */
    int stretches;
    /** What was done in the stretch at hand. */
    List<Happening.Did> did = new ArrayList<>();

    List<Followups.Said> said = new ArrayList<>();
    List<Followups.Question> questions = new ArrayList<>();

    Run(Followup as, String person, Occasion occasion) {
        this.as = as;
        this.person = person;
        this.occasion = occasion;
    }

    /** The stretch at hand is over. */
    void next() {
        did = new ArrayList<>();
        said = new ArrayList<>();
        questions = new ArrayList<>();
    }

    RunKey key() {
        return new RunKey(person, as.id(), occasion.key());
    }
}
