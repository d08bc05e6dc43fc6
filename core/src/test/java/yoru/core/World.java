package yoru.core;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.Period;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Allowance;
import yoru.core.rulebook.Applies;
import yoru.core.rulebook.Applies.Afterwards;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Ladder;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Named;
import yoru.core.rulebook.NamedTerms;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Option;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Quantity;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.School;
import yoru.core.rulebook.Section;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Starts;
import yoru.core.rulebook.TagName;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;

/**
 * A school and what happened at it, made up by chance from a seed. Few people, things and moments, so that everything
 * collides with everything; the moments are month ends, a leap day and the hours around clock changes.
 */
public record World(long seed, Rulebook rulebook, List<Fact> facts) {

    public static final List<String> PEOPLE = List.of("ada", "ben", "cleo", "dora");
    public static final Instant END = Instant.parse("2026-07-01T00:00:00Z");

    /** When things happen. */
    public static final List<Instant> MOMENTS = Stream.of(
                    "2024-01-31T10:00:00Z",
                    "2024-02-29T10:00:00Z",
                    "2024-03-30T01:30:00Z",
                    "2024-03-31T00:59:59.750Z",
                    "2024-03-31T10:00:00Z",
                    "2024-04-30T09:00:00Z",
                    "2024-05-31T09:00:00Z",
                    "2024-08-31T10:00:00Z",
                    "2024-10-26T00:30:00Z",
                    "2024-10-27T00:30:00Z",
                    "2024-10-27T01:30:00Z",
                    "2024-12-31T10:00:00Z",
                    "2025-02-28T10:00:00Z",
                    "2025-03-31T09:00:00Z")
            .map(Instant::parse)
            .toList();

    private static final List<String> COURSES = List.of("first-hive", "queen-rearing", "calm-swarms", "wax-works");
    private static final List<String> PRODUCTS = List.of("BOX", "PLAN", "CLUB", "TALK", "TEAM");
    private static final List<String> LEVELS = List.of("helper", "keeper", "warden", "pourer", "chandler", "friend");
    private static final List<String> TAGS = List.of("amber", "birch", "clover");

    public static World of(long seed) {
        var random = new Random(seed);
        return new World(seed, new Books(random).rulebook(), new Life(random).facts());
    }

    public World withFacts(List<Fact> others) {
        return new World(seed, rulebook, List.copyOf(others));
    }

    public World withRulebook(Rulebook other) {
        return new World(seed, other, facts);
    }

    /** Another rulebook for the same school, from the same seed. */
    public Rulebook otherRulebook() {
        return new Books(new Random(seed + 1_000_003)).rulebook();
    }

    @SafeVarargs
    private static <T> T pick(Random random, T... from) {
        return from[random.nextInt(from.length)];
    }

    private static <T> T pick(Random random, List<T> from) {
        return from.get(random.nextInt(from.size()));
    }

    private static Period period(Random random) {
        return Period.parse(pick(random, "P0D", "P1D", "P7D", "P1M", "P1M", "P3M", "P1Y"));
    }

    /** Makes rulebooks. */
    private record Books(Random random) {

        Rulebook rulebook() {
            var school = new School(
                    ZoneId.of(pick(random, "Europe/Dublin", "Europe/Dublin", "America/New_York", "Asia/Kathmandu")),
                    Shop.EUR,
                    List.of("open", "core", "plus"),
                    pick(random, OpensOn.PLACED, OpensOn.PAID, OpensOn.PAID, OpensOn.FULFILLED),
                    List.of(new Ladder("hive", random.nextBoolean()), new Ladder("wax", random.nextBoolean())),
                    List.of(new TagName(TagName.Role.BOUGHT, "{course}-bought")));
            var courses = COURSES.stream().map(this::course).toList();
            var products = PRODUCTS.stream().map(this::product).toList();
            var levels = IntStream.range(0, LEVELS.size()).mapToObj(this::level).toList();
            var links = IntStream.range(0, 8 + random.nextInt(8))
                    .mapToObj(this::link)
                    .toList();
            return withNamedTerms(new Rulebook(school, courses, products, links)
                    .with(Sort.LEVEL, levels)
                    .with(
                            Sort.TAG,
                            TAGS.stream().map(tag -> new Named(tag, tag)).toList())
                    .with(Sort.GROUP, List.of(new Named("circle", "circle")))
                    .with(Sort.AREA, List.of(new Named("talk", "talk")))
                    .with(Sort.DOWNLOAD, List.of(new Named("chart", "chart")))
                    .with(Sort.LIST, List.of(new Named("letter", "letter"))));
        }

