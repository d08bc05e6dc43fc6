package yoru.standins.classroom;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import yoru.standins.practice.Showings;

/** What is met at a closed door, and where people land who sign in, as the classroom was told. */
@Component
@Profile("classroom")
class Doorway {

    private static final String MINE = "/my";

    private final Showings showings;
    private final Register register;

    Doorway(Showings showings, Register register) {
        this.showings = showings;
        this.register = register;
    }

    /** @param price as people read it */
    record Way(String title, String price, String basket) {}

    /**
     * What somebody reads.
     *
     * @param html made by whoever told it; markup in the school's text is text in it
     * @param to where they are sent instead; empty = they read it
     * @param help a page for whoever has it and cannot get in; empty = there is none
     */
    record Panel(String html, String to, List<Way> ways, List<String> besides, String help) {}

    /** Nothing where the classroom was told nothing. */
    Optional<Panel> closed(String course, String section, boolean signedIn) {
        var side = signedIn ? "without" : "visitor";
        var ofCourse = showings.of("course/" + course);
        return showings.of("section/" + course + "/" + section)
                .or(() -> ofCourse)
                .filter(says -> says.has(side))
                .map(says -> panel(
                        says.path(side),
                        ofCourse.map(it -> it.path("help").asString("")).orElse("")));
    }

    private static Panel panel(JsonNode says, String help) {
        var ways = new ArrayList<Way>();
        says.path("ways")
                .forEach(way -> ways.add(new Way(
                        way.path("title").asString(""),
                        way.path("words").asString(""),
                        way.path("basket").asString(""))));
        var besides = new ArrayList<String>();
        says.path("besides").forEach(it -> besides.add(it.asString("")));
        return new Panel(says.path("html").asString(""), says.path("to").asString(""), ways, besides, help);
    }

    /** Whether a part is open to more people than have the course. */
    boolean isOpenPart(String course, String section, boolean signedIn) {
        var open =
                showings.of("course/" + course).map(says -> says.path("open")).orElse(null);
        return open != null
                && open.path("sections")
                        .valueStream()
                        .anyMatch(it -> it.asString("").equals(section))
                && (signedIn || open.path("who").asString("").equals("everybody"));
    }

    /**
     * Where somebody lands who has signed in.
     *
     * @param wanted where they came from; the front of their own things = nowhere
     */
    String landing(String learner, String wanted) {
        if (wanted.startsWith("/courses/")) {
            var course = wanted.split("/", -1)[2];
            var landing = landing("course/" + course).or(() -> landing("school"));
            return landing.filter(it -> !it.path("wantedFirst").asBoolean(true))
                    .map(it -> it.path("to").asString("/courses/" + course))
                    .orElse(wanted);
        }
        return wanted.equals(MINE)
                ? ofLevel(learner)
                        .or(() -> landing("school").map(it -> it.path("to").asString("")))
                        .filter(to -> !to.isEmpty())
                        .orElse(MINE)
                : wanted;
    }

    private Optional<JsonNode> landing(String place) {
        return showings.of(place).map(says -> says.path("landing"));
    }

    /** The classroom knows no levels: whoever has all courses of one has it. */
    private Optional<String> ofLevel(String learner) {
        Set<String> has = register.enrolmentsOf(learner).stream()
                .filter(it -> it.state().equals("open"))
                .map(Enrolment::course)
                .collect(Collectors.toSet());
        return showings.all().shown().stream()
                .filter(it -> it.of().startsWith("level/"))
                .map(Showings.Showing::says)
                .filter(says -> !says.path("courses").isEmpty()
                        && says.path("courses").valueStream().allMatch(course -> has.contains(course.asString(""))))
                .map(says -> says.path("landing").path("to").asString(""))
                .filter(to -> !to.isEmpty())
                .findFirst();
    }
}
