package yoru.core.findings;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import yoru.core.followup.Targets;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;

/** Which ways lead from what to what. */
final class Ways {

    private final Rulebook rulebook;
    private final RulebookIndex index;
    private final Set<Target> opened = new HashSet<>();

    Ways(Rulebook rulebook) {
        this.rulebook = rulebook;
        this.index = new RulebookIndex(rulebook);
        rulebook.links().forEach(link -> opened.addAll(index.targets(link)));
        rulebook.followups().forEach(followup -> opened.addAll(Targets.given(followup, rulebook)));
    }

    Rulebook rulebook() {
        return rulebook;
    }

    RulebookIndex index() {
        return index;
    }

    /** The links that serve a product, whatever option was chosen. */
    List<Link> serving(Product product) {
        return index.serving(product, Optional.empty());
    }

    boolean optionOpensSomething(Product product, String option) {
        return !index.serving(product, Optional.of(option)).isEmpty();
    }

    boolean opensSomething(Product product) {
        return !serving(product).isEmpty()
                || product.options().stream().anyMatch(option -> optionOpensSomething(product, option.id()));
    }

    /** Where the links that serve the product lead. */
    Set<Target> places(Product product) {
        return serving(product).stream()
                .flatMap(link -> index.targets(link).stream())
                .collect(Collectors.toSet());
    }

    boolean isOpened(Target target) {
        return opened.contains(target);
    }

    /** Whether a link leads to the course, or a level lets it be chosen. */
    boolean hasWayIn(Course course) {
        return isOpened(new Target.OfCourse(course.id()))
                || course.sections().stream()
                        .anyMatch(section -> isOpened(new Target.OfSection(course.id(), section.id())))
                || rulebook.levels().stream()
                        .flatMap(level -> level.allowance().stream())
                        .anyMatch(allowance -> allowance.admits(course));
    }

    /** Links that name the course, also where no catalogue knows it any more. */
    int linksNaming(String course) {
        return (int) rulebook.links().stream()
                .filter(link -> link.to().stream()
                        .anyMatch(to -> to instanceof Destination.OfCourse it
                                && it.course().equals(course)))
                .count();
    }

    int linksTo(String course) {
        return (int) rulebook.links().stream()
                .filter(link -> index.targets(link).contains(new Target.OfCourse(course)))
                .count();
    }

    /** What a level opens by links of its own. */
    Set<Target> opens(Level level) {
        Set<Target> targets = new HashSet<>();
        index.from(new Source.OfLevel(level.id())).forEach(link -> targets.addAll(index.targets(link)));
        return targets;
    }
}
