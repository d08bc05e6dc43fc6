package yoru.core.moves;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import yoru.core.Seeds;
import yoru.core.Shrink;
import yoru.core.World;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.access.HowLong;
import yoru.core.access.Words;
import yoru.core.impact.Change;
import yoru.core.impact.Change.Kind;
import yoru.core.impact.Headcount;
import yoru.core.impact.Impact;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.letters.Letter;
import yoru.core.letters.News;
import yoru.core.letters.OpeningLetter;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Starts;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.core.systems.ConnectedSystem;
import yoru.core.systems.Landscape;

/**
 * What is promised compared with what then happens, over generated schools: the consequence of a publish with the windows
 * after it, what is to be told with what is open, the letter with the doors. What is expected is found by trying instants one
 * by one, without the arithmetic of windows. Each run is of a hundred seeds, as in the engine's properties.
 */
class PromisesTests {

    private static final int RUNS = 5;
    private static final int SEEDS = Seeds.of(200);
    private static final Instant FAR = Instant.parse("9999-01-01T00:00:00Z");

    private static LongStream runs() {
        return LongStream.range(0, RUNS);
    }

    private static Stream<World> worlds(long run) {
        return LongStream.range(run * SEEDS, (run + 1) * SEEDS).mapToObj(World::of);
    }

    private record Publish(Rulebook before, Rulebook after) {}

    /** What a publish may change: everything, a later start and back, one link fewer, parts that are written down. */
    private static List<Publish> publishes(World world) {
        var random = new Random(world.seed());
        var book = world.rulebook();
        var links = book.links();
        var start = World.MOMENTS.getLast().plus(Duration.ofDays(1 + random.nextInt(60)));
        var later = links.stream()
                .map(link -> new Link(
                        link.id(),
                        link.from(),
                        link.to(),
                        link.terms()
                                .with(new Starts.At(
                                        start.atZone(book.school().zone()).toLocalDateTime())),
                        link.applies()))
                .toList();
        var fewer = new ArrayList<>(links);
        if (!fewer.isEmpty()) {
            fewer.remove(random.nextInt(fewer.size()));
        }
        var whole = book.withCatalogue(
                book.courses().stream()
                        .map(course -> new Course(
                                course.id(), course.title(), course.categories(), course.premium(), List.of()))
                        .toList(),
                book.products());
        return List.of(
                new Publish(book, world.otherRulebook()),
                new Publish(book, book.withLinks(later)),
                new Publish(book.withLinks(later), book),
                new Publish(book, book.withLinks(fewer)),
                new Publish(whole, book));
    }

    private static List<Access> access(Rulebook rulebook, World world, Instant asOf) {
        return new Engine(rulebook).evaluate(Ledger.of(world.facts()), asOf).access();
    }

    private record Who(String person, Target target) {}

    private static Map<Who, List<Access>> byWho(List<Access> access) {
        return access.stream().collect(Collectors.groupingBy(it -> new Who(it.person(), it.target())));
    }

    private static boolean isOpen(List<Access> windows, Instant at) {
        return windows.stream().anyMatch(it -> it.window().contains(at));
    }

    /** Every instant at which anything of these begins or ends from the as-of time on. */
    private static TreeSet<Instant> edges(Instant asOf, List<Access> some, List<Access> others) {
        var edges = new TreeSet<Instant>(Set.of(asOf, FAR));
        Stream.concat(some.stream(), others.stream()).map(Access::window).forEach(window -> {
            edges.add(window.start());
            window.end().ifPresent(edges::add);
        });
        return new TreeSet<>(edges.tailSet(asOf));
    }

