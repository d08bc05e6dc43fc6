package yoru.core.access;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Holding.Held;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening.LevelEnded;
import yoru.core.ledger.Happening.LevelStarted;
import yoru.core.ledger.Happening.TagAdded;
import yoru.core.ledger.Happening.TagRemoved;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Target;

/** The levels and tags that one person holds: from outside, by hand and through links. */
final class LevelsAndTags {

    private final RulebookIndex index;
    private final String person;
    private final Map<Target, List<Held>> held = new LinkedHashMap<>();

    LevelsAndTags(RulebookIndex index, String person) {
        this.index = index;
        this.person = person;
    }

    boolean isEmpty() {
        return held.isEmpty();
    }

    /** All holdings of one level or tag, without regard to what covers what. */
    List<Held> of(Target what) {
        return held.getOrDefault(what, List.of());
    }

    List<Held> all() {
        return held.values().stream().flatMap(List::stream).toList();
    }

    void add(Held one) {
        held.computeIfAbsent(one.what(), what -> new ArrayList<>(1)).add(one);
    }

    /** What somebody outside did: a start on a ladder ends any other level of the ladder that was held. */
    void outsideLevels(List<Fact> facts) {
        Map<String, Fact> running = new LinkedHashMap<>();
        Map<String, String> onLadder = new HashMap<>();
        for (Fact fact : facts) {
            switch (fact.happening()) {
                case LevelStarted it
                when !running.containsKey(it.level()) ->
                    index.level(it.level()).ifPresent(level -> {
                        level.ladder()
                                .map(ladder -> onLadder.put(ladder, level.id()))
                                .ifPresent(other -> end(new Target.OfLevel(other), running.remove(other), fact));
                        running.put(level.id(), fact);
                    });
                case LevelEnded it -> {
                    if (end(new Target.OfLevel(it.level()), running.remove(it.level()), fact)) {
                        onLadder.values().remove(it.level());
                    }
                }
                default -> {
                    // held already
                }
            }
        }
        running.forEach((level, start) -> outside(new Target.OfLevel(level), start, null));
    }

    void outsideTags(List<Fact> facts) {
        Map<String, Fact> running = new LinkedHashMap<>();
        for (Fact fact : facts) {
            if (fact.happening() instanceof TagAdded it && index.knowsTag(it.tag())) {
                running.putIfAbsent(it.tag(), fact);
            } else if (fact.happening() instanceof TagRemoved it) {
                end(new Target.OfTag(it.tag()), running.remove(it.tag()), fact);
            }
        }
        running.forEach((tag, start) -> outside(new Target.OfTag(tag), start, null));
    }

    /**
     * The holdings of a ladder's levels, by level, as the links from them see them: without what a higher level covers,
     * where the ladder has it so.
     */
    Map<Level, List<Held>> onLadder(String ladder) {
        Map<Level, List<Held>> seen = new LinkedHashMap<>();
        boolean covers = !index.higherIncludesLower(ladder);
        var covered = Windows.NONE;
        var fromTheTop = index.levelsOn(ladder).stream()
                .sorted((a, b) -> Integer.compare(b.rank(), a.rank()))
                .toList();
        for (Level level : fromTheTop) {
            var here = of(new Target.OfLevel(level.id()));
            var higher = covered;
            seen.put(
                    level,
                    covers ? here.stream().map(one -> one.without(higher)).toList() : here);
            if (covers && !here.isEmpty()) {
                var windows = here.stream()
                        .flatMap(one -> one.effective().asList().stream())
                        .toList();
                covered = covered.plus(Windows.of(windows));
            }
        }
        return seen;
    }

    private boolean end(Target what, @Nullable Fact start, Fact by) {
        if (start == null) {
            return false;
        }
        outside(what, start, new Ending(by.time(), new Ending.Cause.EndedBy(by)));
        return true;
    }

    private void outside(Target what, Fact start, @Nullable Ending ending) {
        add(new Held(what, person, start.time(), start, ending, Windows.NONE, Windows.NONE, Windows.NONE, null));
    }
}
