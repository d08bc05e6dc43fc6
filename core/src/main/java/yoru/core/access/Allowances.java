package yoru.core.access;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Holding.Held;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening.CourseChosen;
import yoru.core.ledger.Happening.CourseReleased;
import yoru.core.rulebook.Allowance;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.RulebookIndex;

/**
 * Deals out the places of levels' allowances to the courses that a person chose, in the order of choice. Whenever a
 * level begins or stops to count, or a course is chosen or released, they are dealt anew.
 */
final class Allowances {

    /**
     * A level that can count, and when.
     *
     * @param renewing when it ends only if a payment does not come
     */
    private record Counted(Level level, Windows held, Windows grace, Set<Instant> ends, Set<Instant> renewing) {}

    /** A course in its place. */
    private record Place(Level level, Fact choice) {}

    private record Begun(Place place, Instant since) {}

    private final RulebookIndex index;
    /** In the rulebook's order. */
    private final List<Counted> levels = new ArrayList<>();

    private final List<Fact> choices;

    /**
     * @param held the levels that the person holds
     * @param choices courses chosen and released, in folding order
     */
    Allowances(RulebookIndex index, Map<Level, List<Held>> held, List<Fact> choices) {
        this.index = index;
        this.choices = choices;
        if (held.keySet().stream().allMatch(level -> level.allowance().isEmpty())) {
            return;
        }
        for (Level level : index.rulebook().levels()) {
            var holdings = held.getOrDefault(level, List.of());
            if (!holdings.isEmpty()) {
                levels.add(counted(level, holdings));
            }
        }
    }

    private static Counted counted(Level level, List<Held> holdings) {
        var open = new ArrayList<Window>();
        var paidFor = new ArrayList<Window>();
        for (Held one : holdings) {
            open.addAll(one.effective().asList());
            paidFor.addAll(one.effective().minus(one.grace()).asList());
        }
        var all = Windows.of(open);
        return new Counted(
                level,
                all,
                all.minus(Windows.of(paidFor)),
                all.asList().stream().flatMap(window -> window.end().stream()).collect(Collectors.toSet()),
                holdings.stream().flatMap(one -> one.renewsAt().stream()).collect(Collectors.toSet()));
    }

    /** A course as long as it keeps its place in one level. */
    List<Entitlement> entitlements(String person) {
        if (levels.isEmpty() || choices.isEmpty()) {
            return List.of();
        }
        var given = new ArrayList<Entitlement>();
        Map<String, Fact> chosen = new LinkedHashMap<>();
        Map<String, Begun> placed = new LinkedHashMap<>();
        int next = 0;
        for (Instant moment : moments()) {
            while (next < choices.size() && !choices.get(next).time().isAfter(moment)) {
                choose(chosen, choices.get(next));
                next++;
            }
            Map<String, Place> now = deal(chosen, moment);
            placed.entrySet().removeIf(entry -> {
                boolean stays = entry.getValue().place.equals(now.get(entry.getKey()));
                if (!stays) {
                    given.addAll(lasted(person, entry.getKey(), entry.getValue(), moment));
                }
                return !stays;
            });
            now.forEach((course, place) -> placed.putIfAbsent(course, new Begun(place, moment)));
        }
        placed.forEach((course, begun) -> given.addAll(lasted(person, course, begun, null)));
        return given;
    }

    /** What of the allowance is spent and left at the moment. */
    Choices at(Instant moment) {
        Map<String, Fact> chosen = new LinkedHashMap<>();
        choices.stream().filter(fact -> !fact.time().isAfter(moment)).forEach(fact -> choose(chosen, fact));
        var dealt = deal(chosen, moment);
        var places = new ArrayList<Choices.Places>();
        for (Level level : counting(moment)) {
            var taken = new ArrayList<String>();
            dealt.forEach((course, place) -> {
                if (place.level.equals(level)) {
                    taken.add(course);
                }
            });
            places.add(new Choices.Places(level, allowance(level), taken, premium(taken)));
        }
        var waiting = chosen.keySet().stream()
                .filter(course -> !dealt.containsKey(course))
                .toList();
        return new Choices(places, waiting);
    }