        /** Every fourth link has its terms under a name; that changes nothing. */
        private static Rulebook withNamedTerms(Rulebook book) {
            var named = IntStream.range(0, book.links().size())
                    .filter(at -> at % 4 == 1)
                    .mapToObj(book.links()::get)
                    .map(link -> new NamedTerms("of-" + link.id(), link.id(), link.terms()))
                    .toList();
            var links = book.links().stream()
                    .map(link -> named.stream().anyMatch(terms -> terms.title().equals(link.id()))
                            ? new Link(
                                    link.id(), link.from(), link.to(), link.terms(), link.applies(), "of-" + link.id())
                            : link)
                    .toList();
            return book.with(Sort.TERMS, named).withLinks(links);
        }

        private Course course(String id) {
            var sections = List.of(
                    new Section("welcome", "welcome", null),
                    new Section("inner", "inner", pick(random, "open", "core", "plus")));
            return new Course(id, id, List.of(pick(random, "starter", "field")), random.nextInt(3) == 0, sections);
        }

        private Product product(String id) {
            var billing = switch (id) {
                case "PLAN" ->
                    new Billing.Instalments(
                            2 + random.nextInt(3), pick(random, Period.ofMonths(1), Period.ofDays(20)), period(random));
                case "CLUB" -> recurring();
                case "TALK" -> pick(random, new Billing.Free(), recurring());
                default -> new Billing.Once();
            };
            return new Product(
                    id,
                    id,
                    List.of(pick(random, "paper", "wood")),
                    List.of(new Option(id + "-LIVE", "live")),
                    random.nextInt(3) == 0 ? pick(random, OpensOn.values()) : null,
                    billing,
                    id.equals("TEAM") ? Quantity.SEATS : pick(random, Quantity.values()));
        }

        private Billing recurring() {
            return new Billing.Recurring(
                    Period.ofMonths(1),
                    period(random),
                    period(random),
                    random.nextInt(3) == 0 ? null : 1 + random.nextInt(3),
                    random.nextInt(3) == 0);
        }

        private Level level(int at) {
            var ladder = at < 3 ? "hive" : at < 5 ? "wax" : null;
            return new Level(LEVELS.get(at), LEVELS.get(at), ladder, at, random.nextInt(5) > 0 ? allowance() : null);
        }

        private Allowance allowance() {
            return new Allowance(
                    pick(random, 0, 1, 1, 2, 2),
                    random.nextBoolean() ? null : random.nextInt(2),
                    random.nextBoolean() ? List.of() : List.of(pick(random, "starter", "field")),
                    random.nextInt(3) == 0 ? List.of(pick(random, COURSES)) : List.of());
        }

        private Link link(int at) {
            // sources and targets in an order in which no circle can come about
            int height = random.nextInt(9);
            var from = source(height);
            var to = IntStream.range(0, 1 + random.nextInt(2))
                    .mapToObj(n -> destination(height))
                    .distinct()
                    .toList();
            return new Link("L" + at, from, to, terms(from), applies());
        }

        private Source source(int height) {
            return switch (height) {
                case 0 -> new Source.OfProduct(pick(random, PRODUCTS));
                case 1 -> new Source.OfProduct(pick(random, "CLUB", "PLAN"));
                case 2 -> new Source.OfOption(pick(random, PRODUCTS) + "-LIVE");
                case 3 -> new Source.OfCategory(pick(random, "paper", "wood", "stone"));
                case 4 -> new Source.OfCompleted(pick(random, COURSES));
                case 5 -> new Source.OfTag("amber");
                case 6 -> new Source.OfLevel(pick(random, "helper", "helper", "keeper", "warden"));
                case 7 -> new Source.OfTag("birch");
                default -> new Source.OfLevel(pick(random, "pourer", "pourer", "chandler", "friend"));
            };
        }

