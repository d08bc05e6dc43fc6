package yoru.server.doors;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import yoru.core.doors.Doors;
import yoru.core.doors.Sign;
import yoru.core.doors.Thanks;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Door;
import yoru.core.rulebook.Door.OpenParts;
import yoru.core.rulebook.Door.Side;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Section;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.server.announcements.Markdown;
import yoru.server.platform.SchoolSettings;
import yoru.server.systems.Shown;

/** What each place is to show in a system, in the words that systems take. */
@Component
class Notices {

    private final SchoolSettings settings;

    Notices(SchoolSettings settings) {
        this.settings = settings;
    }

    /**
     * For the doors of a classroom.
     *
     * @param teaches the courses that it has
     */
    Map<String, Shown> atDoors(Doors doors, Rulebook rulebook, Predicate<Course> teaches) {
        Map<String, Shown> shown = new LinkedHashMap<>();
        shown.put(Door.SCHOOL, new Shown.AtDoor(null, null, landing(doors, Door.SCHOOL), null, null, null));
        var taught = rulebook.courses().stream().filter(teaches).toList();
        for (Course course : taught) {
            var target = new Target.OfCourse(course.id());
            shown.put(target.path(), atDoor(doors, target, open(doors, course), null));
        }
        for (Door door : rulebook.doors()) {
            Door.targetOf(door.place()).ifPresent(target -> {
                switch (target) {
                    case Target.OfSection it
                    when taught.stream().anyMatch(course -> course.id().equals(it.course())) ->
                        shown.put(door.place(), atDoor(doors, it, null, null));
                    case Target.OfLevel it -> shown.put(door.place(), atDoor(doors, it, null, courses(rulebook, it)));
                    case Target.OfSection _,
                            Target.OfCourse _,
                            Target.OfArea _,
                            Target.OfGroup _,
                            Target.OfTag _,
                            Target.OfDownload _,
                            Target.OfList _ -> {}
                }
            });
        }
        return shown;
    }

    private Shown.AtDoor atDoor(Doors doors, Target target, Shown.@Nullable Open open, @Nullable List<String> courses) {
        return new Shown.AtDoor(
                panel(doors.closed(Side.VISITOR, target)),
                panel(doors.closed(Side.WITHOUT, target)),
                landing(doors, target.path()),
                open,
                target instanceof Target.OfCourse it ? settings.publicAddress() + "/door/" + it.course() : null,
                courses);
    }

    private static Shown.Landing landing(Doors doors, String place) {
        var landing = doors.landing(place);
        return new Shown.Landing(landing.wantedFirst(), landing.pageOrNone());
    }

    private static Shown.@Nullable Open open(Doors doors, Course course) {
        var parts = doors.openParts(course.id());
        return parts == OpenParts.AS_OTHERS
                ? null
                : new Shown.Open(
                        parts.name().toLowerCase(Locale.ROOT).replace('_', '-'),
                        doors.lowest(course).stream().map(Section::id).toList());
    }

    /** What the level opens by links of its own. */
    private static List<String> courses(Rulebook rulebook, Target.OfLevel target) {
        var index = new RulebookIndex(rulebook);
        return index.level(target.level()).stream()
                .flatMap(level -> index.includedIn(level).stream())
                .flatMap(level -> index.from(new Source.OfLevel(level.id())).stream())
                .flatMap(link -> index.targets(link).stream())
                .filter(Target.OfCourse.class::isInstance)
                .map(opened -> ((Target.OfCourse) opened).course())
                .distinct()
                .toList();
    }

    private static Shown.Panel panel(Sign sign) {
        return new Shown.Panel(
                sign.text().isEmpty() ? null : sign.text(),
                sign.text().isEmpty() ? null : Markdown.html(sign.text()),
                sign.redirectOrNone(),
                sign.ways().stream().map(Notices::way).toList(),
                sign.besides());
    }

    private static Shown.Way way(Sign.Way way) {
        var offer = way.offer();
        return new Shown.Way(
                offer.title(),
                way.price(),
                offer.price().toPlainString(),
                offer.currency().getCurrencyCode(),
                offer.basket());
    }

    /**
     * For what a shop says after buying.
     *
     * @param sells the products that it has
     */
    Map<String, Shown> afterBuying(Doors doors, Rulebook rulebook, Predicate<Product> sells) {
        Map<String, Shown> shown = new LinkedHashMap<>();
        rulebook.products().stream().filter(sells).forEach(product -> {
            shown.put("product/" + product.id(), after(doors.bought(product, null)));
            product.options()
                    .forEach(option -> shown.put("option/" + option.id(), after(doors.bought(product, option.id()))));
        });
        return shown;
    }

    private Shown.AfterBuying after(Thanks thanks) {
        return new Shown.AfterBuying(
                thanks.note().isEmpty() ? null : thanks.note(),
                thanks.note().isEmpty() ? null : Markdown.html(thanks.note()),
                thanks.on()
                        .map(it -> new Shown.Button(it.label(), it.address()))
                        .orElse(null),
                thanks.redirectOrNone(),
                thanks.lists(),
                settings.publicAddress() + "/thanks/{code}");
    }
}
