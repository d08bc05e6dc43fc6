package yoru.core.doors;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
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
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
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
    private final Engine engine;
    private final Instant asOf;
    private final SchoolCalendar calendar;
    private final List<Offer> offers;

    /** Of today, from what one has otherwise than by buying it, and is told of. */
    private final List<Link> heldLinks;

    private final Map<Target, List<Offer>> byPlace = new HashMap<>();
    private final Map<Offer, Set<Target>> byLinks = new HashMap<>();
    private final Map<Offer, Set<Target>> byOffer = new HashMap<>();

    /** @param offers what is for sale as of a time */
    public WaysIn(Engine engine, List<Offer> offers, Instant asOf) {
        this.index = engine.index();
        this.rulebook = index.rulebook();
        this.asOf = asOf;
        this.calendar = engine.calendar();
        this.engine = engine;
        this.offers = offers.stream().sorted(CHEAPEST_FIRST).toList();
        this.heldLinks = rulebook.links().stream()
                .filter(link -> link.from() instanceof Source.OfLevel || link.from() instanceof Source.OfCompleted)
                .filter(this::isOfToday)
                .toList();
    }

    /** What somebody who buys it now gets in by: the cheapest first. */
    public List<Offer> to(Target place) {
        return byPlace.computeIfAbsent(
                place,
                it -> offers.stream()
                        .filter(offer -> index.product(offer.product())
                                .filter(product -> reach(product, offer).contains(it))
                                .filter(product -> opened(product, offer).contains(it))
                                .isPresent())
                        .toList());
    }

    /** All that the links can lead to from it; that spares asking the engine about everything else. */
    private Set<Target> reach(Product product, Offer offer) {
        return byLinks.computeIfAbsent(offer, it -> {
            Set<Target> found = new HashSet<>();
            follow(index.serving(product, offer.option()), found);
            return places(found);
        });
    }

    private void follow(List<Link> links, Set<Target> found) {
        links.forEach(link -> index.targets(link).forEach(target -> {
            if (found.add(target)) {
                held(target).forEach(source -> follow(index.from(source), found));
            }
        }));
    }

    /** What holding something stands for, whatever ladder it is on. */
    private List<Source> held(Target target) {
        return switch (target) {
            case Target.OfTag it -> List.of(new Source.OfTag(it.tag()));
            case Target.OfLevel it ->
                index.level(it.level()).stream()
                        .flatMap(level -> index.includedIn(level).stream())
                        .<Source>map(level -> new Source.OfLevel(level.id()))
                        .toList();
            case Target.OfCourse _,
                    Target.OfSection _,
                    Target.OfGroup _,
                    Target.OfArea _,
                    Target.OfDownload _,
                    Target.OfList _ -> List.of();
        };
    }

    private Set<Target> opened(Product product, Offer offer) {
        return byOffer.computeIfAbsent(
                offer, it -> places(opened(product, it.option().orElse(null), it.price())));
    }

    /** A part of a course makes the course a place that one gets into. */
    private static Set<Target> places(Collection<Target> opened) {
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
        var facts = new ArrayList<Fact>();
        for (Happening happening : bought(product, option, amount)) {
            facts.add(new Fact(new FactId(ORDER, String.valueOf(facts.size())), SOMEBODY, asOf, happening));
        }
        return engine.access(Histories.of(Ledger.of(facts)).person(SOMEBODY), asOf).stream()
                .filter(access -> !access.window().isOverAt(asOf))
                .map(Access::target)
                .collect(Collectors.toCollection(LinkedHashSet::new));
    }

    /** Placed, paid and fulfilled at once, so that it opens whatever the school waits for. */
    private List<Happening> bought(Product product, @Nullable String option, BigDecimal amount) {
        if (product.billing() instanceof Billing.Recurring it) {
            return List.of(new Happening.SubscriptionStarted(
                    ORDER, product.id(), option, calendar.plus(asOf, it.every()), false));
        }
        var line = new OrderLine("1", product.id(), option, 1, amount, null);
        return List.of(
                new Happening.OrderPlaced(ORDER, Channel.SHOP, rulebook.school().currency(), List.of(line)),
                new Happening.OrderPaid(ORDER),
                new Happening.OrderFulfilled(ORDER));
    }

    /** Other ways in than by buying something: "with Warden", "to choose with Keeper", "for whoever finished Hive Health". */
    public List<String> besides(Target place) {
        var ways = new LinkedHashSet<String>();
        for (Link link : heldLinks) {
            if (places(index.targets(link)).contains(place)) {
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
        return place instanceof Target.OfCourse it ? index.course(it.course()) : Optional.empty();
    }
}
