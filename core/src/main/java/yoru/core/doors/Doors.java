package yoru.core.doors;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Engine;
import yoru.core.letters.Placeholders;
import yoru.core.letters.Titles;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Door;
import yoru.core.rulebook.Door.Answer;
import yoru.core.rulebook.Door.Landing;
import yoru.core.rulebook.Door.OpenParts;
import yoru.core.rulebook.Door.Side;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Section;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.systems.Landscape;

/** What people meet at every door of a school, as of a time. The one place where that is decided. */
public final class Doors {

    /** For what opens nothing that has a page. */
    private static final Answer.Says THANKS = new Answer.Says("Thank you for {{product}}.");

    private final RulebookIndex index;
    private final Rulebook rulebook;
    private final Landscape landscape;
    private final String school;
    private final WaysIn waysIn;
    private final Map<String, Door> byPlace = new HashMap<>();

    /**
     * @param offers what is for sale
     * @param school as people call it
     */
    public Doors(Rulebook rulebook, List<Offer> offers, Landscape landscape, String school, Instant asOf) {
        this(new Engine(rulebook), offers, landscape, school, asOf);
    }

    public Doors(Engine engine, List<Offer> offers, Landscape landscape, String school, Instant asOf) {
        this.index = engine.index();
        this.rulebook = index.rulebook();
        this.landscape = landscape;
        this.school = school;
        this.waysIn = new WaysIn(engine, offers, asOf);
        rulebook.doors().forEach(door -> byPlace.put(door.place(), door));
    }

    /** All that can be met closed: courses, areas, and whatever else has a door of its own. */
    public List<Target> places() {
        return Stream.of(
                        rulebook.courses().stream().<Target>map(course -> new Target.OfCourse(course.id())),
                        rulebook.all(Sort.AREA).stream().<Target>map(area -> new Target.OfArea(area.id())),
                        rulebook.doors().stream().flatMap(door -> Door.targetOf(door.place()).stream()))
                .flatMap(Function.identity())
                .distinct()
                .toList();
    }

    /** What somebody meets who has not got it. */
    public Sign closed(Side side, Target place) {
        var ways = waysIn.to(place).stream().map(this::way).toList();
        var besides = waysIn.besides(place);
        var answer = own(side, places(place)).orElseGet(() -> shipped(side));
        return switch (answer) {
            case Answer.SendsTo it -> new Sign("", it.address(), ways, besides);
            case Answer.SendsOn _
            when !ways.isEmpty() -> new Sign("", ways.getFirst().offer().basket(), ways, besides);
            case Answer.SendsOn _ -> new Sign(said(shipped(side).text(), place, ways), null, ways, besides);
            case Answer.Says it -> new Sign(said(it.text(), place, ways), null, ways, besides);
        };
    }

    private Sign.Way way(Offer offer) {
        return new Sign.Way(
                offer,
                offer.priceInWords(
                        index.product(offer.product()).map(Product::billing).orElseGet(Billing.Once::new)));
    }

    private String said(String text, Target place, List<Sign.Way> ways) {
        return Placeholders.fill(
                text,
                Map.of(
                        "title",
                        rulebook.title(place),
                        "product",
                        ways.isEmpty() ? "" : ways.getFirst().offer().title(),
                        "price",
                        ways.isEmpty() ? "" : ways.getFirst().price(),
                        "school",
                        school));
    }

    /** What somebody meets who has bought it. */
    public Thanks bought(Product product, @Nullable String option) {
        var opened = pagesOpenedBy(product, option);
        var answer = own(Side.BOUGHT, List.of("product/" + product.id(), Door.SCHOOL))
                .orElseGet(() -> opened.isEmpty() ? THANKS : shipped(Side.BOUGHT));
        var on = opened.stream()
                .flatMap(target -> landscape.where(target).stream()
                        .map(where -> new Thanks.Button("Open " + rulebook.title(target), where.address())))
                .findFirst()
                .orElse(null);
        return switch (answer) {
            case Answer.SendsTo it -> new Thanks("", null, it.address(), false);
            case Answer.SendsOn _ -> new Thanks("", null, null, true);
            case Answer.Says it ->
                new Thanks(
                        Placeholders.fill(
                                it.text(),
                                Map.of(
                                        "product",
                                        titleOf(product, option),
                                        "opened",
                                        opened.isEmpty()
                                                ? "nothing"
                                                : Titles.few(opened.stream()
                                                        .map(rulebook::title)
                                                        .distinct()
                                                        .toList()),
                                        "school",
                                        school)),
                        on,
                        null,
                        false);
        };
    }

    /** What somebody who buys it gets and can go to, courses first; parts of a course go with it. */
    public List<Target> pagesOpenedBy(Product product, @Nullable String option) {
        var opened = waysIn.opened(product, option);
        return Stream.concat(
                        opened.stream().filter(Target.OfCourse.class::isInstance),
                        opened.stream()
                                .filter(it -> it instanceof Target.OfArea
                                        || it instanceof Target.OfGroup
                                        || it instanceof Target.OfDownload))
                .toList();
    }

    private String titleOf(Product product, @Nullable String option) {
        return rulebook.title(option == null ? new Source.OfProduct(product.id()) : new Source.OfOption(option));
    }

    /** Where somebody lands who has signed in: what the course says, else the school. */
    public Landing landing(String place) {
        return Stream.of(place, Door.SCHOOL)
                .flatMap(it -> Stream.ofNullable(byPlace.get(it)))
                .flatMap(it -> Stream.ofNullable(it.signedIn()))
                .findFirst()
                .orElse(Landing.AS_SHIPPED);
    }

    /** Who is let into the parts of the lowest tier of a course. */
    public OpenParts openParts(String course) {
        return Stream.of("course/" + course, Door.SCHOOL)
                .flatMap(it -> Stream.ofNullable(byPlace.get(it)))
                .flatMap(it -> Stream.ofNullable(it.parts()))
                .findFirst()
                .orElse(OpenParts.AS_OTHERS);
    }

    /** The parts of a course that its choice about open parts is about. */
    public List<Section> lowest(Course course) {
        var tiers = rulebook.school().tiers();
        return course.sections().stream()
                .filter(section ->
                        section.tier().map(tier -> tiers.indexOf(tier) <= 0).orElse(true))
                .toList();
    }

    /** From a place to the ones around it. */
    private static List<String> places(Target place) {
        return place instanceof Target.OfSection it
                ? List.of(place.path(), "course/" + it.course(), Door.SCHOOL)
                : List.of(place.path(), Door.SCHOOL);
    }

    private Optional<Answer> own(Side side, List<String> places) {
        return places.stream()
                .flatMap(it -> Stream.ofNullable(byPlace.get(it)))
                .flatMap(door -> side.of(door).stream())
                .findFirst();
    }

    private static Answer.Says shipped(Side side) {
        return new Answer.Says(
                switch (side) {
                    case VISITOR ->
                        "{{title}} is for those who have it. If that is you, sign in: you will land where you wanted to go.";
                    case WITHOUT -> "You are signed in, and {{title}} is not open for you.";
                    case BOUGHT -> "Thank you. {{product}} opens {{opened}}; a letter says when it is open, and where.";
                });
    }
}
