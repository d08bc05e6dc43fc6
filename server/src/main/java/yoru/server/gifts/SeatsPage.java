package yoru.server.gifts;

import jakarta.servlet.http.HttpServletRequest;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.util.HtmlUtils;
import yoru.core.desk.Desk;
import yoru.server.platform.ProblemException;
import yoru.server.platform.YoruSettings;

/** The public page where whoever bought seats sees them and sends them out; it does not say who took one up. */
@RestController
class SeatsPage {

    private final BuyerSeats seats;
    private final Gifts gifts;
    private final YoruSettings settings;

    SeatsPage(BuyerSeats seats, Gifts gifts, YoruSettings settings) {
        this.seats = seats;
        this.gifts = gifts;
        this.settings = settings;
    }

    @GetMapping(path = "/seats/{code}", produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> show(@PathVariable String code, HttpServletRequest request) {
        return answer(code, request, "", HttpStatus.OK);
    }

    @PostMapping(
            path = "/seats/{code}",
            consumes = MediaType.APPLICATION_FORM_URLENCODED_VALUE,
            produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> send(
            @PathVariable String code,
            @RequestParam(defaultValue = "") String line,
            @RequestParam(defaultValue = "0") int seat,
            @RequestParam(defaultValue = "") String address,
            HttpServletRequest request) {
        var known = gifts.isStopped(PublicPage.origin(request))
                ? null
                : seats.by(code).orElse(null);
        if (known == null) {
            return answer(code, request, "", HttpStatus.OK);
        }
        if (!Desk.isAddress(address.strip())) {
            return answer(code, request, "This is no e-mail address.", HttpStatus.UNPROCESSABLE_CONTENT);
        }
        try {
            seats.send(known, line, seat, address.strip());
            return answer(code, request, "", HttpStatus.OK);
        } catch (ProblemException e) {
            var detail = e.problem().getDetail();
            return answer(
                    code,
                    request,
                    detail == null ? "It cannot be sent." : detail,
                    HttpStatus.valueOf(e.problem().getStatus()));
        }
    }

    private ResponseEntity<String> answer(String code, HttpServletRequest request, String problem, HttpStatus status) {
        var school = settings.schoolName();
        if (gifts.isStopped(PublicPage.origin(request))) {
            return PublicPage.stopped(school);
        }
        var known = seats.by(code);
        if (known.isEmpty()) {
            gifts.failed(PublicPage.origin(request));
            return PublicPage.of(HttpStatus.NOT_FOUND, school, """
                    <h1>There are no such seats</h1>
                    <p>Copy the whole link, or ask the school for a new one.</p>""");
        }
        return PublicPage.of(status, school, main(known.get(), problem));
    }

    private static String main(BuyerSeats.Seats known, String problem) {
        return """
                <h1>The seats of order %s</h1>
                <p>Each goes to one person: they get a letter with a link, and take it up with any address.</p>
                %s
                <ul>%s</ul>""".formatted(
                        HtmlUtils.htmlEscape(known.order()),
                        problem.isEmpty() ? "" : "<p role=\"alert\">" + HtmlUtils.htmlEscape(problem) + "</p>",
                        known.seats().stream().map(SeatsPage::seat).collect(Collectors.joining()));
    }

    private static String seat(BuyerSeats.Seat seat) {
        var what = "<strong>%s, seat %d</strong>: ".formatted(HtmlUtils.htmlEscape(seat.title()), seat.number());
        if (!seat.free()) {
            return "<li>" + what + "taken up</li>";
        }
        var id = "address-" + HtmlUtils.htmlEscape(seat.line()) + "-" + seat.number();
        return """
                <li>%s%s
                <form method="post">
                  <input type="hidden" name="line" value="%s"><input type="hidden" name="seat" value="%d">
                  <label for="%s">Address for seat %d</label>
                  <input id="%s" name="address" type="email" required maxlength="320">
                  <button>Send seat %d</button>
                </form></li>""".formatted(
                        what,
                        seat.sentTo() == null ? "free" : "sent to " + HtmlUtils.htmlEscape(seat.sentTo()),
                        HtmlUtils.htmlEscape(seat.line()),
                        seat.number(),
                        id,
                        seat.number(),
                        id,
                        seat.number());
    }
}
