package yoru.core.findings;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Followup.Step;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;

/** What follow-ups open besides links. */
final class FollowupTargets {

    private FollowupTargets() {}

    /** All that it can give, with the values of its rows. */
    static Set<Target> given(Followup followup, Rulebook rulebook) {
        var variants = followup.rows().isEmpty()
                ? Stream.of(followup)
                : followup.rows().stream().map(followup::with);
        return variants.flatMap(one -> given(one.steps()))
                .flatMap(to -> targets(to, rulebook))
                .collect(Collectors.toSet());
    }

    private static Stream<Destination> given(List<Step> steps) {
        return steps.stream().flatMap(step -> switch (step) {
            case Step.Give it -> it.to().stream();
            case Step.If it -> Stream.concat(given(it.then()), given(it.otherwise()));
            case Step.Take _,
                    Step.SetField _,
                    Step.Write _,
                    Step.Tell _,
                    Step.WaitFor _,
                    Step.WaitUntil _,
                    Step.Stop _ -> Stream.empty();
        });
    }

    private static Stream<Target> targets(Destination to, Rulebook rulebook) {
        return switch (to) {
            case Destination.OfCourse it -> Stream.of(new Target.OfCourse(it.course()));
            case Destination.Exactly it -> Stream.of(it.target());
            case Destination.OfCategory it ->
                rulebook.courses().stream()
                        .filter(course -> course.categories().contains(it.category())
                                && !it.except().contains(course.id()))
                        .map(Course::id)
                        .map(Target.OfCourse::new);
        };
    }
}
