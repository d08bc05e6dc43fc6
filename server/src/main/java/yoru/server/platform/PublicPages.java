package yoru.server.platform;

import jakarta.servlet.http.HttpServletRequest;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.regex.Pattern;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Component;

/** Pages for people without an account, each behind a code: they work without scripts and are kept nowhere. */
@Component
public class PublicPages {

    /** Below which they are; whatever guards them guards all of them. */
    public static final List<String> PATHS =
            List.of("/claim", "/seats", "/feeds", "/letters", "/door", "/thanks", "/mine");

    private static final Pattern HEADING = Pattern.compile("<h1>(.*?)</h1>", Pattern.DOTALL);

    private final WrongCodes wrong;
    private final Templates templates;
    private final SchoolSettings settings;

    PublicPages(WrongCodes wrong, Templates templates, SchoolSettings settings) {
        this.wrong = wrong;
        this.templates = templates;
        this.settings = settings;
    }

    /**
     * Answers with what is behind a code, however many wrong ones others have sent from the same place. After too many wrong
     * ones nothing more is said there of those.
     *
     * @param known what is behind it; empty = there is no such code
     * @param unknown the template that says so then
     */
    public <T> ResponseEntity<String> behind(
            HttpServletRequest request,
            Supplier<Optional<T>> known,
            Function<T, ResponseEntity<String>> answer,
            String unknown) {
        return known.get().map(answer).orElseGet(() -> {
            var origin = Origins.place(request);
            if (wrong.areTooMany(origin)) {
                return page(HttpStatus.TOO_MANY_REQUESTS, "too-many-tries.html", Map.of());
            }
            wrong.count(origin);
            return page(HttpStatus.NOT_FOUND, unknown, Map.of());
        });
    }

    /** Answers what costs something to answer, so often from one place and no more. */
    public ResponseEntity<String> seldom(
            HttpServletRequest request, String what, Supplier<ResponseEntity<String>> answer) {
        var origin = what + " " + Origins.place(request);
        if (wrong.areTooMany(origin)) {
            return page(HttpStatus.TOO_MANY_REQUESTS, "too-many-tries.html", Map.of());
        }
        wrong.count(origin);
        return answer.get();
    }

    /** What a page's heading says is its title too. */
    private static String titleOf(String main) {
        var heading = HEADING.matcher(main);
        return heading.find() ? heading.group(1) : "";
    }

    public static String said(ProblemException e) {
        var detail = e.problem().getDetail();
        return detail == null ? "This cannot be done." : detail;
    }

    /** @param template of what stands between the page's head and its end */
    public ResponseEntity<String> page(HttpStatus status, String template, Map<String, ?> values) {
        Map<String, Object> all = new HashMap<>(values);
        all.putIfAbsent("school", settings.name());
        all.putIfAbsent("help", "/door");
        var main = templates.fill(template, all);
        var html = templates.fill("page.html", Map.of("school", settings.name(), "title", titleOf(main), "main", main));
        return ResponseEntity.status(status)
                .contentType(MediaType.parseMediaType("text/html;charset=UTF-8"))
                .cacheControl(CacheControl.noStore())
                .body(html);
    }
}
