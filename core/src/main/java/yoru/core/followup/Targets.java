package yoru.core.followup;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;

/** What follow-ups name: a category stands for its courses, each of them by itself. */
final class Targets {

    private Targets() {}

    static Set<Target> of(List<Destination> named, Rulebook rulebook) {
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
}
