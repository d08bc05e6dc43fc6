package yoru.core.rehearsal;

import java.time.Duration;
import java.time.LocalDateTime;
import java.time.Period;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A story as it is written.
 *
 * @param starts in the school's zone, as all times here
 * @param people at least one; it is about the first
 * @param scenes what was so already, then the steps
 */
public record Script(String id, String title, LocalDateTime starts, List<Player> people, List<Scene> scenes) {

    /** More would be no story, and every step is computed from all that came before it. */
    public static final int MOST_SCENES = 500;

    public Script {
        people = List.copyOf(people);
        scenes = List.copyOf(scenes);
    }

    /** Somebody invented; the id is the key of their facts. */
    public record Player(String id, String name, String address) {}

    /**
     * One step.
     *
     * @param place where it stands in the document: {@code steps[3]}
     * @param isBefore whether it is of what was so already
     * @param who who does it, or to whom it happens; none = nobody is named
     */
    public record Scene(
            String place,
            boolean isBefore,
            Cue cue,
            @Nullable String who,
            Doing doing) {}

    /** When a step happens. */
    public sealed interface Cue {

        /** At a time of the school. */
        record At(LocalDateTime time) implements Cue {}

        /** That long after the step before it: the days by the school's calendar, then the time. */
        record After(Period days, Duration time) implements Cue {
            public static final After AT_ONCE = new After(Period.ZERO, Duration.ZERO);
        }
    }
}
