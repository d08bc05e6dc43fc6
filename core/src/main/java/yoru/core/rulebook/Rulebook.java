package yoru.core.rulebook;

import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * What a school sells and teaches, and what opens what. Immutable; a change makes a new one.
 *
 * @param things all that is listed, by its sort
 * @param followups what else is done when something has happened
 * @param doors what people meet where something is closed, was bought, or after signing in
 */
public record Rulebook(
        School school, Map<Sort, List<Thing>> things, List<Link> links, List<Followup> followups, List<Door> doors) {

    public Rulebook {
        Map<Sort, List<Thing>> listed = new EnumMap<>(Sort.class);
        things.forEach((sort, all) -> {
            if (!all.isEmpty()) {
                listed.put(sort, all.stream().<Thing>map(sort.type()::cast).toList());
            }
        });
        things = Collections.unmodifiableMap(listed);
        links = List.copyOf(links);
        followups = List.copyOf(followups);
        doors = List.copyOf(doors);
    }

    /** One without follow-ups, whose doors are as they ship. */
    public Rulebook(School school, Map<Sort, List<Thing>> things, List<Link> links) {
        this(school, things, links, List.of(), List.of());
    }

    /** One that knows nothing but products and courses. */
    public Rulebook(School school, List<Course> courses, List<Product> products, List<Link> links) {
        this(school, Map.of(Sort.COURSE, List.copyOf(courses), Sort.PRODUCT, List.copyOf(products)), links);
    }

    public List<Course> courses() {
        return listed(Sort.COURSE);
    }

    public List<Product> products() {
        return listed(Sort.PRODUCT);
    }

    public List<Level> levels() {
        return listed(Sort.LEVEL);
    }

    public List<NamedTerms> namedTerms() {
        return listed(Sort.TERMS);
    }

    /** All of a sort, in the rulebook's order. */
    public List<Thing> all(Sort sort) {
        return things.getOrDefault(sort, List.of());
    }

    public Optional<Product> product(String id) {
        return find(products(), id);
    }

    public Optional<Course> course(String id) {
        return find(courses(), id);
    }

    public Optional<Level> level(String id) {
        return find(levels(), id);
    }

    public Optional<NamedTerms> namedTerms(String id) {
        return find(namedTerms(), id);
    }

    /** That each is of the sort's type was seen when the rulebook was made. */
    @SuppressWarnings("unchecked")
    private <T extends Thing> List<T> listed(Sort sort) {
        return (List<T>) all(sort);
    }

    private static <T extends Thing> Optional<T> find(List<T> things, String id) {
        return things.stream().filter(thing -> thing.id().equals(id)).findFirst();
    }

    public OpensOn opensOn(Product product) {
        return product.opensOn().orElse(school.opensOn());
    }

    /** The same with other things of a sort. */
    public Rulebook with(Sort sort, List<? extends Thing> now) {
        Map<Sort, List<Thing>> next = new EnumMap<>(Sort.class);
        next.putAll(things);
        next.put(sort, List.copyOf(now));
        return new Rulebook(school, next, links, followups, doors);
    }

    /** The same links over other products and courses. */
    public Rulebook withCatalogue(List<Course> nowCourses, List<Product> nowProducts) {
        return with(Sort.COURSE, nowCourses).with(Sort.PRODUCT, nowProducts);
    }

    /** The same things with other links. */
    public Rulebook withLinks(List<Link> nowLinks) {
        return new Rulebook(school, things, nowLinks, followups, doors);
    }

    /** The same with other follow-ups. */
    public Rulebook withFollowups(List<Followup> nowFollowups) {
        return new Rulebook(school, things, links, nowFollowups, doors);
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
        Map<String, Terms> byName = namedTerms().stream().collect(Collectors.toMap(NamedTerms::id, NamedTerms::terms));
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

    /** What the place of a door is called. */
    public String titleOfPlace(String place) {
        return Door.productOf(place)
                .map(this::titleOfProduct)
                .or(() -> Door.targetOf(place).map(this::title))
                .orElse("the school");
    }

    /** What the thing is called; its id where it has no title or is not known. */
    public String title(Target target) {
        return switch (target) {
            case Target.OfCourse it -> titleOf(Sort.COURSE, it.course());
            case Target.OfSection it ->
                course(it.course()).stream()
                        .flatMap(course -> course.sections().stream())
                        .filter(section -> section.id().equals(it.section()))
                        .map(Section::title)
                        .findFirst()
                        .orElse(it.section());
            case Target.OfLevel it -> titleOf(Sort.LEVEL, it.level());
            case Target.OfTag it -> titleOf(Sort.TAG, it.tag());
            case Target.OfGroup it -> titleOf(Sort.GROUP, it.group());
            case Target.OfArea it -> titleOf(Sort.AREA, it.area());
            case Target.OfDownload it -> titleOf(Sort.DOWNLOAD, it.download());
            case Target.OfList it -> titleOf(Sort.LIST, it.list());
        };
    }

    /** "Queen Rearing", "First Hive finished". */
    public String title(Source source) {
        return switch (source) {
            case Source.OfProduct it -> titleOf(Sort.PRODUCT, it.product());
            case Source.OfOption it ->
                products().stream()
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
        return titleOf(Sort.PRODUCT, id);
    }

    /** Its title, or its id where nothing has it. */
    public String titleOf(Sort sort, String id) {
        return find(all(sort), id).map(Thing::title).orElse(id);
    }

    private String exceptions(List<String> courses) {
        return courses.isEmpty()
                ? ""
                : courses.stream()
                        .map(course -> title(new Target.OfCourse(course)))
                        .collect(Collectors.joining(", ", " but ", ""));
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
