package yoru.standins.classroom;

import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.springframework.context.annotation.Profile;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.CookieValue;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;
import yoru.standins.practice.Cookies;

/** The classroom's pages. To practise, an address is enough to sign in with: nothing here is worth a password. */
@Controller
@Profile("classroom")
class ClassroomPages {

    private static final String LEARNER = "practice-learner";
    private static final List<String> TIERS = List.of("open", "core", "plus");
    private static final DateTimeFormatter DAY =
            DateTimeFormatter.ofPattern("d MMM uuuu", Locale.ENGLISH).withZone(ZoneId.of("Europe/Dublin"));

    private final Register register;
    private final Doorway doorway;
    private final ClassroomSettings settings;
    private final Clock clock;

    ClassroomPages(Register register, Doorway doorway, ClassroomSettings settings, Clock clock) {
        this.doorway = doorway;
        this.register = register;
        this.settings = settings;
        this.clock = clock;
    }

    record Mine(String id, String title, boolean open, String until, int done, int lessons) {}

    record Lesson(String id, String title, String tier, boolean done) {}

    @ModelAttribute
    void common(Model model, @CookieValue(name = LEARNER, defaultValue = "") String cookie) {
        var learner = Cookies.read(cookie);
        model.addAttribute("learner", learner);
        model.addAttribute("signedIn", !learner.isEmpty());
        model.addAttribute("shop", settings.shop());
    }

    @GetMapping("/")
    String home(Model model) {
        model.addAttribute(
                "courses", register.courses().stream().filter(Course::published).toList());
        return "classroom/home";
    }

    @GetMapping("/my")
    String mine(Model model, @CookieValue(name = LEARNER, defaultValue = "") String cookie) {
        var learner = Cookies.read(cookie);
        if (learner.isEmpty()) {
            return "redirect:/sign-in?to=/my";
        }
        List<Mine> mine = new ArrayList<>();
        for (Enrolment enrolment : register.enrolmentsOf(learner)) {
            register.course(enrolment.course()).ifPresent(course -> mine.add(mine(course, enrolment)));
        }
        model.addAttribute("mine", mine);
        model.addAttribute("downloads", register.downloadsOf(learner));
        model.addAttribute("none", mine.isEmpty());
        return "classroom/my";
    }

    @GetMapping("/courses/{id}")
    String course(@PathVariable String id, Model model, @CookieValue(name = LEARNER, defaultValue = "") String cookie) {
        var course = courseOr404(id);
        var learner = Cookies.read(cookie);
        var done = register.done(id, learner);
        model.addAttribute("course", course);
        model.addAttribute("open", lets(course, learner));
        model.addAttribute("here", "/courses/" + id);
        if (!lets(course, learner)) {
            var panel = doorway.closed(id, "", !learner.isEmpty());
            if (panel.filter(it -> !it.to().isEmpty()).isPresent()) {
                return "redirect:" + panel.get().to();
            }
            model.addAttribute("panel", panel.orElse(null));
        }
        model.addAttribute("ways", course.waysToBuy());
        model.addAttribute("canJoin", course.isFreeSignUp() && !lets(course, learner));
        model.addAttribute(
                "lessons",
                course.sections().stream()
                        .map(section ->
                                new Lesson(section.id(), section.title(), section.tier(), done.contains(section.id())))
                        .toList());
        return "classroom/course";
    }

