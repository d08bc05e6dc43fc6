package yoru.server.rulebooks;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Instant;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicReference;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.access.Engine;
import yoru.core.followup.Followups;
import yoru.core.followup.Wording;
import yoru.core.impact.Concern;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Named;
import yoru.core.rulebook.Option;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Quantity;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Thing;
import yoru.formats.RulebookDocument;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Listed.ItemKind;

/** The rulebook in force, and the one a draft starts from. */
@Service
public class Rulebooks {

    private final RulebookVersions versions;
    private final Catalogue catalogue;
    private final SchoolSettings settings;
    /**
     * By number. Whoever comes in with a past needs all that were in force since, one after the other, and so does the next;
     * a school of thousands of things has them kept only while there is room.
     */
    private final Cache<Integer, InForce> read =
            Caffeine.newBuilder().maximumSize(100).softValues().build();
    /** Of rulebooks that were published; they never change. */
    private final Map<Integer, Set<Target.OfSection>> sectionsOf = new ConcurrentHashMap<>();

    private final AtomicReference<List<Change>> changes = new AtomicReference<>(List.of());

    Rulebooks(RulebookVersions versions, Catalogue catalogue, SchoolSettings settings) {
        this.versions = versions;
        this.catalogue = catalogue;
        this.settings = settings;
    }

    /** A rulebook with the number under which it was published; 0 = nothing was published yet. */
    public record Numbered(int number, Rulebook rulebook) {}

    /** The same with what computes by it, made once for each version. */
    public record InForce(int number, Rulebook rulebook, Engine engine, Followups followups) {}

    /** The one in force. Another server may have published it, so the number is asked for each time. */
    @Transactional(readOnly = true)
    public InForce current() {
        return inForce(versions.latest().orElse(0));
    }

    /**
     * The one in force, over the products and courses of today's catalogues. What a link names stays in, also when the
     * catalogue has lost it.
     */
    @Transactional(readOnly = true)
    public Numbered overTodaysCatalogue() {
        var now = current();
        return new Numbered(now.number, overTodaysCatalogue(now.rulebook));
    }

    /** As it was published; 0 = before anything was. */
    @Transactional(readOnly = true)
    public Rulebook published(int number) {
        return number == 0
                ? nothing().rulebook
                : RulebookDocument.read(versions.findById(number)
                        .orElseThrow(() -> ProblemException.notFound("No rulebook " + number + "."))
                        .document);
    }

    /**
     * That a rulebook came into force, as far as follow-ups depend on it.
     *
     * @param followsUp whether it has follow-ups
     * @param movesAccess whether it also opens or closes anything that the one before did not; asked only where it has
     *     follow-ups
     * @param concern for whom follow-ups can do anything else than under the one before
     */
    public record Change(
            int number, Instant at, Reach reach, boolean followsUp, boolean movesAccess, Concern concern) {}

    /**
     * All changes up to a rulebook, the first first.
     *
     * @param number of one that was published; 0 = before anything was
     */
    @Transactional(readOnly = true)
    public List<Change> changesUntil(int number) {
        var known = changes.get();
        if (known.size() < number) {
            known = Stream.concat(known.stream(), changes(known.size() + 1, number))
                    .toList();
            changes.set(known);
        }
        return known.subList(0, number);
    }

    private Stream<Change> changes(int from, int to) {
        var following = versions.withFollowups(from, to);
        return versions.entries(from, to).stream().map(entry -> {
            boolean followsUp = following.contains(entry.number());
            return new Change(
                    entry.number(),
                    entry.at(),
                    entry.reach(),
                    followsUp,
                    followsUp && !concernOf(entry.number()).isNothing(),
                    followsUp ? inFollowups(entry.number()) : Concern.EVERYBODY);
        });
    }

    private Concern inFollowups(int number) {
        return Concern.inFollowups(inForce(number - 1).rulebook, inForce(number).rulebook);
    }

    /** One that was or is in force, with what computes by it; 0 = before anything was. */
    @Transactional(readOnly = true)
    public InForce inForce(int number) {
        // before the first the school may still be said to be elsewhere
        return number == 0 ? nothing() : read.get(number, it -> inForce(it, published(it)));
    }

    /** Whether a rulebook that was published knew a section. */
    @Transactional(readOnly = true)
    public boolean knew(int number, Target.OfSection section) {
        return sectionsOf.computeIfAbsent(number, it -> sections(published(it))).contains(section);
    }