    private Set<Instant> moments() {
        Set<Instant> moments = new TreeSet<>();
        choices.forEach(fact -> moments.add(fact.time()));
        for (Counted level : levels) {
            for (Window window : level.held.asList()) {
                moments.add(window.start());
                window.end().ifPresent(moments::add);
            }
        }
        return moments;
    }

    /** Choosing what is chosen changes nothing; a course that the rulebook lacks uses nothing up. */
    private void choose(Map<String, Fact> chosen, Fact fact) {
        if (fact.happening() instanceof CourseChosen it
                && index.course(it.course()).isPresent()) {
            chosen.putIfAbsent(it.course(), fact);
        } else if (fact.happening() instanceof CourseReleased it) {
            chosen.remove(it.course());
        }
    }

    private Map<String, Place> deal(Map<String, Fact> chosen, Instant moment) {
        Map<String, Place> dealt = new LinkedHashMap<>();
        var counting = counting(moment);
        Map<Level, List<String>> taken = new HashMap<>();
        int free =
                counting.stream().mapToInt(level -> allowance(level).courses()).reduce(0, Math::addExact);
        for (var choice : chosen.entrySet()) {
            if (dealt.size() >= free) {
                break;
            }
            var course = Objects.requireNonNull(index.course(choice.getKey()).orElse(null));
            for (Level level : counting) {
                var inIt = taken.computeIfAbsent(level, it -> new ArrayList<>());
                if (hasPlaceFor(course, allowance(level), inIt)) {
                    inIt.add(course.id());
                    dealt.put(course.id(), new Place(level, choice.getValue()));
                    break;
                }
            }
        }
        return dealt;
    }

    private boolean hasPlaceFor(Course course, Allowance allowance, List<String> taken) {
        return allowance.admits(course)
                && taken.size() < allowance.courses()
                && (!course.premium()
                        || allowance.premium().isEmpty()
                        || premium(taken) < allowance.premium().getAsInt());
    }

    private int premium(List<String> courses) {
        return (int) courses.stream()
                .flatMap(course -> index.course(course).stream())
                .filter(Course::premium)
                .count();
    }

    /** Of each ladder the highest level held, or the highest with an allowance; where that has one. */
    private List<Level> counting(Instant moment) {
        Map<String, Level> highest = new HashMap<>();
        Set<Level> counting = new LinkedHashSet<>();
        for (Counted one : levels) {
            if (one.held.contains(moment)) {
                var ladder = one.level.ownLadder();
                if (ladder == null) {
                    counting.add(one.level);
                } else if (!index.higherIncludesLower(ladder)
                        || one.level.allowance().isPresent()) {
                    highest.merge(ladder, one.level, (a, b) -> a.rank() > b.rank() ? a : b);
                }
            }
        }
        counting.addAll(highest.values());
        return levels.stream()
                .map(Counted::level)
                .filter(level -> counting.contains(level) && level.allowance().isPresent())
                .toList();
    }

    private static Allowance allowance(Level level) {
        return Objects.requireNonNull(level.ownAllowance());
    }

    private static Ending.Cause whyNoLonger(Counted level, Instant moment) {
        return level.ends.contains(moment)
                ? new Ending.Cause.WithLevel(level.level, level.renewing.contains(moment))
                : new Ending.Cause.PlaceLost();
    }

    private List<Entitlement> lasted(String person, String course, Begun begun, @Nullable Instant until) {
        var span = new Window(begun.since, until);
        var level = begun.place.level;
        var counted = levels.stream()
                .filter(one -> one.level.equals(level))
                .findFirst()
                .orElseThrow();
        var stretch = Stretch.of(span, Windows.NONE, Windows.NONE, counted.grace);
        var ending = until == null ? null : new Ending(until, whyNoLonger(counted, until));
        var reason = new Reason.Chosen(level, begun.place.choice, begun.since);
        return index.targets(Destination.whole(course)).stream()
                .map(target -> new Entitlement(person, target, stretch, reason, ending))
                .toList();
    }
}