        private Destination destination(int height) {
            return switch (random.nextInt(12)) {
                case 0 -> new Destination.OfCourse(pick(random, COURSES), pick(random, "open", "core", "plus"));
                case 1 ->
                    new Destination.OfCategory(
                            pick(random, "starter", "field"),
                            random.nextBoolean() ? List.of(pick(random, COURSES)) : List.of(),
                            null);
                case 2 -> new Destination.Exactly(new Target.OfSection(pick(random, COURSES), "inner"));
                case 3 ->
                    new Destination.Exactly(pick(
                            random,
                            new Target.OfGroup("circle"),
                            new Target.OfArea("talk"),
                            new Target.OfDownload("chart"),
                            new Target.OfList("letter")));
                case 4, 5, 6 -> held(height);
                default -> Destination.whole(pick(random, COURSES));
            };
        }

        private Destination held(int height) {
            Target target = switch (Math.max(height, 3 + random.nextInt(5))) {
                case 3, 4 -> new Target.OfTag("amber");
                case 5 -> new Target.OfLevel(pick(random, "helper", "keeper", "warden"));
                case 6 -> new Target.OfTag("birch");
                case 7 -> new Target.OfLevel(pick(random, "pourer", "chandler", "friend"));
                default -> new Target.OfTag("clover");
            };
            return new Destination.Exactly(target);
        }

        private Terms terms(Source from) {
            Starts starts = switch (random.nextInt(5)) {
                case 0 -> new Starts.After(period(random));
                case 1 ->
                    new Starts.At(LocalDateTime.parse(pick(random, "2024-03-31T01:30:00", "2024-06-01T09:00:00")));
                default -> new Starts.AtOnce();
            };
            Length length = random.nextInt(5) < 2 ? new Length.Held() : new Length.Lasting(period(random));
            return new Terms(
                    starts,
                    length,
                    random.nextInt(6) == 0 ? LocalDateTime.parse("2024-10-27T01:30:00") : null,
                    from.isBought() && random.nextInt(3) > 0 ? Terms.Repeat.EXTEND : Terms.Repeat.OVERLAP,
                    pick(random, Terms.OnRefund.END, Terms.OnRefund.END, Terms.OnRefund.KEEP),
                    new BigDecimal(pick(random, "0.3", "0.5", "1", "1")));
        }

        private Applies applies() {
            return switch (random.nextInt(8)) {
                case 0 -> new Applies(pick(random, MOMENTS.subList(0, 5)), null, Afterwards.RUN_OUT);
                case 1 -> new Applies(null, pick(random, MOMENTS.subList(5, 12)), pick(random, Afterwards.values()));
                default -> Applies.ALWAYS;
            };
        }
    }

    /** Makes histories. */
    private static final class Life {

        private final Random random;
        private final List<Fact> facts = new ArrayList<>();

        Life(Random random) {
            this.random = random;
        }

        List<Fact> facts() {
            for (int n = 0; n < 3 + random.nextInt(5); n++) {
                order("O" + n);
            }
            for (int n = 0; n < 1 + random.nextInt(3); n++) {
                subscription("S" + n);
            }
            for (int n = 0; n < random.nextInt(7); n++) {
                add(
                        random.nextInt(3) > 0
                                ? new Happening.LevelStarted(pick(random, LEVELS))
                                : new Happening.LevelEnded(pick(random, LEVELS)));
            }
            for (int n = 0; n < random.nextInt(4); n++) {
                add(
                        random.nextInt(3) > 0
                                ? new Happening.TagAdded(pick(random, TAGS))
                                : new Happening.TagRemoved(pick(random, TAGS)));
            }
            List<String> chosen = new ArrayList<>();
            for (int n = 0; n < random.nextInt(8); n++) {
                if (random.nextInt(3) > 0) {
                    chosen.add(pick(random, COURSES));
                    add(new Happening.CourseChosen(chosen.getLast()));
                } else {
                    add(new Happening.CourseReleased(chosen.isEmpty() ? pick(random, COURSES) : pick(random, chosen)));
                }
            }
            for (int n = 0; n < random.nextInt(4); n++) {
                add(random.nextInt(3) > 0 ? new Happening.ListLeft("letter") : new Happening.ListJoined("letter"));
            }
            if (random.nextBoolean()) {
                add(new Happening.AccountMade("classroom"));
            }
            for (int n = 0; n < random.nextInt(3); n++) {
                add(new Happening.CourseCompleted(pick(random, COURSES)));
            }
            for (int n = 0; n < random.nextInt(4); n++) {
                grant("G" + n);
            }
            if (random.nextInt(3) == 0) {
                climb();
            }
            if (random.nextInt(3) == 0) {
                buyAgain();
            }
            if (random.nextInt(4) == 0) {
                merge();
            }
            if (random.nextInt(4) == 0) {
                nonsense();
            }
            if (random.nextInt(7) == 0) {
                add(pick(random, "ben", "cleo", "dora"), moment(), new Happening.PersonErased());
            }
            if (random.nextInt(3) == 0) {
                // marks of nobody's: only what follow-ups made themselves counts as theirs
                add(new Happening.FollowupWent("f0", "order/O0", 1, List.of(), null, null, null, false));
                add(new Happening.FollowupStopped("f0", "order/O" + random.nextInt(3)));
            }
            return List.copyOf(facts);
        }

