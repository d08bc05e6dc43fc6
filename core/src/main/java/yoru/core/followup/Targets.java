package yoru.core.followup;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Followup.Step;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;

/** What follow-ups name: a category stands for its courses, each of them by itself. */
public final class Targets {

    private Targets() {}

    public static Set<Target> of(List<Destination> named, Rulebook rulebook) {
        Set<Target> targets = new LinkedHashSet<>();
        for (Destination one : named) {
            switch (one) {
                case Destination.OfCourse it -> targets.add(new Target.OfCourse(it.course()));
                case Destination.Exactly it -> targets.add(it.target());
                case Destination.OfCategory it ->
                    rulebook.courses().stream()
                            .filter(course -> course.categories().contains(it.category())
                                    && !it.except().contains(course.id()))
                            .map(Course::id)
                            .forEach(course -> targets.add(new Target.OfCourse(course)));
            }
        }
        return targets;
    }

    /** All that a follow-up can give, with the values of its rows. */
    public static Set<Target> given(Followup followup, Rulebook rulebook) {
        return of(destinations(followup, step -> step instanceof Step.Give it ? it.to() : List.of()), rulebook);
    }

    /** All that it can take. */
    static Set<Target> taken(Followup followup, Rulebook rulebook) {
        return of(destinations(followup, step -> step instanceof Step.Take it ? it.from() : List.of()), rulebook);
    }

    private static List<Destination> destinations(Followup followup, Function<Step, List<Destination>> named) {
        return followup.variants()
                .flatMap(Followup::allSteps)
                .map(named)
                .flatMap(List::stream)
                .toList();
    }
}
