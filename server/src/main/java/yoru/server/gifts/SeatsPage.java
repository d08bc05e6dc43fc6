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

/** The public page where whoever bought seats sees them and sends them out; it does not say who took one up. */
@RestController
class SeatsPage {

    private static final String UNKNOWN = """
            <h1>There are no such seats</h1>
            <p>Copy the whole link, or ask the school for a new one.</p>""";

    private final BuyerSeats seats;
    private final PublicPages pages;

    SeatsPage(BuyerSeats seats, PublicPages pages) {
        this.seats = seats;
        this.pages = pages;
    }

    @GetMapping(path = "/seats/{code}", produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> show(@PathVariable String code, HttpServletRequest request) {
        return pages.behind(
                request, () -> seats.by(code), known -> pages.page(HttpStatus.OK, main(known, "")), UNKNOWN);
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
        return pages.behind(
                request, () -> seats.by(code), known -> send(known, code, line, seat, address.strip()), UNKNOWN);
    }

    private ResponseEntity<String> send(BuyerSeats.Seats known, String code, String line, int seat, String address) {
        if (!Desk.isAddress(address)) {
            return pages.page(HttpStatus.UNPROCESSABLE_CONTENT, main(known, "This is no e-mail address."));
        }
        try {
            seats.send(known, line, seat, address);
            return pages.page(HttpStatus.OK, main(seats.by(code).orElse(known), ""));
        } catch (ProblemException e) {
            return pages.page(HttpStatus.valueOf(e.problem().getStatus()), main(known, PublicPages.said(e)));
        }
    }

    private static String main(BuyerSeats.Seats known, String problem) {
        return """
                <h1>The seats of order %s</h1>
                <p>Each goes to one person: they get a letter with a link, and take it up with any address.</p>
                %s
                <ul>%s</ul>""".formatted(
                        HtmlUtils.htmlEscape(known.order()),
                        PublicPages.alert(problem),
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
