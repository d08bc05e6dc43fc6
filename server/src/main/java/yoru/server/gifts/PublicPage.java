package yoru.server.gifts;

import jakarta.servlet.http.HttpServletRequest;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.util.HtmlUtils;

/** What pages for people without an account have in common: they work without scripts and are kept nowhere. */
final class PublicPage {

    private PublicPage() {}

    /** From where somebody asks, to count wrong codes by. */
    static String origin(HttpServletRequest request) {
        return String.valueOf(request.getRemoteAddr());
    }

    static ResponseEntity<String> stopped(String school) {
        return of(HttpStatus.TOO_MANY_REQUESTS, school, """
                <h1>Too many tries</h1>
                <p>Wait a quarter of an hour, then follow the link in the letter again.</p>""");
    }

    /** @param main HTML */
    static ResponseEntity<String> of(HttpStatus status, String schoolName, String main) {
        var school = HtmlUtils.htmlEscape(schoolName);
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