    private static Optional<String> expected(Instant asOf, List<Access> was, List<Access> is) {
        var more = Duration.ZERO;
        var less = Duration.ZERO;
        boolean had = false;
        boolean has = false;
        var edges = new ArrayList<>(edges(asOf, was, is));
        for (int at = 0; at + 1 < edges.size(); at++) {
            var from = edges.get(at);
            var length = Duration.between(from, edges.get(at + 1));
            boolean before = isOpen(was, from);
            boolean after = isOpen(is, from);
            had |= before;
            has |= after;
            more = after && !before ? more.plus(length) : more;
            less = before && !after ? less.plus(length) : less;
        }
        if (more.plus(less).compareTo(Duration.ofMinutes(1)) < 0) {
            return Optional.empty();
        }
        boolean out = isOpen(was, asOf) && !isOpen(is, asOf);
        boolean in = !isOpen(was, asOf) && isOpen(is, asOf);
        Kind kind;
        if (less.isZero()) {
            kind = had ? Kind.LONGER : Kind.GAINS;
        } else if (more.isZero()) {
            kind = !has || out ? Kind.LOSES : Kind.SHORTER;
        } else {
            kind = out ? Kind.LOSES : in ? Kind.GAINS : Kind.OTHERWISE;
        }
        return Optional.of(kind + (out || in ? " now" : " later"));
    }

