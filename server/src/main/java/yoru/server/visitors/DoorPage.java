package yoru.server.visitors;

import jakarta.servlet.http.HttpServletRequest;
import java.net.URI;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.doors.Doors;
import yoru.core.doors.Sign;
import yoru.core.ledger.EmailAddress;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Door.OpenParts;
import yoru.core.rulebook.Door.Side;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Section;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Thing;
import yoru.core.systems.Landscape;
import yoru.server.announcements.Markdown;
import yoru.server.doors.SchoolDoors;
import yoru.server.platform.PublicPages;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Landscapes;

/**
 * The door of a course, for classrooms that cannot say at theirs what the school wants said; and help for whoever has bought
 * it and cannot get in. It knows nobody, and says nothing of anybody.
 */
@RestController
class DoorPage {

    private static final int LONGEST = 320;
    private static final String HELP = "/door";

    private final SchoolDoors doors;
    private final Rulebooks rulebooks;
    private final Landscapes landscapes;
    private final Help help;
    private final PublicPages pages;

    DoorPage(SchoolDoors doors, Rulebooks rulebooks, Landscapes landscapes, Help help, PublicPages pages) {
        this.doors = doors;
        this.rulebooks = rulebooks;
        this.landscapes = landscapes;
        this.help = help;
        this.pages = pages;
    }

    /**
     * A course's door.
     *
     * @param to the lesson that was wanted; one that is none of the course's is not followed
     * @param without whether somebody is met who is signed in and does not have it
     */
    @GetMapping(path = "/door/{course}", produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> show(
            @PathVariable String course,
            @RequestParam(defaultValue = "") String to,
            @RequestParam(defaultValue = "false") boolean without,
            HttpServletRequest request) {
        return door(Sort.COURSE, course, to, without, request);
    }

    /** The door of an area or a level, for systems that have no words for one. */
    @GetMapping(path = "/door/{sort:area|level}/{id}", produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> showOther(
            @PathVariable String sort,
            @PathVariable String id,
            @RequestParam(defaultValue = "false") boolean without,
            HttpServletRequest request) {
        return door(Sort.named(sort).orElseThrow(), id, "", without, request);
    }

    private ResponseEntity<String> door(Sort sort, String id, String to, boolean without, HttpServletRequest request) {
        var rulebook = rulebooks.overTodaysCatalogue().rulebook();
        return pages.behind(
                request,
                () -> rulebook.all(sort).stream()
                        .filter(thing -> thing.id().equals(id))
                        .findFirst(),
                known -> door(rulebook, known, sort, to, without ? Side.WITHOUT : Side.VISITOR),
                "door-unknown.html");
    }

    private ResponseEntity<String> door(Rulebook rulebook, Thing thing, Sort sort, String to, Side side) {
        var now = doors.under(rulebook);
        var target = sort.target(thing.id()).orElseThrow();
        var sign = now.closed(side, target);
        if (sign.redirect().isPresent()) {
            return ResponseEntity.status(HttpStatus.FOUND)
                    .location(URI.create(sign.redirect().get()))
                    .build();
        }
        var page = landscapes.current().where(target).map(Landscape.Where::address);
        var wanted = page.flatMap(it -> wanted(thing, it, to));
        return pages.page(
                HttpStatus.OK,
                "door.html",
                Map.ofEntries(
                        Map.entry("title", thing.title()),
                        Map.entry("text", Markdown.html(sign.text())),
                        Map.entry("wanted", wanted.map(Section::title).orElse("")),
                        Map.entry("signIn", wanted.isPresent() ? to : page.orElse("")),
                        Map.entry(
                                "first",
                                sign.ways().stream().limit(1).map(DoorPage::way).toList()),
                        Map.entry("hasMore", sign.ways().size() > 1),
                        Map.entry(
                                "more",
                                sign.ways().stream().skip(1).map(DoorPage::way).toList()),
                        Map.entry("read", read(now, thing, page.orElse(null))),
                        Map.entry("besides", String.join(", ", sign.besides())),
                        Map.entry("nothing", sign.isWithoutWay()),
                        Map.entry("help", HELP)));
    }

    private static Map<String, ?> way(Sign.Way way) {
        return Map.of(
                "what",
                way.offer().title(),
                "price",
                way.price(),
                "basket",
                way.offer().basket());
    }

    /** The lesson that an address is of; only below the course's own page is one followed. */
    private static Optional<Section> wanted(Thing thing, String page, String to) {
        return (thing instanceof Course course ? course.sections() : List.<Section>of())
                .stream()
                        .filter(section -> to.equals(page + "/" + section.id()))
                        .findFirst();
    }

    /** The first part that is open to more people than have the course. */
    private static List<Map<String, ?>> read(Doors doors, Thing thing, @Nullable String page) {
        if (!(thing instanceof Course course) || page == null) {
            return List.of();
        }
        var parts = doors.openParts(course.id());
        return parts == OpenParts.AS_OTHERS
                ? List.of()
                : doors.lowest(course).stream()
                        .limit(1)
                        .<Map<String, ?>>map(lesson -> Map.of(
                                "page",
                                page,
                                "lesson",
                                lesson.title(),
                                "who",
                                parts == OpenParts.EVERYBODY ? "open to everybody" : "open to whoever is signed in"))
                        .toList();
    }

    @GetMapping(path = HELP, produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> help() {
        return help(HttpStatus.OK, "", "");
    }

    /** The same for every address, known or not. */
    @PostMapping(
            path = HELP,
            consumes = MediaType.APPLICATION_FORM_URLENCODED_VALUE,
            produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> ask(@RequestParam(defaultValue = "") String address, HttpServletRequest request) {
        return pages.seldom(request, "help", () -> {
            var asked = address.strip();
            if (!EmailAddress.isOne(asked)) {
                return help(
                        HttpStatus.UNPROCESSABLE_CONTENT,
                        asked.length() > LONGEST ? "" : asked,
                        "This is no e-mail address.");
            }
            help.ask(asked);
            return pages.page(HttpStatus.OK, "help-asked.html", Map.of("again", HELP));
        });
    }

    private ResponseEntity<String> help(HttpStatus status, String address, String problem) {
        return pages.page(status, "help.html", Map.of("help", HELP, "address", address, "problem", problem));
    }
}
