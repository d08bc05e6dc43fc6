package yoru.core.systems;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import yoru.core.rulebook.Target;

/**
 * Where one system is out of step about one person.
 *
 * @param wanted what Yoru wants there; none = nothing
 * @param found what is there; none = nothing
 */
public record Difference(
        Target target, @Nullable Has wanted, @Nullable Has found) {

    /** Systems keep times more coarsely than Yoru; a smaller difference is none. */
    private static final Duration TOLERANCE = Duration.ofSeconds(1);

    /** Which way it is out of step. */
    public enum Kind {
        /** Yoru wants it, the system has not got it. */
        MISSING,
        /** The system has it, Yoru knows no reason for it. */
        EXTRA,
        /** Both have it, to another end. */
        DIFFERENT
    }

    /**
     * That somebody has something.
     *
     * @param until none = without end
     * @param dated whether the system keeps ends at all; where it does not, Yoru ends things by telling it
     */
    public record Has(@Nullable Instant until, boolean dated) {

        private boolean agreesWith(Has found) {
            if (!found.dated) {
                return true;
            }
            if (until == null || found.until == null) {
                return until == null && found.until == null;
            }
            return Duration.between(until, found.until).abs().compareTo(TOLERANCE) <= 0;
        }
    }

    public Kind kind() {
        if (found == null) {
            return Kind.MISSING;
        }
        return wanted == null ? Kind.EXTRA : Kind.DIFFERENT;
    }

    /**
     * Compares what is wanted with what is there.
     *
     * @param governed which targets Yoru decides about; what a system has besides them is its own affair
     */
    public static List<Difference> between(
            Map<Target, Has> wanted, Map<Target, Has> found, Predicate<Target> governed) {
        Map<String, Target> targets = new TreeMap<>();
        wanted.keySet().forEach(target -> targets.put(target.path(), target));
        found.keySet().stream().filter(governed).forEach(target -> targets.put(target.path(), target));
        var differences = new ArrayList<Difference>();
        for (Target target : targets.values()) {
            var want = Optional.ofNullable(wanted.get(target));
            var has = Optional.ofNullable(found.get(target));
            boolean inStep = want.isPresent() && has.isPresent() && want.get().agreesWith(has.get());
            if (!inStep) {
                differences.add(new Difference(target, want.orElse(null), has.orElse(null)));
            }
        }
        return List.copyOf(differences);
    }
}
