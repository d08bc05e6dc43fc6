package yoru.server.systems;

import java.math.BigDecimal;
import java.time.Clock;
import java.time.Instant;
import java.util.Currency;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.doors.Offer;
import yoru.core.findings.CourseState;
import yoru.server.systems.Listed.CheckoutDetails;
import yoru.server.systems.Listed.CourseDetails;
import yoru.server.systems.Listed.ItemKind;
import yoru.server.systems.Listed.Plan;
import yoru.server.systems.Listed.ProductDetails;
import yoru.server.systems.Listed.Section;
import yoru.server.systems.Listed.SoldOption;
import yoru.server.systems.Listed.Thing;

/** What the connected systems sell and teach, as last read from them. */
@Service
public class Catalogue {

    private final CatalogueItems items;
    private final JsonMapper json;
    private final Clock clock;

    Catalogue(CatalogueItems items, JsonMapper json, Clock clock) {
        this.items = items;
        this.json = json;
        this.clock = clock;
    }

    /**
     * A product of a shop.
     *
     * @param thing whether it is something to post
     * @param about as the shop describes it
     * @param seats whether the shop says that several of it are places for several people
     * @param plan how the shop says it is paid for over time; none = it says nothing
     */
    public record SoldProduct(
            String connection,
            String id,
            String title,
            String category,
            BigDecimal price,
            String currency,
            boolean thing,
            String about,
            boolean seats,
            @Nullable Plan plan,
            List<SoldOption> options) {

        /** What one of its options costs; none = it has no such option, or the shop says no price of it. */
        public Optional<BigDecimal> priceOf(String option) {
            return options.stream()
                    .filter(one -> one.id().equals(option))
                    .flatMap(one -> Stream.ofNullable(one.price()))
                    .findFirst();
        }
    }

    /** How a shop lets people buy. */
    public record Checkout(String connection, boolean guests, boolean password) {}

    /**
     * That a system lists a thing, or did.
     *
     * @param gone since when no more; none = it does
     * @param link for a browser: into the basket, or to the course
     */
    public record Listing(
            String connection,
            String title,
            Instant seen,
            @Nullable Instant gone,
            @Nullable String link) {}

    /** A course of a classroom. */
    public record TaughtCourse(
            String connection, String id, String title, String category, CourseState state, List<Section> sections) {}

    /** Anything else that a system lists: a group, an area, a download, a list, a tag. */
    public record ListedThing(String connection, ItemKind kind, String id, String title) {}

    /** What can become of a thing in its system. */
    public enum News {
        NEW,
        RENAMED,
        GONE
    }

    /**
     * A thing that has changed in its system.
     *
     * @param before what it was called, where it is called otherwise now
     */
    public record Changed(
            News news,
            ItemKind kind,
            String id,
            String title,
            @Nullable String before) {}

    @Transactional(readOnly = true)
    public List<SoldProduct> products() {
        return items.findByKindAndVanishedAtIsNullOrderByPosition(ItemKind.PRODUCT).stream()
                .map(item -> {
                    var details = json.readValue(item.details, ProductDetails.class);
                    return new SoldProduct(
                            item.connectionId,
                            item.externalId,
                            item.title,
                            item.category,
                            details.price(),
                            details.currency(),
                            details.thing(),
                            Objects.requireNonNullElse(details.about(), ""),
                            Boolean.TRUE.equals(details.seats()),
                            details.plan(),
                            Objects.requireNonNullElse(details.options(), List.of()));
                })
                .toList();
    }

    /** What can be put into a basket just now; a product with options is sold by its options. */
    @Transactional(readOnly = true)
    public List<Offer> forSale() {
        return items.findByKindAndVanishedAtIsNullOrderByPosition(ItemKind.PRODUCT).stream()
                .flatMap(item -> offers(item, json.readValue(item.details, ProductDetails.class)))
                .toList();
    }

    private static Stream<Offer> offers(CatalogueItem item, ProductDetails details) {
        var currency = currency(details.currency());
        if (currency.isEmpty()) {
            return Stream.empty();
        }
        var options = Objects.requireNonNullElse(details.options(), List.<SoldOption>of());
        return options.isEmpty()
                ? offer(item, null, details.price(), currency.get(), details.link())
                : options.stream()
                        .flatMap(option -> offer(
                                item,
                                option,
                                Objects.requireNonNullElse(option.price(), details.price()),
                                currency.get(),
                                option.link() == null ? details.link() : option.link()));
    }

    private static Stream<Offer> offer(
            CatalogueItem item,
            @Nullable SoldOption option,
            BigDecimal price,
            Currency currency,
            @Nullable String link) {
        return link == null
                ? Stream.empty()
                : Stream.of(new Offer(
                        item.externalId,
                        option == null ? null : option.id(),
                        option == null ? item.title : item.title + ", " + option.title(),
                        price,
                        currency,
                        link));
    }

