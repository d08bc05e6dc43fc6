package yoru.core.rehearsal;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import yoru.core.rulebook.Target;

/**
 * What should be so at a step.
 *
 * @param who about whom; none = the first person of the story
 * @param until by target, when what is open ends
 * @param exactly what is open, sections apart, and nothing else; none = that is not asked
 * @param done what follow-ups should have done since it was last asked, as their rows say it
 * @param told by system, what it should hold
 */
public record Expectation(
        @Nullable String who,
        List<Target> open,
        List<Target> closed,
        Map<Target, End> until,
        @Nullable List<Target> exactly,
        List<String> done,
        List<String> notDone,
        Map<String, Held> told) {

    public Expectation {
        open = List.copyOf(open);
        closed = List.copyOf(closed);
        exactly = exactly == null ? null : List.copyOf(exactly);
        done = List.copyOf(done);
        notDone = List.copyOf(notDone);
    }

    /** When something ends. */
    public sealed interface End {

        record OnDay(LocalDate day) implements End {}

        record AtTime(LocalDateTime time) implements End {}

        record Never() implements End {}
    }

    /** What a system should hold, and what not. */
    public record Held(List<Target> open, List<Target> closed) {
        public Held {
            open = List.copyOf(open);
            closed = List.copyOf(closed);
        }
    }
}
