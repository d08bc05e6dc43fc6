package yoru.core.followup;

import java.time.Instant;
import org.jspecify.annotations.Nullable;
import yoru.core.rulebook.Target;

/** Something that a run gave and that has not ended. */
record Given(Run run, String step, Target target, @Nullable Instant lengthEnds) {

    String id() {
        return run.key().given(step, target.path());
    }
}