    private static boolean isHalfKnown(Target target, Rulebook before, Rulebook after) {
        return target instanceof Target.OfSection section
                && before.course(section.course())
                                .filter(it -> it.hasSection(section.section()))
                                .isPresent()
                        != after.course(section.course())
                                .filter(it -> it.hasSection(section.section()))
                                .isPresent();
    }

    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void whatPublishingIsSaidToDoIsWhatItDoes(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var asOf = world.seed() % 2 == 0 ? World.MOMENTS.get(7) : World.MOMENTS.getLast();
                    publishes(world).forEach(publish -> isDone(publish, world, asOf));
                }));
    }

    private static void isDone(Publish publish, World world, Instant asOf) {
        var was = byWho(access(publish.before(), world, asOf));
        var is = byWho(access(publish.after(), world, asOf));
        var all = new HashSet<>(was.keySet());
        all.addAll(is.keySet());
        Map<Who, String> should = new HashMap<>();
        for (Who who : all) {
            if (!isHalfKnown(who.target(), publish.before(), publish.after())) {
                expected(asOf, was.getOrDefault(who, List.of()), is.getOrDefault(who, List.of()))
                        .ifPresent(kind -> should.put(who, kind));
            }
        }
        var promised = promised(publish, world, asOf);
        assertThat(promised.stream()
                        .collect(Collectors.toMap(
                                it -> new Who(it.person(), it.target()),
                                it -> it.kind() + (it.now() ? " now" : " later"))))
                .isEqualTo(should);
        countsEachOnceByTheWorst(promised);
        writesToWhomItSays(publish, world, asOf, was, is);
        assertThat(promised)
                .allSatisfy(it -> it.backOn()
                        .ifPresent(on -> assertThat(isOpen(is.get(new Who(it.person(), it.target())), on))
                                .isTrue()));
    }

    private static List<Change> promised(Publish publish, World world, Instant asOf) {
        return new Impact(publish.before(), publish.after()).over(Ledger.of(world.facts()), asOf);
    }

    /** Told of what was open before, whoever is said to get a letter has something to read in one, and nobody else. */
    private static void writesToWhomItSays(
            Publish publish, World world, Instant asOf, Map<Who, List<Access>> was, Map<Who, List<Access>> is) {
        Set<String> should = is.entrySet().stream()
                .filter(it -> isOpen(it.getValue(), asOf) && !isOpen(was.getOrDefault(it.getKey(), List.of()), asOf))
                .filter(it -> !isHalfKnown(it.getKey().target(), publish.before(), publish.after())
                        || !isOpen(was.getOrDefault(courseOf(it.getKey()), List.of()), asOf))
                .filter(it -> it.getValue().stream()
                        .filter(one -> one.window().contains(asOf))
                        .anyMatch(one -> News.of(one).isWorthALetter(asOf)))
                .map(it -> it.getKey().person())
                .collect(Collectors.toSet());
        var impact = new Impact(publish.before(), publish.after());
        var written = Histories.of(Ledger.of(world.facts()).asOf(asOf)).all().stream()
                .filter(history -> impact.of(history, asOf).letter())
                .map(History::person)
                .collect(Collectors.toSet());
        assertThat(written).isEqualTo(should);
    }

    private static Who courseOf(Who who) {
        return who.target() instanceof Target.OfSection section
                ? new Who(who.person(), new Target.OfCourse(section.course()))
                : who;
    }

    private static void countsEachOnceByTheWorst(List<Change> promised) {
        Map<String, Kind> worst = new TreeMap<>();
        promised.forEach(
                it -> worst.merge(it.person(), it.kind(), (one, other) -> one.compareTo(other) < 0 ? one : other));
        var count = Headcount.of(promised);
        for (Kind kind : Kind.values()) {
            assertThat(count.of(kind).people()).as(kind.name()).isEqualTo((int)
                    worst.values().stream().filter(kind::equals).count());
        }
    }

    /** Told again and again as facts come in and rules change, what was told last is what is open. */
    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void whatIsToldIsWhatIsOpen(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    Map<String, Map<Target, HowLong>> told = new HashMap<>();
                    var book = world.rulebook();
                    for (Instant at : World.MOMENTS) {
                        var next = at.equals(World.MOMENTS.get(9)) ? world.otherRulebook() : book;
                        var all = access(next, world, at);
                        for (String person : World.PEOPLE) {
                            var access = all.stream()
                                    .filter(it -> it.person().equals(person))
                                    .toList();
                            tell(told.computeIfAbsent(person, key -> new HashMap<>()), access, book, next);
                        }
                        book = next;
                    }
                }));
    }

    private static void tell(Map<Target, HowLong> told, List<Access> access, Rulebook was, Rulebook is) {
        var moves = moves(told, access, was, is);
        moves.opened().forEach(it -> told.put(it.target(), it.howLong()));
        moves.changed().forEach(it -> told.put(it.target(), it.howLong()));
        moves.ended().forEach(it -> told.remove(it.target()));
        assertThat(told)
                .isEqualTo(access.stream()
                        .filter(it -> it.state().isOpen())
                        .collect(Collectors.toMap(Access::target, HowLong::of)));
        assertThat(moves(told, access, is, is))
                .as("told once, there is nothing more to tell")
                .isEqualTo(new Moves(List.of(), List.of(), List.of()));
        saysOnlyWhatIsNew(moves, was, is);
    }

    private static Moves moves(Map<Target, HowLong> told, List<Access> access, Rulebook was, Rulebook is) {
        return Moves.of(
                told.entrySet().stream()
                        .map(it -> new Told(it.getKey(), it.getValue()))
                        .toList(),
                access,
                UnaryOperator.identity(),
                section -> new Engine(was).index().knows(new Destination.Exactly(section)),
                section -> new Engine(is).index().knows(new Destination.Exactly(section)));
    }

    private static void saysOnlyWhatIsNew(Moves moves, Rulebook was, Rulebook is) {
        assertThat(moves.opened())
                .allSatisfy(it -> assertThat(it.isNews() || isHalfKnown(it.target(), was, is))
                        .isTrue());
        assertThat(moves.ended())
                .allSatisfy(it -> assertThat(it.isNews() || isHalfKnown(it.target(), was, is))
                        .isTrue());
    }

    /** A letter names each door that has opened, and of no other; a day only where it closes then by itself. */
    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void aLetterPromisesNothingButWhatIsOpenAndNoDayThatAPaymentWouldMove(long run) {
        worlds(run)
                .forEach(any -> Shrink.check(any, world -> {
                    var words = new Words(world.rulebook().school().zone());
                    var letters = new OpeningLetter("School", world.rulebook(), placeOf(world.rulebook()), null, null);
                    for (Instant at : World.MOMENTS) {
                        var all = access(world.rulebook(), world, at);
                        for (String person : World.PEOPLE) {
                            var open = all.stream()
                                    .filter(it -> it.person().equals(person)
                                            && it.state().isOpen())
                                    .toList();
                            var news = open.stream()
                                    .map(News::of)
                                    .filter(it -> it.isWorthALetter(at))
                                    .toList();
                            if (news.isEmpty()) {
                                continue;
                            }
                            var letter = letters.of(person, Optional.empty(), news, Optional.empty());
                            var lines = lines(letter);
                            var doors = news.stream()
                                    .map(it -> it.target() instanceof Target.OfSection section
                                            ? new Target.OfCourse(section.course())
                                            : it.target())
                                    .collect(Collectors.toSet());
                            assertThat(lines.stream()
                                            .map(it -> it.link().orElseThrow())
                                            .collect(Collectors.toSet()))
                                    .isEqualTo(doors.stream()
                                            .map(it -> "https://place.example/" + it.path())
                                            .collect(Collectors.toSet()));
                            news.forEach(
                                    it -> assertThat(lines).anyMatch(line -> says(line, it, world.rulebook(), words)));
                        }
                    }
                }));
    }

    /** Has a page for everything that the letters of a school can be about. */
    private static Landscape placeOf(Rulebook rulebook) {
        var pages = Stream.of(Sort.COURSE, Sort.GROUP, Sort.AREA, Sort.DOWNLOAD)
                .flatMap(sort -> rulebook.all(sort).stream().flatMap(thing -> sort.target(thing.id()).stream()))
                .collect(Collectors.toMap(target -> target, target -> "https://place.example/" + target.path()));
        return new Landscape(
                List.of(new ConnectedSystem("place", "Place", true, Set.of(Ability.values()), pages, null, null)));
    }

    private static boolean says(Letter.Item line, News news, Rulebook rulebook, Words words) {
        var door = news.target() instanceof Target.OfSection section
                ? new Target.OfCourse(section.course())
                : news.target();
        boolean named = !(news.target() instanceof Target.OfSection)
                || !line.text().contains(", of it: ")
                || line.text().contains(rulebook.title(news.target()));
        return line.link().orElseThrow().endsWith("/" + door.path())
                && line.text().contains(rulebook.title(door))
                && named
                && saysHowLong(line.text(), news.howLong(), words);
    }

    private static boolean saysHowLong(String text, HowLong howLong, Words words) {
        if (howLong.renews()) {
            return text.contains("as long as it is paid for") && !text.contains("until");
        }
        return howLong.endOrNone() == null
                ? !text.contains("until") && !text.contains("as long as")
                : text.contains("until " + words.day(howLong.endOrNone()));
    }

    private static List<Letter.Item> lines(Letter letter) {
        return letter.blocks().stream()
                .flatMap(block -> block instanceof Letter.Items it ? it.items().stream() : Stream.of())
                .toList();
    }

    @Test
    void theWorldsHaveWhatThisIsAbout() {
        var kinds = new TreeMap<String, Integer>();
        for (long seed = 0; seed < 100; seed++) {
            var world = World.of(seed);
            var asOf = World.MOMENTS.getLast();
            publishes(world).stream()
                    .flatMap(publish -> promised(publish, world, asOf).stream())
                    .map(it ->
                            it.kind() + (it.backOn().isPresent() ? " for a time" : "") + (it.now() ? " now" : " later"))
                    .distinct()
                    .forEach(kind -> kinds.merge(kind, 1, Integer::sum));
            access(world.rulebook(), world, asOf).stream()
                    .filter(it -> it.state().isOpen() && it.renews())
                    .findAny()
                    .ifPresent(it -> kinds.merge("renews", 1, Integer::sum));
            world.facts().stream()
                    .map(Fact::happening)
                    .map(it -> it.getClass().getSimpleName())
                    .distinct()
                    .forEach(kind -> kinds.merge(kind, 1, Integer::sum));
        }
        assertThat(kinds)
                .containsKeys(
                        "LOSES for a time now",
                        "LOSES now",
                        "SHORTER later",
                        "LONGER later",
                        "LONGER now",
                        "GAINS now",
                        "OTHERWISE later",
                        "renews",
                        "ListLeft",
                        "PersonMerged",
                        "SubscriptionStarted");
    }
}