    private static Optional<Currency> currency(String code) {
        try {
            return Optional.of(Currency.getInstance(code));
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    /** The addresses that put something into a basket that was sold and is no more. */
    @Transactional(readOnly = true)
    public Set<String> basketsNoLongerSold() {
        return items.basketsNoLongerSold();
    }

    /** The ids of the products that are sent by post. */
    @Transactional(readOnly = true)
    public Set<String> thingsToPost() {
        return items.thingsToPost();
    }

    @Transactional(readOnly = true)
    public List<Checkout> checkouts() {
        return items.findByKindAndVanishedAtIsNullOrderByPosition(ItemKind.CHECKOUT).stream()
                .map(item -> {
                    var details = json.readValue(item.details, CheckoutDetails.class);
                    return new Checkout(item.connectionId, details.guests(), details.password());
                })
                .toList();
    }

    /** Where a thing comes from. */
    @Transactional(readOnly = true)
    public List<Listing> listings(Thing thing) {
        return items.findByKindAndExternalId(thing.kind(), thing.id()).stream()
                .map(item -> new Listing(
                        item.connectionId,
                        item.title,
                        item.seenAt,
                        item.vanishedAt,
                        json.readTree(item.details)
                                .path("link")
                                .stringValueOpt()
                                .orElse(null)))
                .toList();
    }

    /** The ids of courses that a classroom listed once, and none lists now. */
    @Transactional(readOnly = true)
    public Set<String> vanishedCourses() {
        return items.vanished(ItemKind.COURSE);
    }

    @Transactional(readOnly = true)
    public List<TaughtCourse> courses() {
        return items.findByKindAndVanishedAtIsNullOrderByPosition(ItemKind.COURSE).stream()
                .map(item -> {
                    var details = json.readValue(item.details, CourseDetails.class);
                    var state = new CourseState(
                            item.externalId,
                            item.title,
                            details.content(),
                            details.published(),
                            details.door(),
                            Boolean.TRUE.equals(details.sold()));
                    return new TaughtCourse(
                            item.connectionId, item.externalId, item.title, item.category, state, details.sections());
                })
                .toList();
    }

    /** Everything that can be opened and is no course. */
    @Transactional(readOnly = true)
    public List<ListedThing> things(ItemKind kind) {
        return items.findByKindAndVanishedAtIsNullOrderByPosition(kind).stream()
                .map(item -> new ListedThing(item.connectionId, item.kind, item.externalId, item.title))
                .toList();
    }

    /** How many things of each kind each system lists; how a shop lets people buy is none. */
    @Transactional(readOnly = true)
    public Map<String, Map<ItemKind, Integer>> counts() {
        Map<String, Map<ItemKind, Integer>> counts = new HashMap<>();
        items.counts().stream()
                .filter(row -> row.getKind() != ItemKind.CHECKOUT)
                .forEach(row -> counts.computeIfAbsent(row.getConnection(), key -> new EnumMap<>(ItemKind.class))
                        .put(row.getKind(), row.getMany()));
        return counts;
    }

    /** What is new, called otherwise or gone since somebody last looked; links follow the id whatever it is called. */
    @Transactional(readOnly = true)
    public List<Changed> changed(String connection) {
        return items.findByConnectionIdAndNewsIsNotNullOrderByPosition(connection).stream()
                .map(item -> new Changed(
                        Objects.requireNonNull(item.news), item.kind, item.externalId, item.title, item.formerTitle))
                .toList();
    }

    /** Notes that somebody has seen what has changed in a system. */
    @Transactional
    public void seen(String connection) {
        items.findByConnectionId(connection).forEach(item -> {
            item.formerTitle = null;
            item.news = null;
        });
    }

    /** How a system calls a thing, also one that it no longer lists. */
    @Transactional(readOnly = true)
    public Optional<String> title(String connection, Thing thing) {
        var where = new Where(connection, thing);
        return Optional.ofNullable(titles(Set.of(where)).get(where));
    }

    /** A thing as one system lists it. */
    public record Where(String connection, Thing thing) {}

    /** How systems call things, also such that they no longer list; what one never listed is not among them. */
    @Transactional(readOnly = true)
    public Map<Where, String> titles(Set<Where> wanted) {
        if (wanted.isEmpty()) {
            return Map.of();
        }
        Map<Where, String> titles = new HashMap<>();
        items.findByConnectionIdInAndExternalIdIn(
                        wanted.stream().map(Where::connection).collect(Collectors.toSet()),
                        wanted.stream().map(it -> it.thing.id()).collect(Collectors.toSet()))
                .forEach(item ->
                        titles.put(new Where(item.connectionId, new Thing(item.kind, item.externalId)), item.title));
        titles.keySet().retainAll(wanted);
        return titles;
    }

    /** Takes over a whole listing: what it no longer has is marked as vanished, not forgotten. */
    @Transactional
    void take(String connection, List<Listed> listing) {
        items.oneAtATime(connection);
        var now = clock.instant();
        Map<String, CatalogueItem> known = new HashMap<>();
        items.findByConnectionId(connection).forEach(item -> known.put(item.kind + "/" + item.externalId, item));
        boolean first = known.isEmpty();
        int position = 0;
        for (Listed listed : listing) {
            var item = known.remove(listed.kind() + "/" + listed.id());
            if (item == null) {
                item = new CatalogueItem(connection, listed.kind(), listed.id());
                item.news = first || listed.kind() == ItemKind.CHECKOUT ? null : News.NEW;
            } else if (!item.title.equals(listed.title()) && item.formerTitle == null) {
                item.formerTitle = item.title;
                item.news = item.news == News.NEW ? News.NEW : News.RENAMED;
            } else if (item.vanishedAt != null) {
                item.news = item.news == News.GONE ? null : News.NEW;
            }
            item.title = listed.title();
            item.category = listed.category();
            item.position = position++;
            item.details = json.writeValueAsString(listed.details() == null ? Map.of() : listed.details());
            item.seenAt = now;
            item.vanishedAt = null;
            items.save(item);
        }
        known.values().stream().filter(item -> item.vanishedAt == null).forEach(item -> {
            item.vanishedAt = now;
            item.news = News.GONE;
        });
    }
}
