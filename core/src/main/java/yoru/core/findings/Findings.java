package yoru.core.findings;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;

/** Looks a mapping over. */
public final class Findings {

    private final Rulebook rulebook;
    private final Map<String, Integer> linksByCourse = new TreeMap<>();
    private final Set<String> mappedProducts = new HashSet<>();
    private final Set<String> choosable = new HashSet<>();

    public Findings(Rulebook rulebook) {
        this.rulebook = rulebook;
        var index = new RulebookIndex(rulebook);
        for (Link link : rulebook.links()) {
            for (Target target : index.targets(link)) {
                if (target instanceof Target.OfCourse course) {
                    linksByCourse.merge(course.course(), 1, Integer::sum);
                }
            }
            // what a catalogue no longer has leads nowhere, and is looked for by its name
            for (Destination destination : link.to()) {
                if (destination instanceof Destination.OfCourse named
                        && index.course(named.course()).isEmpty()) {
                    linksByCourse.merge(named.course(), 1, Integer::sum);
                }
            }
        }
        for (Product product : rulebook.products()) {
            var options = Stream.concat(
                    Stream.of(Optional.<String>empty()),
                    product.options().stream().map(option -> Optional.of(option.id())));
            if (options.anyMatch(option -> !index.serving(product, option).isEmpty())) {
                mappedProducts.add(product.id());
            }
        }
        for (Course course : rulebook.courses()) {
            if (rulebook.levels().stream()
                    .flatMap(level -> level.allowance().stream())
                    .anyMatch(allowance -> allowance.admits(course))) {
                choosable.add(course.id());
            }
        }
    }

    /** All findings, the gravest kinds first. */
    public List<Finding> check(List<Sales> sales, List<CourseState> courses) {
        var found = new ArrayList<Finding>();
        courses.stream()
                .filter(course -> course.door() != CourseState.Door.YORU_ONLY)
                .map(course ->
                        new Finding.SideDoor(course.course(), course.title(), course.door(), linksTo(course.course())))
                .forEach(found::add);
        Map<String, Product> known = new HashMap<>();
        rulebook.products().forEach(product -> known.put(product.id(), product));
        for (Sales sold : sales) {
            Product product = known.get(sold.product());
            if (product == null) {
                found.add(new Finding.UnknownProduct(sold.product(), sold.buyers()));
            } else if (!mappedProducts.contains(sold.product()) && !sold.thing()) {
                found.add(new Finding.OpensNothing(product.id(), product.title(), sold.buyers()));
            }
        }
        for (CourseState course : courses) {
            boolean mapped = hasWayIn(course.course());
            if (mapped && !course.hasContent()) {
                found.add(new Finding.Empty(course.course(), course.title()));
            }
            if (mapped && !course.published()) {
                found.add(new Finding.Unpublished(course.course(), course.title()));
            }
            if (!mapped) {
                found.add(new Finding.NoWayIn(course.course(), course.title()));
            }
        }
        var listed = courses.stream().map(CourseState::course).toList();
        linksByCourse.forEach((course, links) -> {
            if (!listed.contains(course)) {
                found.add(new Finding.Vanished(course, links));
            }
        });
        return List.copyOf(found);
    }

    /** What can be seen of the rulebook alone, without what was sold and what the classroom says. */
    public List<Finding> inItself() {
        var found = new ArrayList<Finding>();
        for (Link link : rulebook.links()) {
            if (link.from() instanceof Source.OfCategory it
                    && rulebook.products().stream()
                            .noneMatch(product -> product.categories().contains(it.category()))) {
                found.add(new Finding.CoversNothing(link.id(), "product", it.category()));
            }
            for (Destination destination : link.to()) {
                if (destination instanceof Destination.OfCategory it
                        && rulebook.courses().stream()
                                .noneMatch(course -> course.categories().contains(it.category()))) {
                    found.add(new Finding.CoversNothing(link.id(), "course", it.category()));
                }
            }
        }
        rulebook.products().stream()
                .filter(product -> !mappedProducts.contains(product.id()))
                .forEach(product -> found.add(new Finding.OpensNothing(product.id(), product.title(), 0)));
        rulebook.courses().stream()
                .filter(course -> !hasWayIn(course.id()))
                .forEach(course -> found.add(new Finding.NoWayIn(course.id(), course.title())));
        return List.copyOf(found);
    }

    private boolean hasWayIn(String course) {
        return linksTo(course) > 0 || choosable.contains(course);
    }

    private int linksTo(String course) {
        return linksByCourse.getOrDefault(course, 0);
    }
}