        private void order(String id) {
            var person = pick(random, "ada", "ada", "ada", "ben", "cleo", "dora");
            var lines = new ArrayList<OrderLine>();
            for (int line = 1; line <= 1 + random.nextInt(2); line++) {
                var product = pick(random, PRODUCTS);
                lines.add(new OrderLine(
                        "" + line,
                        random.nextInt(12) == 0 ? "GONE" : product,
                        random.nextInt(3) == 0 ? product + "-LIVE" : null,
                        1 + random.nextInt(3),
                        new BigDecimal(pick(random, "0.00", "30.00", "100.01", "100.00")),
                        random.nextInt(6) == 0 ? "friend@hollow-oak.example" : null));
            }
            int at = random.nextInt(MOMENTS.size() - 4);
            var channel = pick(random, Channel.SHOP, Channel.SHOP, Channel.HAND);
            add(person, MOMENTS.get(at), new Happening.OrderPlaced(id, channel, Shop.EUR, lines));
            if (random.nextInt(6) > 0) {
                add(person, MOMENTS.get(at + random.nextInt(2)), new Happening.OrderPaid(id));
            }
            if (random.nextInt(3) == 0) {
                add(person, later(at), new Happening.OrderFulfilled(id));
            }
            if (random.nextInt(8) == 0) {
                add(person, moment(), new Happening.OrderCancelled(id));
            }
            if (random.nextInt(8) == 0) {
                add(person, later(at), new Happening.OrderInvoiced(id, "I" + id, null));
            }
            for (int refund = random.nextInt(3); refund > 0; refund--) {
                var line = random.nextBoolean() ? null : pick(random, "1", "2", "9");
                var amount = random.nextBoolean() ? null : new BigDecimal(pick(random, "0.01", "30.00", "999.99"));
                add(person, later(at), new Happening.OrderRefunded(id, line, amount));
            }
            for (int number = 2; number <= 4; number++) {
                if (random.nextInt(3) > 0) {
                    add(person, later(at), new Happening.InstalmentPaid(id, pick(random, "1", "1", "2"), number));
                } else {
                    add(person, later(at), new Happening.InstalmentFailed(id, "1", number));
                }
            }
            for (int claim = random.nextInt(3); claim > 0; claim--) {
                add(new Happening.GiftClaimed(id, pick(random, "1", "2"), 1 + random.nextInt(3)));
            }
        }

        /** Somebody is joined with somebody, perhaps not for good, and perhaps again. */
        private void merge() {
            var person = pick(random, PEOPLE);
            var into = pick(random, PEOPLE);
            add(person, moment(), new Happening.PersonMerged(into));
            if (random.nextBoolean()) {
                add(person, moment(), new Happening.PersonParted(into));
            }
            if (random.nextInt(3) == 0) {
                add(person, moment(), new Happening.PersonMerged(pick(random, PEOPLE)));
            }
        }

