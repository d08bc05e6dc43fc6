package yoru.core.impact;

import java.time.Instant;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import yoru.core.impact.Change.Kind;

/** How many people a comparison touches: each counts once, by the worst that happens to them. */
public final class Headcount {

    private final Map<Kind, Figure> figures = new EnumMap<>(Kind.class);
    private final Map<NoGain.Why, Integer> noGain = new EnumMap<>(NoGain.Why.class);
    private int letters;

    /** Nobody yet. */
    public Headcount() {}

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
        var count = new Headcount();
        changes.stream().collect(Collectors.groupingBy(Change::person)).values().forEach(count::add);
        return count;
    }

    /** Counts one more person in, by all that changes for them; nothing need change. */
    public void add(Collection<Change> ofOne) {
        ofOne.stream()
                .map(Change::kind)
                .min(Comparator.naturalOrder())
                .ifPresent(worst -> figures.put(
                        worst,
                        of(worst)
                                .and(ofOne.stream()
                                        .filter(change -> change.kind() == worst)
                                        .toList())));
    }

    /** Counts one more person in. */
    public void add(Impact.OfOne one) {
        add(one.changes());
        one.noGain().ifPresent(why -> noGain.merge(why, 1, Integer::sum));
        letters += one.letter() ? 1 : 0;
    }

    /** How many would be written to that something has opened. */
    public int letters() {
        return letters;
    }

    /** How many bought what is opened more and gain nothing by it, by why. */
    public Map<NoGain.Why, Integer> noGain() {
        return Collections.unmodifiableMap(noGain);
    }

    public Figure of(Kind kind) {
        return figures.getOrDefault(kind, Figure.NOBODY);
    }
}
