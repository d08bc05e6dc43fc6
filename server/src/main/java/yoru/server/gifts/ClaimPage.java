package yoru.server.gifts;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Duration;
import java.util.Locale;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.util.HtmlUtils;
import yoru.core.desk.Act;
import yoru.server.desk.DeskService;
import yoru.server.platform.ProblemException;
import yoru.server.platform.Sha256;
import yoru.server.platform.YoruSettings;

/**
 * The public page where a gift is taken up, by whoever has its code, with any address. It works without scripts, and
 * says nothing of who bought what to somebody without one.
 */
@RestController
class ClaimPage {

    static final int MOST_FAILURES = 20;
    static final Duration FAILURES_COUNT_FOR = Duration.ofMinutes(15);

    private static final int LONGEST = 320;

    private final Gifts gifts;
    private final DeskService desk;
    private final YoruSettings settings;

    ClaimPage(Gifts gifts, DeskService desk, YoruSettings settings) {
        this.gifts = gifts;
        this.desk = desk;
        this.settings = settings;
    }

    @GetMapping(path = "/claim/{code}", produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> show(@PathVariable String code, HttpServletRequest request) {
        if (gifts.isStopped(origin(request))) {
            return stopped();
        }
        return gifts.by(code)
                .map(gift -> gift.open() ? page(HttpStatus.OK, form(gift, gift.address(), "", "")) : gone(gift))
                .orElseGet(() -> unknown(request));
    }

    @PostMapping(
            path = "/claim/{code}",
            consumes = MediaType.APPLICATION_FORM_URLENCODED_VALUE,
            produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> claim(
            @PathVariable String code,
            @RequestParam(defaultValue = "") String address,
            @RequestParam(defaultValue = "") String name,
            HttpServletRequest request) {
        if (gifts.isStopped(origin(request))) {
            return stopped();
        }
        var gift = gifts.by(code).orElse(null);
        if (gift == null) {
            return unknown(request);
        }
        if (!gift.open()) {
            return gone(gift);
        }
        var person = address.strip().toLowerCase(Locale.ROOT);
        if (person.length() > LONGEST || name.length() > LONGEST) {
            return page(HttpStatus.BAD_REQUEST, form(gift, "", "", "This is too long."));
        }
        try {
            var place = gift.place();
            desk.claim(
                    "claim-" + Sha256.of(code + " " + person).substring(0, 40),
                    new Act.Claim(place.orderId(), place.line(), place.seat(), person),
                    name.strip(),
                    person);
            return page(HttpStatus.OK, done(gift, person));
        } catch (ProblemException e) {
            return gift.open()
                    ? page(HttpStatus.UNPROCESSABLE_CONTENT, form(gift, address, name, said(e)))
                    : gone(gift);
        }
    }

    private ResponseEntity<String> gone(Gifts.Offered gift) {
        return page(HttpStatus.GONE, gift.claimable() == Gifts.Claimable.OVER ? over() : takenUp());
    }

    private static String over() {
        return """
                <h1>It is too late</h1>
                <p>This gift could be taken up only for a time. Ask whoever gave it to you, or the school, to have it sent again.</p>""";
    }

    private static String said(ProblemException e) {
        var detail = e.problem().getDetail();
        return detail == null ? "This cannot be done." : detail;
    }

    private static String origin(HttpServletRequest request) {
        return String.valueOf(request.getRemoteAddr());
    }

    private ResponseEntity<String> unknown(HttpServletRequest request) {
        gifts.failed(origin(request));
        return page(HttpStatus.NOT_FOUND, """
                <h1>There is no such gift</h1>
                <p>Copy the whole link out of the letter, or ask whoever gave it to you to have it sent again.</p>""");
    }

    private ResponseEntity<String> stopped() {
        return page(HttpStatus.TOO_MANY_REQUESTS, """
                <h1>Too many tries</h1>
                <p>Wait a quarter of an hour, then follow the link in the letter again.</p>""");
    }

    private static String takenUp() {
        return """
                <h1>It was taken up already</h1>
                <p>If it was you, sign in with the address that you used. If it was not, write to the school.</p>""";
    }

    private static String form(Gifts.Offered gift, String address, String name, String problem) {
        return """
                <h1>%s</h1>
                <p>%s has given this to you. With which e-mail address do you want to use it?</p>
                %s
                <form method="post">
                  <label for="address">E-mail address</label>
                  <input id="address" name="address" type="email" required maxlength="320" autocomplete="email" value="%s">
                  <label for="name">Your name</label>
                  <input id="name" name="name" maxlength="200" autocomplete="name" value="%s">
                  <button>Take it up</button>
                </form>""".formatted(
                        HtmlUtils.htmlEscape(gift.what()),
                        HtmlUtils.htmlEscape(gift.from()),
                        problem.isEmpty() ? "" : "<p role=\"alert\">" + HtmlUtils.htmlEscape(problem) + "</p>",
                        HtmlUtils.htmlEscape(address),
                        HtmlUtils.htmlEscape(name));
    }

    private static String done(Gifts.Offered gift, String person) {
        return """
                <h1>It is yours</h1>
                <p>%s opens for %s now. A letter says where to sign in.</p>""".formatted(HtmlUtils.htmlEscape(gift.what()), HtmlUtils.htmlEscape(person));
    }

    private ResponseEntity<String> page(HttpStatus status, String main) {
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
