package yoru.core.rulebook;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What a school sells and teaches, and what opens what. Immutable; a change makes a new one. */
public record Rulebook(
        School school,
        List<Course> courses,
        List<Product> products,
        List<Level> levels,
        List<Named> tags,
        List<Named> groups,
        List<Named> areas,
        List<Named> downloads,
        List<Named> lists,
        List<NamedTerms> namedTerms,
        List<Link> links) {

    public Rulebook {
        courses = List.copyOf(courses);
        products = List.copyOf(products);
        levels = List.copyOf(levels);
        tags = List.copyOf(tags);
        groups = List.copyOf(groups);
        areas = List.copyOf(areas);
        downloads = List.copyOf(downloads);
        lists = List.copyOf(lists);
        namedTerms = List.copyOf(namedTerms);
        links = List.copyOf(links);
    }

    /** One without terms under a name. */
    public Rulebook(
            School school,
            List<Course> courses,
            List<Product> products,
            List<Level> levels,
            List<Named> tags,
            List<Named> groups,
            List<Named> areas,
            List<Named> downloads,
            List<Named> lists,
            List<Link> links) {
        this(school, courses, products, levels, tags, groups, areas, downloads, lists, List.of(), links);
    }

    /** One that knows nothing but products and courses. */
    public Rulebook(School school, List<Course> courses, List<Product> products, List<Link> links) {
        this(school, courses, products, List.of(), List.of(), List.of(), List.of(), List.of(), List.of(), links);
    }

    public Optional<Product> product(String id) {
        return products.stream().filter(product -> product.id().equals(id)).findFirst();
    }

    public Optional<Course> course(String id) {
        return courses.stream().filter(course -> course.id().equals(id)).findFirst();
    }

    public Optional<Level> level(String id) {
        return levels.stream().filter(level -> level.id().equals(id)).findFirst();
    }

    public Optional<NamedTerms> namedTerms(String id) {
        return namedTerms.stream().filter(terms -> terms.id().equals(id)).findFirst();
    }

    public OpensOn opensOn(Product product) {
        return product.opensOn().orElse(school.opensOn());
    }

    /** The same links over other products and courses. */
    public Rulebook withCatalogue(List<Course> nowCourses, List<Product> nowProducts) {
        return new Rulebook(
                school, nowCourses, nowProducts, levels, tags, groups, areas, downloads, lists, namedTerms, links);
    }

    /** The same with other things than courses that can be opened. */
    public Rulebook withThings(
            List<Named> nowTags,
            List<Named> nowGroups,
            List<Named> nowAreas,
            List<Named> nowDownloads,
            List<Named> nowLists) {
        return new Rulebook(
                school,
                courses,
                products,
                levels,
                nowTags,
                nowGroups,
                nowAreas,
                nowDownloads,
                nowLists,
                namedTerms,
                links);
    }

    /** The same school with other links. */
    public Rulebook withLinks(List<Link> nowLinks) {
        return new Rulebook(
                school, courses, products, levels, tags, groups, areas, downloads, lists, namedTerms, nowLinks);
    }

    /** With some cells changed, in the order given. */
    public Rulebook with(List<CellChange> changes) {
        var next = links;
        for (CellChange change : changes) {
            next = changed(next, change);
        }
        return withLinks(next);
    }

    /** With the terms that links have by name as they are said there now. */
    public Rulebook withTermsByName() {
        Map<String, Terms> byName = namedTerms.stream().collect(Collectors.toMap(NamedTerms::id, NamedTerms::terms));
        return withLinks(links.stream()
                .map(link -> link.termsName()
                        .map(byName::get)
                        .map(terms -> new Link(
                                link.id(), link.from(), link.to(), terms, link.applies(), link.termsNameOrNone()))
                        .orElse(link))
                .toList());
    }

    /** Every link by its id. */
    public Map<String, Link> linksById() {
        return links.stream().collect(Collectors.toUnmodifiableMap(Link::id, link -> link));
    }

    /** What the thing is called; its id where it has no title or is not known. */
    public String title(Target target) {
        return switch (target) {
            case Target.OfCourse it -> course(it.course()).map(Course::title).orElse(it.course());
            case Target.OfSection it ->
                course(it.course()).stream()
                        .flatMap(course -> course.sections().stream())
                        .filter(section -> section.id().equals(it.section()))
                        .map(Section::title)
                        .findFirst()
                        .orElse(it.section());
            case Target.OfLevel it -> level(it.level()).map(Level::title).orElse(it.level());
            case Target.OfTag it -> titleIn(tags, it.tag());
            case Target.OfGroup it -> titleIn(groups, it.group());
            case Target.OfArea it -> titleIn(areas, it.area());
            case Target.OfDownload it -> titleIn(downloads, it.download());
            case Target.OfList it -> titleIn(lists, it.list());
        };
    }

    /** "Queen Rearing", "First Hive finished". */
    public String title(Source source) {
        return switch (source) {
            case Source.OfProduct it -> titleOfProduct(it.product());
            case Source.OfOption it ->
                products.stream()
                        .flatMap(product -> product.options().stream()
                                .filter(option -> option.id().equals(it.option()))
                                .map(option -> product.title() + ", " + option.title()))
                        .findFirst()
                        .orElse(it.option());
            case Source.OfCategory it -> "anything of " + it.category();
            case Source.OfLevel it -> title(new Target.OfLevel(it.level()));
            case Source.OfTag it -> "tag " + title(new Target.OfTag(it.tag()));
            case Source.OfCompleted it -> title(new Target.OfCourse(it.course())) + " finished";
        };
    }

    /** "Queen Rearing up to core", "all of starter but First Hive". */
    public String title(Destination destination) {
        return switch (destination) {
            case Destination.OfCourse it ->
                title(new Target.OfCourse(it.course()))
                        + it.tier().map(tier -> " up to " + tier).orElse("");
            case Destination.OfCategory it ->
                "all of " + it.category() + exceptions(it.except())
                        + it.tier().map(tier -> " up to " + tier).orElse("");
            case Destination.Exactly it -> title(it.target());
        };
    }

    /** What a link opens: "First Hive, all of starter". */
    public String titlesOf(List<Destination> destinations) {
        return destinations.stream().map(this::title).collect(Collectors.joining(", "));
    }

    public String titleOfProduct(String id) {
        return product(id).map(Product::title).orElse(id);
    }

    private String exceptions(List<String> courses) {
        return courses.isEmpty()
                ? ""
                : courses.stream()
                        .map(course -> title(new Target.OfCourse(course)))
                        .collect(Collectors.joining(", ", " but ", ""));
    }

    private static String titleIn(List<Named> things, String id) {
        return things.stream()
                .filter(thing -> thing.id().equals(id))
                .map(Named::title)
                .findFirst()
                .orElse(id);
    }

    private static List<Link> changed(List<Link> links, CellChange change) {
        var leading = links.stream()
                .filter(link -> link.leads(change.source(), change.destination()))
                .toList();
        if (!leading.isEmpty() && says(leading.getFirst(), change)) {
            return links;
        }
        var next = new ArrayList<Link>();
        Link kept = null;
        for (Link link : links) {
            if (!leading.contains(link)) {
                next.add(link);
                continue;
            }
            var rest = link.to().stream()
                    .filter(destination ->
                            !destination.place().equals(change.destination().place()))
                    .toList();
            if (!rest.isEmpty()) {
                next.add(new Link(link.id(), link.from(), rest, link.terms(), link.applies(), link.termsNameOrNone()));
            } else if (kept == null) {
                kept = link;
            }
        }
        var taken = next.stream().map(Link::id).collect(Collectors.toSet());
        var id = idFor(kept, change, taken);
        var applies = change.applies()
                .orElseGet(() ->
                        leading.isEmpty() ? Applies.ALWAYS : leading.getFirst().applies());
        change.terms()
                .ifPresent(terms -> next.add(new Link(
                        id, change.source(), List.of(change.destination()), terms, applies, change.newTermsName())));
        return next;
    }

    /** Whether a link says already what is to be changed to. */
    private static boolean says(Link link, CellChange change) {
        return change.terms().equals(Optional.of(link.terms()))
                && link.to().contains(change.destination())
                && change.termsName().equals(link.termsName())
                && change.applies().orElse(link.applies()).equals(link.applies());
    }

    /** A changed cell keeps the id of its link, a new one gets one that says what it joins. */
    private static String idFor(@Nullable Link kept, CellChange change, Set<String> taken) {
        var wanted = kept != null ? kept.id() : nameOf(change.source()) + "-opens-" + nameOf(change.destination());
        var id = wanted;
        for (int n = 2; taken.contains(id); n++) {
            id = wanted + "-" + n;
        }
        return id;
    }

    private static String nameOf(Source source) {
        return switch (source) {
            case Source.OfProduct it -> it.product();
            case Source.OfOption it -> it.option();
            case Source.OfCategory it -> it.category();
            case Source.OfLevel it -> it.level();
            case Source.OfTag it -> it.tag();
            case Source.OfCompleted it -> it.course() + "-finished";
        };
    }

    private static String nameOf(Destination destination) {
        return switch (destination) {
            case Destination.OfCourse it -> it.course();
            case Destination.OfCategory it -> it.category();
            case Destination.Exactly it ->
                it.target().path().substring(it.target().path().lastIndexOf('/') + 1);
        };
    }
}
