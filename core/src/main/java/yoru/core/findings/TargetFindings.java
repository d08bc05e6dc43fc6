package yoru.core.findings;

import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import yoru.core.findings.Finding.Kind;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Ladder;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Thing;

/** What is wrong on the side of what is opened, and with levels and names. */
final class TargetFindings {

    private final Ways ways;
    private final Rulebook rulebook;
    private final Observed observed;

    TargetFindings(Ways ways, Observed observed) {
        this.ways = ways;
        this.rulebook = ways.rulebook();
        this.observed = observed;
    }

    void addTo(List<Finding> found) {
        if (observed.courses() == null) {
            rulebook.courses().stream()
                    .filter(course -> !ways.hasWayIn(course))
                    .forEach(course -> found.add(noWayIn(course)));
        } else {
            observed.courses().forEach(state -> course(state, found));
            notThere(observed.courses(), found);
        }
        rulebook.levels().forEach(level -> level(level, found));
        rulebook.school().ladders().forEach(ladder -> holes(ladder, found));
        sameName(Sort.PRODUCT, found);
        sameName(Sort.COURSE, found);
        if (observed.offers() == null) { // of tags that a contacts system keeps for itself nothing can be said
            rulebook.all(Sort.TAG).forEach(tag -> unused(tag, found));
        }
    }

    private void course(CourseState state, List<Finding> found) {
        var subject = "course/" + state.course();
        if (state.door() != CourseState.Door.YORU_ONLY) {
            var door = state.door() == CourseState.Door.FREE_SIGN_UP
                    ? "The classroom lets in whoever signs up"
                    : "Its door in the classroom stands open to everybody";
            int links = ways.linksTo(state.course());
            found.add(Finding.of(
                    Kind.SIDE_DOOR,
                    subject,
                    "Anybody can walk into " + state.title(),
                    door + "; " + Finding.counted(links, "link opens", "links open") + " it.",
                    "Set its door in the classroom to “by enrolment only”, or accept that it is free."));
        } else {
            observed.strangers().stream()
                    .filter(strangers -> strangers.course().equals(state.course()))
                    .forEach(strangers -> found.add(within(state, strangers)));
        }
        if (state.soldThere()) {
            found.add(Finding.of(
                    Kind.SOLD_ELSEWHERE,
                    subject,
                    state.title() + " is sold in the classroom too",
                    "Who buys it there gets in without Yoru: no tags, no levels, and no refund closes it.",
                    "Take it from sale in the classroom, or accept that it has two tills."));
        }
        var course = ways.index().course(state.course());
        boolean mapped = course.map(ways::hasWayIn).orElse(false);
        if (!mapped) {
            found.add(noWayIn(course.orElseGet(() -> new Course(state.course(), state.title(), List.of()))));
            return;
        }
        if (!state.hasContent()) {
            found.add(Finding.of(
                    Kind.EMPTY,
                    subject,
                    state.title() + " is empty",
                    "It is mapped, but the classroom has no content for it.",
                    "Put lessons into it before people pay for it."));
        }
        if (!state.published()) {
            found.add(Finding.of(
                    Kind.UNPUBLISHED,
                    subject,
                    state.title() + " is not published",
                    "It is mapped, but learners see it only once the classroom publishes it.",
                    "Publish it in the classroom."));
        }
    }

    /** A door that was shut keeps nobody out who is in. */
    private static Finding within(CourseState state, Observed.Strangers strangers) {
        return Finding.of(
                        Kind.IN_WITHOUT_REASON,
                        "course/" + state.course(),
                        (strangers.people() == 1 ? "Somebody is in " : "People are in ") + state.title()
                                + " without a reason",
                        "",
                        "Take them out, or take over that they are in.")
                .touching(
                        strangers.people(),
                        strangers.words() + ": let in by hand in the classroom, or through a door that stood open.");
    }

    private static Finding noWayIn(Course course) {
        return Finding.of(
                Kind.NO_WAY_IN,
                "course/" + course.id(),
                course.title() + " has no way in",
                "Nothing opens it, and no level lets it be chosen.",
                "Map a product, a level or a tag to it.");
    }

