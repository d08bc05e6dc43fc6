package yoru.core.rulebook;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** A school's products, courses and links. Immutable; a change makes a new one. */
public record Rulebook(School school, List<Course> courses, List<Product> products, List<Link> links) {

    public Rulebook {
        courses = List.copyOf(courses);
        products = List.copyOf(products);
        links = List.copyOf(links);
    }

    public Optional<Product> product(String id) {
        return products.stream().filter(product -> product.id().equals(id)).findFirst();
    }

    public Optional<Course> course(String id) {
        return courses.stream().filter(course -> course.id().equals(id)).findFirst();
    }

    public OpensOn opensOn(Product product) {
        return product.opensOn().orElse(school.opensOn());
    }

    /** The same links over other products and courses. */
    public Rulebook withCatalogue(List<Course> nowCourses, List<Product> nowProducts) {
        return new Rulebook(school, nowCourses, nowProducts, links);
    }

    /** With some cells changed, in the order given. */
    public Rulebook with(List<CellChange> changes) {
        var next = links;
        for (CellChange change : changes) {
            next = changed(next, change);
        }
        return new Rulebook(school, courses, products, next);
    }

    /** Every link by its id. */
    public Map<String, Link> linksById() {
        return links.stream().collect(Collectors.toUnmodifiableMap(Link::id, link -> link));
    }

    private static List<Link> changed(List<Link> links, CellChange change) {
        var next = new ArrayList<Link>();
        Link kept = null;
        for (Link link : links) {
            if (!link.opens(change.source(), change.target())) {
                next.add(link);
                continue;
            }
            var rest = link.to().stream()
                    .filter(target -> !target.equals(change.target()))
                    .toList();
            if (!rest.isEmpty()) {
                next.add(new Link(link.id(), link.from(), rest, link.terms()));
            } else if (kept == null) {
                kept = link;
            }
        }
        var taken = next.stream().map(Link::id).collect(Collectors.toSet());
        var id = idFor(kept, change, taken);
        change.terms().ifPresent(terms -> next.add(new Link(id, change.source(), List.of(change.target()), terms)));
        return next;
    }

    /** A changed cell keeps the id of its link, a new one gets one that says what it joins. */
    private static String idFor(@Nullable Link kept, CellChange change, Set<String> taken) {
        var wanted = kept != null
                ? kept.id()
                : switch (change.source()) {
                    case Source.OfProduct product -> product.product() + "-opens-" + nameOf(change.target());
                };
        var id = wanted;
        for (int n = 2; taken.contains(id); n++) {
            id = wanted + "-" + n;
        }
        return id;
    }

    private static String nameOf(Target target) {
        return switch (target) {
            case Target.OfCourse course -> course.course();
        };
    }
}