    private static Set<Target.OfSection> sections(Rulebook rulebook) {
        return rulebook.courses().stream()
                .flatMap(course ->
                        course.sections().stream().map(section -> new Target.OfSection(course.id(), section.id())))
                .collect(Collectors.toSet());
    }

    /** Whom it can concern that a rulebook was published. */
    @Transactional(readOnly = true)
    public Concern concernOf(int number) {
        return Concern.of(inForce(number - 1).rulebook, inForce(number).rulebook);
    }

    /** Whom it can concern that some were published, one after the other: everybody where one serves what was before it. */
    @Transactional(readOnly = true)
    public Concern concernOf(int first, int last) {
        return versions.entries(first, last).stream()
                        .anyMatch(entry -> !entry.reach().past().isEmpty())
                ? Concern.EVERYBODY
                : IntStream.rangeClosed(first, last).mapToObj(this::concernOf).reduce(Concern.NOBODY, Concern::or);
    }

    /** Any rulebook over the products and courses of today's catalogues. */
    @Transactional(readOnly = true)
    public Rulebook overTodaysCatalogue(Rulebook known) {
        Map<String, Course> courses = new LinkedHashMap<>();
        catalogue.courses().forEach(taught -> courses.put(taught.id(), listed(taught, known.course(taught.id()))));
        known.courses().forEach(course -> courses.putIfAbsent(course.id(), course));
        Map<String, Product> products = new LinkedHashMap<>();
        var listed = catalogue.products();
        var taken = new HashSet<String>();
        for (Product product : known.products()) {
            taken.add(product.id());
            product.options().forEach(option -> taken.add(option.id()));
        }
        listed.forEach(sold -> taken.add(sold.id()));
        for (var sold : listed) {
            var options = options(sold, known.product(sold.id()), taken);
            products.put(
                    sold.id(),
                    known.product(sold.id())
                            .map(product ->
                                    product.listedAs(sold.title(), List.of(sold.category()), options, plainly(sold)))
                            .orElseGet(() -> asSold(sold, options)));
        }
        known.products().forEach(product -> products.putIfAbsent(product.id(), product));
        var next = known.withCatalogue(List.copyOf(courses.values()), List.copyOf(products.values()));
        for (Sort sort : Sort.values()) {
            if (sort.isOnlyNamed()) {
                next = next.with(sort, listed(sort, known));
            }
        }
        return next;
    }

    /** As its shop sells it, where no rulebook says anything of it yet. */
    private static Product asSold(Catalogue.SoldProduct sold, List<Option> options) {
        var plan = sold.plan();
        return new Product(
                sold.id(),
                sold.title(),
                List.of(sold.category()),
                options,
                null,
                plan == null ? plainly(sold) : plan.billing(),
                sold.seats() ? Quantity.SEATS : Quantity.ONCE);
    }

    private static Billing plainly(Catalogue.SoldProduct sold) {
        return sold.price().signum() == 0 ? new Billing.Free() : new Billing.Once();
    }

    /**
     * Its options as its shop lists them. One whose id something else has is left out: no rulebook could name it.
     *
     * @param taken ids of products and of options so far
     */
    private static List<Option> options(Catalogue.SoldProduct sold, Optional<Product> known, Set<String> taken) {
        return sold.options().stream()
                .filter(option ->
                        known.filter(product -> product.hasOption(option.id())).isPresent() || taken.add(option.id()))
                .map(option -> new Option(option.id(), option.title()))
                .toList();
    }

    /** As the systems name them today, and what only the rulebook knows. */
    private List<Thing> listed(Sort sort, Rulebook known) {
        Map<String, Thing> all = new LinkedHashMap<>();
        catalogue
                .things(ItemKind.of(sort))
                .forEach(thing -> all.putIfAbsent(thing.id(), new Named(thing.id(), thing.title())));
        known.all(sort).forEach(thing -> all.putIfAbsent(thing.id(), thing));
        return List.copyOf(all.values());
    }

    /** As its classroom names and sorts it today; what only the rulebook says of it stays. */
    private static Course listed(Catalogue.TaughtCourse taught, Optional<Course> known) {
        return new Course(
                taught.id(),
                taught.title(),
                List.of(taught.category()),
                known.map(Course::premium).orElse(false),
                known.map(Course::sections).orElse(List.of()));
    }

    /** The one before anything was published. */
    InForce nothing() {
        return inForce(0, new Rulebook(settings.school(), List.of(), List.of(), List.of()));
    }

    private static InForce inForce(int number, Rulebook rulebook) {
        var engine = new Engine(rulebook);
        return new InForce(number, rulebook, engine, new Followups(engine, Wording.PLAIN));
    }
}
