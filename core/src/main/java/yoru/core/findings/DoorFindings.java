package yoru.core.findings;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import yoru.core.doors.Doors;
import yoru.core.findings.Finding.Kind;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Door;
import yoru.core.rulebook.Door.Answer;
import yoru.core.rulebook.Door.Side;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;

/** Where people would be led astray: by a closed door, after buying, after signing in. */
final class DoorFindings {

    /** As changes of a draft name a door. */
    private static final String DOOR = "door/";

    private static final int NOT_FOUND = 404;
    private static final int GONE = 410;

    private final Ways ways;
    private final Rulebook rulebook;
    private final Observed.@Nullable Paths paths;

    DoorFindings(Ways ways, Observed observed) {
        this.ways = ways;
        this.rulebook = ways.rulebook();
        this.paths = observed.paths();
    }

    void addTo(List<Finding> found) {
        rulebook.doors().forEach(door -> forgetting(door, found));
        if (paths != null) {
            var doors = new Doors(rulebook, paths.forSale(), paths.landscape(), "", paths.asOf());
            rulebook.doors().forEach(door -> {
                door.addresses().distinct().forEach(address -> address(door, address, paths, found));
                notForSale(door, doors, paths, found);
                notTheirs(door, doors, paths, found);
            });
            rulebook.courses().forEach(course -> withoutWay(course, doors, found));
        }
    }

    private void forgetting(Door door, List<Finding> found) {
        if (door.signedIn() != null && !door.signedIn().wantedFirst()) {
            found.add(of(
                    Kind.SIGN_IN_FORGETS,
                    door,
                    "Signing in loses the lesson",
                    "Who came for a lesson of %s lands elsewhere after signing in.",
                    "Let people land on what they wanted first."));
        }
    }

    private void address(Door door, String address, Observed.Paths seen, List<Finding> found) {
        if (!seen.hosts().contains(Door.hostOf(address))) {
            found.add(of(
                    Kind.LEADS_OUTSIDE,
                    door,
                    "A door leads to an unknown place",
                    "%s sends people to " + address + ", which is at none of the connected systems.",
                    "Send them to a page of a connected system, or say something instead."));
        } else if (isNotThere(seen.answers().get(address))) {
            found.add(of(
                    Kind.LEADS_NOWHERE,
                    door,
                    "A door leads to a page that is not there",
                    "%s sends people to " + address + ", and nothing answers there with a page.",
                    "Make the page, or send people elsewhere."));
        }
    }

    private static boolean isNotThere(@Nullable Integer answer) {
        return answer != null && (answer == NOT_FOUND || answer == GONE || answer == 0);
    }

    private void notForSale(Door door, Doors doors, Observed.Paths seen, List<Finding> found) {
        var goneBasket = door.addresses().filter(seen.noLongerSold()::contains).findFirst();
        boolean sendsToNothing = Door.targetOf(door.place())
                .filter(place -> Stream.of(Side.VISITOR, Side.WITHOUT)
                        .anyMatch(side -> side.of(door)
                                        .filter(Answer.SendsOn.class::isInstance)
                                        .isPresent()
                                && doors.closed(side, place).ways().isEmpty()))
                .isPresent();
        if (goneBasket.isPresent() || sendsToNothing) {
            found.add(of(
                    Kind.NOT_FOR_SALE,
                    door,
                    "A door sends people to buy what is not sold",
                    "%s sends people straight to where it is sold, and no shop sells it any more.",
                    "Put it on sale again, or say something instead."));
        }
    }

    /** After buying, a page of a course that the purchase does not open. */
    private void notTheirs(Door door, Doors doors, Observed.Paths seen, List<Finding> found) {
        if (!(door.bought() instanceof Answer.SendsTo to)) {
            return;
        }
        Door.productOf(door.place()).flatMap(rulebook::product).ifPresent(product -> {
            var opened = new ArrayList<Target>(doors.pagesOpenedBy(product, null));
            product.options().forEach(option -> opened.addAll(doors.pagesOpenedBy(product, option.id())));
            rulebook.courses().stream()
                    .map(course -> new Target.OfCourse(course.id()))
                    .filter(course -> seen.landscape()
                            .where(course)
                            .filter(where -> isWithin(to.address(), where.address()))
                            .isPresent())
                    .filter(course -> !opened.contains(course))
                    .forEach(course -> found.add(of(
                            Kind.LANDS_BEFORE_CLOSED,
                            door,
                            "After buying, people land before a closed door",
                            "Who buys %s is sent to " + rulebook.title(course) + ", which it does not open.",
                            "Send them to something that it opens.")));
        });
    }

    private static boolean isWithin(String address, String page) {
        return address.equals(page) || address.startsWith(page + "/") || address.startsWith(page + "?");
    }

    private void withoutWay(Course course, Doors doors, List<Finding> found) {
        var target = new Target.OfCourse(course.id());
        if (ways.hasWayIn(course) && doors.closed(Side.WITHOUT, target).isWithoutWay()) {
            found.add(Finding.of(
                    Kind.DOOR_WITHOUT_WAY,
                    DOOR + target.path(),
                    "The door of " + course.title() + " shows no way in",
                    "Something opens it, but nothing that is for sale, no level and no finished course.",
                    "Sell something that opens it, or send people to a page that says how to get it."));
        }
    }

    /** @param text in which the place is filled in */
    private Finding of(Kind kind, Door door, String title, String text, String advice) {
        return Finding.of(
                kind, DOOR + door.place(), title, text.formatted(rulebook.titleOfPlace(door.place())), advice);
    }
}
