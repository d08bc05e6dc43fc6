package yoru.core.doors;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Happening;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Upstream;
import yoru.core.story.Setting;
import yoru.core.story.Step;
import yoru.core.story.Story;
import yoru.core.systems.Landscape;
import yoru.core.time.SchoolCalendar;

/**
 * By which purchases of today one gets into what, and by what else. That a purchase opens something is not read off the links:
 * somebody invented buys it, and the engine says.
 */
public final class WaysIn {

    private static final Comparator<Offer> CHEAPEST_FIRST =
            Comparator.comparing(Offer::price).thenComparing(Offer::title).thenComparing(Offer::basket);

    private static final String SOMEBODY = "somebody";
    private static final String ORDER = "order";

    /** Of what no price is known; it is something. */
    private static final BigDecimal SOMETHING = BigDecimal.valueOf(100);

    private final Rulebook rulebook;
    private final RulebookIndex index;
    private final Setting setting;
    private final Instant asOf;
    private final SchoolCalendar calendar;
    private final List<Offer> offers;
    private final Map<Target, List<Offer>> byPlace = new HashMap<>();
    private final Map<Offer, Set<Target>> byOffer = new HashMap<>();

    /** @param offers what is for sale as of a time */
    public WaysIn(Engine engine, List<Offer> offers, Instant asOf) {
        this.index = engine.index();
        this.rulebook = index.rulebook();
        this.asOf = asOf;
        this.calendar = engine.calendar();
        this.setting = new Setting("", engine, Landscape.EMPTY);
        this.offers = offers.stream().sorted(CHEAPEST_FIRST).toList();
    }

    /** What somebody who buys it now gets in by: the cheapest first. */
    public List<Offer> to(Target place) {
        return byPlace.computeIfAbsent(place, it -> {
            var leading = Upstream.of(index, within(it)).stream().map(Link::id).collect(Collectors.toSet());
            return offers.stream()
                    .filter(offer -> rulebook.product(offer.product())
                            .filter(product -> index.serving(product, offer.option()).stream()
                                    .anyMatch(link -> leading.contains(link.id())))
                            .filter(product -> places(opened(product, offer)).contains(it))
                            .isPresent())
                    .toList();
        });
    }

    /** A place and its parts. */
    private Set<Target> within(Target place) {
        return Stream.concat(
                        Stream.of(place),
                        courseOf(place).stream()
                                .flatMap(course -> course.sections().stream()
                                        .map(section -> new Target.OfSection(course.id(), section.id()))))
                .collect(Collectors.toSet());
    }

    private Set<Target> opened(Product product, Offer offer) {
        return byOffer.computeIfAbsent(offer, it -> opened(product, it.option().orElse(null), it.price()));
    }

    /** A part of a course makes the course a place that one gets into. */
    private static Set<Target> places(Set<Target> opened) {
        return opened.stream()
                .flatMap(target -> target instanceof Target.OfSection it
                        ? Stream.of(target, new Target.OfCourse(it.course()))
                        : Stream.of(target))
                .collect(Collectors.toSet());
    }

    /** Everything that a purchase of today opens, now or later, whatever it costs. */
    Set<Target> opened(Product product, @Nullable String option) {
        return opened(product, option, product.billing() instanceof Billing.Free ? BigDecimal.ZERO : SOMETHING);
    }

    private Set<Target> opened(Product product, @Nullable String option, BigDecimal amount) {
        if (!index.serves(product.id())) {
            return Set.of();
        }
        var story = Story.begin(setting, asOf);
        story.tell(Step.of(asOf, SOMEBODY, bought(product, option, amount)));
        return story.access(SOMEBODY).stream()
                .filter(access -> !access.window().isOverAt(asOf))
                .map(Access::target)
                .collect(Collectors.toCollection(LinkedHashSet::new));
    }

    /** Placed, paid and fulfilled at once, so that it opens whatever the school waits for. */
    private Happening[] bought(Product product, @Nullable String option, BigDecimal amount) {
        if (product.billing() instanceof Billing.Recurring it) {
            return new Happening[] {
                new Happening.SubscriptionStarted(ORDER, product.id(), option, calendar.plus(asOf, it.every()), false)
            };
        }
        var line = new OrderLine("1", product.id(), option, 1, amount, null);
        return new Happening[] {
            new Happening.OrderPlaced(ORDER, Channel.SHOP, rulebook.school().currency(), List.of(line)),
            new Happening.OrderPaid(ORDER),
            new Happening.OrderFulfilled(ORDER)
        };
    }

    /** Other ways in than by buying something: "with Warden", "to choose with Keeper", "for whoever finished Hive Health". */
    public List<String> besides(Target place) {
        var ways = new LinkedHashSet<String>();
        for (Link link : rulebook.links()) {
            if (isOfToday(link) && places(Set.copyOf(index.targets(link))).contains(place)) {
                switch (link.from()) {
                    case Source.OfLevel it -> ways.add("with " + rulebook.title(new Target.OfLevel(it.level())));
                    case Source.OfCompleted it ->
                        ways.add("for whoever finished " + rulebook.title(new Target.OfCourse(it.course())));
                    case Source.OfProduct _, Source.OfOption _, Source.OfCategory _, Source.OfTag _ -> {}
                }
            }
        }
        courseOf(place)
                .ifPresent(course -> rulebook.levels().stream()
                        .filter(level -> level.allowance()
                                .filter(it -> it.courses() > 0 && it.admits(course))
                                .isPresent())
                        .forEach(level -> ways.add("to choose with " + level.title())));
        return List.copyOf(ways);
    }

    private boolean isOfToday(Link link) {
        return link.applies().covers(asOf)
                && link.terms()
                        .until()
                        .filter(until -> !calendar.at(until).isAfter(asOf))
                        .isEmpty();
    }

    private Optional<Course> courseOf(Target place) {
        return place instanceof Target.OfCourse it ? rulebook.course(it.course()) : Optional.empty();
    }
}