    /** Links name courses that no classroom lists. */
    private void notThere(List<CourseState> states, List<Finding> found) {
        var listed = states.stream().map(CourseState::course).collect(Collectors.toSet());
        var named = new TreeSet<String>();
        rulebook.links().stream().flatMap(link -> link.to().stream()).forEach(to -> {
            if (to instanceof Destination.OfCourse it && !listed.contains(it.course())) {
                named.add(it.course());
            }
        });
        named.forEach(course -> {
            var title = rulebook.title(new Target.OfCourse(course));
            var links = Finding.counted(ways.linksNaming(course), "link opens", "links open") + " it.";
            found.add(
                    observed.vanished().contains(course)
                            ? Finding.of(
                                    Kind.COURSE_GONE,
                                    "course/" + course,
                                    "The course " + title + " is gone",
                                    "No classroom lists it any more; " + links,
                                    "Bring it back in the classroom, or map to the course that took its place.")
                            : Finding.of(
                                    Kind.COURSE_NOWHERE,
                                    "course/" + course,
                                    "No classroom has the course " + title,
                                    "None has listed it so far; " + links,
                                    "Make it in the classroom under the id " + course
                                            + ", or map to a course that is there."));
        });
    }

    private void level(Level level, List<Finding> found) {
        var subject = "level/" + level.id();
        boolean includes =
                level.ladder().filter(ways.index()::higherIncludesLower).isPresent()
                        && ways.index().includedIn(level).stream()
                                .anyMatch(lower -> !ways.opens(lower).isEmpty());
        if (ways.opens(level).isEmpty() && level.allowance().isEmpty() && !includes) {
            found.add(Finding.of(
                    Kind.LEVEL_OPENS_NOTHING,
                    subject,
                    "The level " + level.title() + " opens nothing",
                    "No link leads on from it, and it lets nothing be chosen.",
                    "Map it, or let the ladder's higher levels include the lower ones."));
        }
        level.allowance().ifPresent(allowance -> {
            int choosable =
                    (int) rulebook.courses().stream().filter(allowance::admits).count();
            if (allowance.courses() > choosable) {
                found.add(Finding.of(
                        Kind.ALLOWANCE_TOO_LARGE,
                        subject,
                        level.title() + " lets more be chosen than there is",
                        "Its holders may choose %d courses, and %d can be chosen."
                                .formatted(allowance.courses(), choosable),
                        "Make the allowance smaller, or its categories wider."));
            }
        });
    }

    /** Where higher levels do not include the lower ones, climbing should lose nothing. */
    private void holes(Ladder ladder, List<Finding> found) {
        if (ladder.higherIncludesLower()) {
            return;
        }
        var levels = ways.index().levelsOn(ladder.id()).stream()
                .sorted(Comparator.comparingInt(Level::rank))
                .toList();
        for (int at = 1; at < levels.size(); at++) {
            var lower = levels.get(at - 1);
            var higher = levels.get(at);
            Set<Target> lost = ways.opens(lower);
            lost.removeAll(ways.opens(higher));
            if (!lost.isEmpty() && !ways.opens(higher).isEmpty()) {
                found.add(Finding.of(
                        Kind.LADDER_HOLE,
                        "level/" + higher.id(),
                        "Who climbs to " + higher.title() + " loses something",
                        "%s opens %s, and %s does not."
                                .formatted(
                                        lower.title(),
                                        lost.stream()
                                                .map(rulebook::title)
                                                .sorted()
                                                .collect(Collectors.joining(", ")),
                                        higher.title()),
                        "Map it to the higher level too, or let higher levels include the lower ones."));
            }
        }
    }

    private void unused(Thing tag, List<Finding> found) {
        var target = new Target.OfTag(tag.id());
        if (!ways.isOpened(target)
                && ways.index().from(new Source.OfTag(tag.id())).isEmpty()) {
            found.add(Finding.of(
                    Kind.TAG_UNUSED,
                    "tag/" + tag.id(),
                    "Nothing uses the tag " + tag.title(),
                    "No link puts it on, and none leads on from it.",
                    "Leave it out of the rulebook, or map it."));
        }
    }

    private void sameName(Sort sort, List<Finding> found) {
        Map<String, String> first = new HashMap<>();
        for (Thing thing : rulebook.all(sort)) {
            var other = first.putIfAbsent(thing.title().strip().toLowerCase(Locale.ROOT), thing.id());
            if (other != null) {
                found.add(Finding.of(
                        Kind.SAME_NAME,
                        sort.one() + "/" + thing.id(),
                        "Two %s are called %s".formatted(sort.many(), thing.title()),
                        "They are %s and %s.".formatted(other, thing.id()),
                        "Give them names that people can tell apart; links follow the id either way."));
            }
        }
    }
}