    @GetMapping("/courses/{id}/{section}")
    String lesson(
            @PathVariable String id,
            @PathVariable String section,
            Model model,
            HttpServletResponse response,
            @CookieValue(name = LEARNER, defaultValue = "") String cookie) {
        var course = courseOr404(id);
        var learner = Cookies.read(cookie);
        var found = course.sections().stream()
                .filter(one -> one.id().equals(section))
                .findFirst()
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "no such lesson"));
        model.addAttribute("course", course);
        model.addAttribute("section", found);
        model.addAttribute("here", "/courses/" + id + "/" + section);
        boolean isOpen = doorway.isOpenPart(id, section, !learner.isEmpty())
                || (lets(course, learner) && register.letsSection(id, section, learner));
        if (!isOpen) {
            var panel = doorway.closed(id, section, !learner.isEmpty());
            if (panel.filter(it -> !it.to().isEmpty()).isPresent()) {
                return "redirect:" + panel.get().to();
            }
            model.addAttribute("panel", panel.orElse(null));
            response.setStatus(HttpStatus.FORBIDDEN.value());
            model.addAttribute("ways", course.waysToBuy());
            model.addAttribute("wasIn", register.enrolment(id, learner).isPresent());
            return "classroom/closed";
        }
        model.addAttribute("done", register.done(id, learner).contains(section));
        return "classroom/lesson";
    }

    @PostMapping("/courses/{id}/{section}/done")
    String done(
            @PathVariable String id,
            @PathVariable String section,
            @CookieValue(name = LEARNER, defaultValue = "") String cookie) {
        var learner = Cookies.read(cookie);
        if (lets(courseOr404(id), learner) && !learner.isEmpty()) {
            register.markDone(id, section, learner);
        }
        return "redirect:/courses/" + id + "/" + section;
    }

    /** The side door: whoever signs up is let in. */
    @PostMapping("/courses/{id}/join")
    String join(@PathVariable String id, @CookieValue(name = LEARNER, defaultValue = "") String cookie) {
        var learner = Cookies.read(cookie);
        if (courseOr404(id).isFreeSignUp() && !learner.isEmpty()) {
            register.state(new Register.Wanted(id, learner, learner, "open", null, false, 0));
        }
        return "redirect:/courses/" + id;
    }

    @GetMapping("/sign-in")
    String signIn(@RequestParam(defaultValue = "/my") String to, Model model) {
        model.addAttribute("to", to);
        return "classroom/sign-in";
    }

    @PostMapping("/sign-in")
    String signIn(
            @RequestParam String email,
            @RequestParam(defaultValue = "/my") String to,
            Model model,
            HttpServletResponse response) {
        var learner = email.strip().toLowerCase(Locale.ROOT);
        if (!register.knows(learner)) {
            model.addAttribute("to", to);
            model.addAttribute("unknown", learner);
            return "classroom/sign-in";
        }
        Cookies.keep(LEARNER, learner, response);
        return "redirect:" + doorway.landing(learner, to.startsWith("/") && !to.startsWith("//") ? to : "/my");
    }

    /** An account without a course, as free sign-up needs it. */
    @PostMapping("/sign-up")
    String signUp(
            @RequestParam String email, @RequestParam(defaultValue = "/my") String to, HttpServletResponse response) {
        var learner = email.strip().toLowerCase(Locale.ROOT);
        register.know(learner, learner);
        Cookies.keep(LEARNER, learner, response);
        return "redirect:" + (to.startsWith("/") && !to.startsWith("//") ? to : "/my");
    }

    @PostMapping("/sign-out")
    String signOut(HttpServletResponse response) {
        Cookies.keep(LEARNER, "", response);
        return "redirect:/";
    }

    @GetMapping("/keeper")
    String keeper(Model model) {
        model.addAttribute("courses", register.courses());
        model.addAttribute("answers", register.latestAnswers());
        return "classroom/keeper";
    }

    /** By hand, behind everybody's back. */
    @PostMapping("/keeper/enrol")
    String enrol(@RequestParam String email, @RequestParam String course) {
        var learner = email.strip().toLowerCase(Locale.ROOT);
        register.state(new Register.Wanted(courseOr404(course).id(), learner, learner, "open", null, false, 0));
        return "redirect:/keeper";
    }

    @PostMapping("/keeper/courses/{id}")
    String change(
            @PathVariable String id,
            @RequestParam(defaultValue = "false") boolean content,
            @RequestParam(defaultValue = "false") boolean published,
            @RequestParam String door,
            @RequestParam(defaultValue = "false") boolean sold,
            @RequestParam(defaultValue = "") String soldAs) {
        if (!List.of("by-enrolment", "free-sign-up", "open-to-all").contains(door)) {
            throw new ResponseStatusException(HttpStatus.BAD_REQUEST, "no such door");
        }
        register.change(courseOr404(id).id(), content, published, door, sold, soldAs.strip());
        return "redirect:/keeper";
    }

    /** A course without lessons, not published yet. */
    @PostMapping("/keeper/courses")
    String make(
            @RequestParam String id,
            @RequestParam String title,
            @RequestParam String category,
            @RequestParam(defaultValue = "") String about) {
        if (title.isBlank() || category.isBlank()) {
            throw new ResponseStatusException(HttpStatus.BAD_REQUEST, "a course has a name and a category");
        }
        if (!register.make(id(id), title.strip(), category.strip(), about.strip())) {
            throw new ResponseStatusException(HttpStatus.CONFLICT, "there is a course with this id");
        }
        return "redirect:/keeper";
    }

    @PostMapping("/keeper/sections")
    String addSection(
            @RequestParam String course,
            @RequestParam String id,
            @RequestParam String title,
            @RequestParam String tier) {
        if (!TIERS.contains(tier) || title.isBlank()) {
            throw new ResponseStatusException(HttpStatus.BAD_REQUEST, "a lesson has a name and a tier");
        }
        register.addSection(courseOr404(course).id(), id(id), title.strip(), tier);
        return "redirect:/keeper";
    }

    private static String id(String text) {
        if (!text.matches("[a-z0-9-]{1,60}")) {
            throw new ResponseStatusException(HttpStatus.BAD_REQUEST, "an id is small letters, digits and hyphens");
        }
        return text;
    }

    private Mine mine(Course course, Enrolment enrolment) {
        Instant until = enrolment.until();
        return new Mine(
                course.id(),
                course.title(),
                enrolment.lets(clock.instant()),
                enrolment.renews()
                        ? "as long as it is paid for"
                        : until == null ? "no end" : "until " + DAY.format(until),
                enrolment.lessonsDone(),
                course.sections().size());
    }

    private boolean lets(Course course, String learner) {
        return course.isOpenToAll()
                || register.enrolment(course.id(), learner)
                        .filter(enrolment -> enrolment.lets(clock.instant()))
                        .isPresent();
    }

    private Course courseOr404(String id) {
        return register.course(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "no such course"));
    }
}
