package yoru.core.impact;

import java.time.Instant;
import java.util.Collection;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import yoru.core.impact.Change.Kind;

/** How many people a comparison touches: each counts once, by the worst that happens to them. */
public final class Headcount {

    private final Map<Kind, Figure> figures = new EnumMap<>(Kind.class);

    private Headcount() {}

    /**
     * So many people.
     *
     * @param later of them, for how many nothing of the kind happens yet
     * @param forATime of them, how many are only out for a time
     * @param back when the last of these is in again; none = there are none
     */
    public record Figure(
            int people, int later, int forATime, @Nullable Instant back) {

        static final Figure NOBODY = new Figure(0, 0, 0, null);

        Figure and(List<Change> ofOne) {
            boolean soon = ofOne.stream().anyMatch(Change::now);
            var backs = ofOne.stream().map(Change::backOn).toList();
            boolean comesBack = backs.stream().allMatch(Optional::isPresent);
            var last = backs.stream()
                    .flatMap(Optional::stream)
                    .max(Instant::compareTo)
                    .filter(on -> comesBack && (back == null || on.isAfter(back)))
                    .orElse(back);
            return new Figure(people + 1, later + (soon ? 0 : 1), forATime + (comesBack ? 1 : 0), last);
        }
    }

    public static Headcount of(Collection<Change> changes) {
        Map<String, Map<Kind, List<Change>>> people = new HashMap<>();
        for (Change change : changes) {
            people.computeIfAbsent(change.person(), person -> new EnumMap<>(Kind.class))
                    .merge(change.kind(), List.of(change), Headcount::both);
        }
        var count = new Headcount();
        for (var kinds : people.values()) {
            var worst = kinds.entrySet().iterator().next();
            count.figures.put(worst.getKey(), count.of(worst.getKey()).and(worst.getValue()));
        }
        return count;
    }

    public Figure of(Kind kind) {
        return figures.getOrDefault(kind, Figure.NOBODY);
    }

    private static List<Change> both(List<Change> some, List<Change> others) {
        return Stream.concat(some.stream(), others.stream()).toList();
    }
}
