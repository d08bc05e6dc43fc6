package yoru.standins.classroom;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Whether somebody may be in a course.
 *
 * @param state {@code open} or {@code closed}; what was learnt is kept either way
 * @param renews whether {@code until} is only when it closes without a further payment
 * @param revision the newest that was stated; older ones arriving late change nothing
 */
record Enrolment(
        String course,
        String learner,
        String state,
        @Nullable Instant until,
        boolean renews,
        int revision,
        int lessonsDone) {

    boolean lets(Instant now) {
        return state.equals("open") && (until == null || now.isBefore(until));
    }
}
