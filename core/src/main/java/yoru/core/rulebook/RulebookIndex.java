package yoru.core.rulebook;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/** A rulebook made ready for questions: what is known, which links serve what, where they lead. */
public final class RulebookIndex {

    private final Rulebook rulebook;
    private final Map<String, Product> products = new HashMap<>();
    private final Map<String, Course> courses = new LinkedHashMap<>();
    private final Map<String, Level> levels = new LinkedHashMap<>();
    private final Map<String, Ladder> ladders = new HashMap<>();
    private final Map<String, List<Level>> onLadder = new HashMap<>();
    private final Map<Source, List<Link>> bySource = new HashMap<>();
    private final Map<String, List<Target>> targets = new HashMap<>();
    private final Set<Target> simpleTargets = new LinkedHashSet<>();
    private final Set<String> serving = new HashSet<>();
    private final List<Dependencies.Node> order;

    public RulebookIndex(Rulebook rulebook) {
        this.rulebook = rulebook;
        this.order = Dependencies.of(rulebook).order();
        rulebook.products().forEach(product -> products.put(product.id(), product));
        rulebook.courses().forEach(course -> courses.put(course.id(), course));
        rulebook.school().ladders().forEach(ladder -> ladders.put(ladder.id(), ladder));
        for (Level level : rulebook.levels()) {
            levels.put(level.id(), level);
            level.ladder()
                    .ifPresent(ladder -> onLadder.computeIfAbsent(ladder, id -> new ArrayList<>())
                            .add(level));
        }
        rulebook.things()
                .forEach((sort, all) ->
                        all.forEach(thing -> sort.target(thing.id()).ifPresent(simpleTargets::add)));
        for (Link link : rulebook.links()) {
            bySource.computeIfAbsent(link.from(), source -> new ArrayList<>()).add(link);
            Set<Target> all = new LinkedHashSet<>();
            link.to().forEach(destination -> all.addAll(targets(destination)));
            targets.put(link.id(), List.copyOf(all));
        }
        for (Product product : rulebook.products()) {
            if (everything(product).anyMatch(bySource::containsKey)) {
                serving.add(product.id());
            }
        }
    }

    /** All that a purchase of the product can match, whatever option was chosen. */
    private static Stream<Source> everything(Product product) {
        return Stream.concat(
                sourcesOf(product, Optional.empty()),
                product.options().stream().map(option -> new Source.OfOption(option.id())));
    }

    /** Whether any link serves who bought a product, with any option. */
    public boolean serves(String product) {
        return serving.contains(product);
    }

    public Rulebook rulebook() {
        return rulebook;
    }

    /** Levels, ladders and tags, those that others depend on first. */
    public List<Dependencies.Node> order() {
        return order;
    }

    public Optional<Product> product(String id) {
        return Optional.ofNullable(products.get(id));
    }

    public Optional<Course> course(String id) {
        return Optional.ofNullable(courses.get(id));
    }

    public Optional<Level> level(String id) {
        return Optional.ofNullable(levels.get(id));
    }

    public boolean knowsTag(String id) {
        return simpleTargets.contains(new Target.OfTag(id));
    }

    /** The levels of a ladder, in the rulebook's order. */
    public List<Level> levelsOn(String ladder) {
        return onLadder.getOrDefault(ladder, List.of());
    }

    public boolean higherIncludesLower(String ladder) {
        var known = ladders.get(ladder);
        return known != null && known.higherIncludesLower();
    }

    /** The levels that holding one of them stands for: itself, and the lower ones where the ladder says so. */
    public List<Level> includedIn(Level level) {
        var ladder = level.ladder();
        if (ladder.isEmpty() || !higherIncludesLower(ladder.get())) {
            return List.of(level);
        }
        return levelsOn(ladder.get()).stream()
                .filter(other -> other.rank() <= level.rank())
                .toList();
    }

    public List<Link> from(Source source) {
        return bySource.getOrDefault(source, List.of());
    }

    /** The links that serve who bought the product with this option. */
    public List<Link> serving(Product product, Optional<String> option) {
        return sourcesOf(product, option)
                .flatMap(source -> from(source).stream())
                .toList();
    }

    /** All that a purchase matches. An option counts only on the product that has it. */
    public static Stream<Source> sourcesOf(Product product, Optional<String> option) {
        return Stream.of(
                        Stream.<Source>of(new Source.OfProduct(product.id())),
                        option.filter(product::hasOption).<Source>map(Source.OfOption::new).stream(),
                        product.categories().stream().distinct().<Source>map(Source.OfCategory::new))
                .flatMap(sources -> sources);
    }

    /** Where the link leads, each target once. */
    public List<Target> targets(Link link) {
        return targets.getOrDefault(link.id(), List.of());
    }

    /** The targets of a destination; none where it names what is not there. */
    public Set<Target> targets(Destination destination) {
        Set<Target> found = new LinkedHashSet<>();
        switch (destination) {
            case Destination.OfCourse it -> course(it.course()).ifPresent(course -> add(found, course, it.tier()));
            case Destination.OfCategory it ->
                courses.values().stream()
                        .filter(course -> course.categories().contains(it.category())
                                && !it.except().contains(course.id()))
                        .forEach(course -> add(found, course, it.tier()));
            case Destination.Exactly it -> addExactly(found, it.target());
        }
        return found;
    }

    /** Whether everything that the destination names is known. A category that covers nothing is. */
    public boolean knows(Destination destination) {
        return switch (destination) {
            case Destination.OfCourse it -> courses.containsKey(it.course()) && knowsTier(it.tier());
            case Destination.OfCategory it -> courses.keySet().containsAll(it.except()) && knowsTier(it.tier());
            case Destination.Exactly _ -> !targets(destination).isEmpty();
        };
    }

    private boolean knowsTier(Optional<String> tier) {
        return tier.isEmpty() || rulebook.school().tiers().contains(tier.get());
    }

    private void addExactly(Set<Target> found, Target target) {
        switch (target) {
            case Target.OfSection it ->
                course(it.course())
                        .filter(course -> course.hasSection(it.section()))
                        .ifPresent(course -> {
                            found.add(new Target.OfCourse(it.course()));
                            found.add(it);
                        });
            case Target.OfCourse it -> {
                if (courses.containsKey(it.course())) {
                    found.add(it);
                }
            }
            case Target.OfTag _,
                    Target.OfLevel _,
                    Target.OfGroup _,
                    Target.OfArea _,
                    Target.OfDownload _,
                    Target.OfList _ -> {
                if (simpleTargets.contains(target)) {
                    found.add(target);
                }
            }
        }
    }

    private void add(Set<Target> found, Course course, Optional<String> upTo) {
        if (!knowsTier(upTo)) {
            return;
        }
        var tiers = rulebook.school().tiers();
        int highest = upTo.map(tiers::indexOf).orElse(Integer.MAX_VALUE);
        found.add(new Target.OfCourse(course.id()));
        for (Section section : course.sections()) {
            if (section.tier().map(tiers::indexOf).orElse(0) <= highest) {
                found.add(new Target.OfSection(course.id(), section.id()));
            }
        }
    }
}
