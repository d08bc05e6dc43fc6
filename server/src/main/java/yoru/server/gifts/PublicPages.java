package yoru.server.gifts;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Supplier;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Component;
import org.springframework.web.util.HtmlUtils;
import yoru.server.platform.ProblemException;
import yoru.server.platform.YoruSettings;

/** Pages for people without an account, each behind a code: they work without scripts and are kept nowhere. */
@Component
class PublicPages {

    private final WrongCodes wrong;
    private final YoruSettings settings;

    PublicPages(WrongCodes wrong, YoruSettings settings) {
        this.wrong = wrong;
        this.settings = settings;
    }

    /**
     * Answers with what is behind a code. After too many wrong ones from one place nothing more is said there.
     *
     * @param known what is behind it; empty = there is no such code
     * @param unknown what is said then, HTML
     */
    <T> ResponseEntity<String> behind(
            HttpServletRequest request,
            Supplier<Optional<T>> known,
            Function<T, ResponseEntity<String>> answer,
            String unknown) {
        var origin = String.valueOf(request.getRemoteAddr());
        if (wrong.areTooMany(origin)) {
            return page(HttpStatus.TOO_MANY_REQUESTS, """
                    <h1>Too many tries</h1>
                    <p>Wait a quarter of an hour, then follow the link in the letter again.</p>""");
        }
        return known.get().map(answer).orElseGet(() -> {
            wrong.count(origin);
            return page(HttpStatus.NOT_FOUND, unknown);
        });
    }

    /** What stands in the way, to be shown above a form; empty = nothing does. */
    static String alert(String problem) {
        return problem.isEmpty() ? "" : "<p role=\"alert\">" + HtmlUtils.htmlEscape(problem) + "</p>";
    }

    static String said(ProblemException e) {
        var detail = e.problem().getDetail();
        return detail == null ? "This cannot be done." : detail;
    }

    /** @param main HTML */
    ResponseEntity<String> page(HttpStatus status, String main) {
        var school = HtmlUtils.htmlEscape(settings.schoolName());
        var html = """
                <!doctype html>
                <html lang="en">
                <head>
                <meta charset="utf-8">
                <meta name="viewport" content="width=device-width">
                <meta name="robots" content="noindex">
                <title>%s</title>
                <style>
                body { margin: 0; background: #f6f3ec; color: #1b1b32; font: 17px/1.5 system-ui, sans-serif; }
                header { background: #1d1e3a; color: #fffefa; padding: 0.9rem 1.5rem; font-weight: 700; }
                main { max-width: 34rem; margin: 3rem auto; padding: 0 1.5rem; }
                form { display: grid; gap: 0.4rem; margin-top: 1.5rem; }
                label { font-weight: 600; margin-top: 0.6rem; }
                input { font: inherit; padding: 0.5rem 0.7rem; border: 1px solid #8b8778; border-radius: 0.4rem; }
                button { font: inherit; font-weight: 700; margin-top: 1.2rem; padding: 0.6rem; border: 0;
                  border-radius: 0.4rem; background: #1d1e3a; color: #fffefa; cursor: pointer; }
                :focus-visible { outline: 3px solid #4b4fb0; outline-offset: 2px; }
                ul { padding: 0; list-style: none; }
                li { border-top: 1px solid #d8d3c5; padding: 0.7rem 0; }
                [role=alert] { color: #ad3023; font-weight: 600; }
                </style>
                </head>
                <body><header>%s</header><main>%s</main></body>
                </html>
                """.formatted(school, school, main);
        return ResponseEntity.status(status)
                .contentType(MediaType.parseMediaType("text/html;charset=UTF-8"))
                .cacheControl(CacheControl.noStore())
                .body(html);
    }
}
