package yoru.server.announcements;

import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.web.util.HtmlUtils;
import yoru.core.access.Words;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
import yoru.server.announcements.Announcements.Opened;
import yoru.server.platform.YoruSettings;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;

/** Writes the letter that says what is open now, and until when. It never says a price, and carries no password. */
@Component
class Welcome {

    private final YoruSettings settings;
    private final Catalogue catalogue;
    private final Connections connections;
    private final Words words;

    Welcome(YoruSettings settings, Catalogue catalogue, Connections connections) {
        this.settings = settings;
        this.catalogue = catalogue;
        this.connections = connections;
        this.words = new Words(settings.zone());
    }

    /** A letter, as text and as HTML. */
    record Letter(String subject, String text, String html) {}

    /** Tags, levels and lists are the school's own book-keeping. */
    boolean isWorthALetter(Target target) {
        return switch (target) {
            case Target.OfCourse _, Target.OfGroup _, Target.OfArea _, Target.OfDownload _ -> true;
            case Target.OfSection _, Target.OfTag _, Target.OfLevel _, Target.OfList _ -> false;
        };
    }

    String subject(List<Opened> opened, Rulebook rulebook) {
        var first = rulebook.title(opened.getFirst().target());
        if (isFree(opened)) {
            return "A free place for you: " + first
                    + (opened.size() == 1 ? "" : " and " + (opened.size() - 1) + " more");
        }
        return opened.size() == 1
                ? first + " is open for you"
                : first + " and " + (opened.size() - 1) + " more are open for you";
    }

    /** Whether nothing of it is to be paid. */
    private static boolean isFree(List<Opened> opened) {
        return opened.stream().allMatch(Opened::free);
    }

    Letter letter(String key, String called, List<Opened> opened, Rulebook rulebook) {
        var subject = subject(opened, rulebook);
        var lines = opened.stream()
                .map(it -> rulebook.title(it.target()) + (it.until() == null ? "" : ", until " + words.day(it.until())))
                .toList();
        var where = classroom(opened)
                .map(address -> "Sign in as %s: %s".formatted(key, address))
                .orElse("Sign in as %s.".formatted(key));
        var name = called.equals(key) ? "" : " " + called;
        var says = isFree(opened) ? "we have opened this for you; nothing was charged:" : "this is open for you now:";
        var text = """
                Hello%s,

                %s

                %s

                %s

                %s
                """.formatted(
                        name,
                        says,
                        lines.stream().map(line -> "- " + line).collect(Collectors.joining("\n")),
                        where,
                        settings.schoolName());
        var html = """
                <p>Hello%s,</p>
                <p>%s</p>
                <ul>%s</ul>
                <p>%s</p>
                <p>%s</p>
                """.formatted(
                        HtmlUtils.htmlEscape(name),
                        says,
                        lines.stream()
                                .map(line -> "<li>" + HtmlUtils.htmlEscape(line) + "</li>")
                                .collect(Collectors.joining()),
                        HtmlUtils.htmlEscape(where),
                        HtmlUtils.htmlEscape(settings.schoolName()));
        return new Letter(subject, text, html);
    }

    /** Where the first of the courses is taught. */
    private Optional<String> classroom(List<Opened> opened) {
        var courses = opened.stream()
                .flatMap(it -> it.target() instanceof Target.OfCourse course
                        ? java.util.stream.Stream.of(course.course())
                        : java.util.stream.Stream.empty())
                .toList();
        return catalogue.courses().stream()
                .filter(taught -> courses.contains(taught.id()))
                .findFirst()
                .flatMap(taught -> connections.find(taught.connection()))
                .map(Connection::address);
    }
}