        private void subscription(String id) {
            var person = pick(random, PEOPLE);
            var product = pick(random, "CLUB", "CLUB", "CLUB", "TALK", "BOX");
            int at = random.nextInt(6);
            add(
                    person,
                    MOMENTS.get(at),
                    new Happening.SubscriptionStarted(
                            id,
                            product,
                            random.nextBoolean() ? null : product + "-LIVE",
                            MOMENTS.get(at + random.nextInt(3)),
                            random.nextInt(3) == 0));
            for (int n = 0; n < random.nextInt(5); n++) {
                int when = at + random.nextInt(MOMENTS.size() - at);
                var happening = switch (random.nextInt(8)) {
                    case 0 -> new Happening.SubscriptionCancelled(id, true);
                    case 1 -> new Happening.SubscriptionCancelled(id, false);
                    case 2 -> new Happening.SubscriptionRefunded(id);
                    case 3 -> new Happening.SubscriptionPaymentFailed(id);
                    default ->
                        new Happening.SubscriptionRenewed(
                                id, MOMENTS.get(Math.min(MOMENTS.size() - 1, when + random.nextInt(4))));
                };
                add(person, MOMENTS.get(when), happening);
            }
        }

        private void grant(String id) {
            var to = List.of(pick(
                    random,
                    Destination.whole(pick(random, COURSES)),
                    new Destination.Exactly(new Target.OfTag(pick(random, TAGS))),
                    new Destination.Exactly(new Target.OfLevel(pick(random, LEVELS))),
                    Destination.whole("gone")));
            var person = pick(random, "ada", "ada", "ben");
            add(
                    person,
                    moment(),
                    new Happening.GrantGiven(
                            id,
                            to,
                            random.nextBoolean() ? null : period(random),
                            random.nextInt(3) > 1 ? null : moment(),
                            followed(),
                            "prize"));
            if (random.nextBoolean()) {
                add(person, moment(), new Happening.GrantEnded(id));
            }
        }

        private Happening.@Nullable Followed followed() {
            return switch (random.nextInt(8)) {
                case 0 -> new Happening.Followed.OfSubscription("S" + random.nextInt(3));
                case 1 -> new Happening.Followed.OfLine("O" + random.nextInt(4), "1");
                default -> null;
            };
        }

        /** Somebody who has a lower level for good, and for a while a higher one. */
        private void climb() {
            int lower = pick(random, 0, 1, 3);
            var to = List.<Destination>of(new Destination.Exactly(new Target.OfLevel(LEVELS.get(lower))));
            add("ada", MOMENTS.get(random.nextInt(3)), new Happening.GrantGiven("climbs", to, null, "prize"));
            add("ada", MOMENTS.get(3 + random.nextInt(3)), new Happening.LevelStarted(LEVELS.get(lower + 1)));
            if (random.nextBoolean()) {
                add("ada", MOMENTS.get(6 + random.nextInt(5)), new Happening.LevelEnded(LEVELS.get(lower + 1)));
            }
        }

        /** The same thing, over and over. */
        private void buyAgain() {
            var product = pick(random, "BOX", "PLAN", "TALK");
            for (int n = 0; n < 3; n++) {
                var line = new OrderLine("1", product, product + "-LIVE", 1, new BigDecimal("90.00"), null);
                var at = MOMENTS.get(n * 2 + random.nextInt(3));
                add("ada", at, new Happening.OrderPlaced("A" + n, Channel.SHOP, Shop.EUR, List.of(line)));
                add("ada", at, new Happening.OrderPaid("A" + n));
                add("ada", at, new Happening.OrderFulfilled("A" + n));
            }
        }

        private void nonsense() {
            add(new Happening.Unknown("yoru.hive.danced"));
            add(new Happening.OrderPaid("never"));
            add(new Happening.SubscriptionRenewed("never", moment()));
            add(new Happening.GrantEnded("never"));
            add(new Happening.TagAdded("gone"));
        }

        private Instant moment() {
            return pick(random, MOMENTS);
        }

        private Instant later(int than) {
            return MOMENTS.get(than + random.nextInt(MOMENTS.size() - than));
        }

        private void add(Happening happening) {
            add(pick(random, "ada", "ada", "ben", "cleo"), moment(), happening);
        }

        private void add(String person, Instant time, Happening happening) {
            facts.add(new Fact(
                    new FactId(pick(random, "shop", "desk"), "f" + random.nextInt(10) + "-" + facts.size()),
                    person,
                    time,
                    happening));
        }
    }
}
