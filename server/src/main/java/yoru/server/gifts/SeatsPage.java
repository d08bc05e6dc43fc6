package yoru.server.gifts;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Map;
import java.util.Objects;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.ledger.EmailAddress;
import yoru.server.platform.ProblemException;
import yoru.server.platform.PublicPages;

/** The public page where whoever bought seats sees them and sends them out; it does not say who took one up. */
@RestController
class SeatsPage {

    private static final String UNKNOWN = "seats-unknown.html";

    private final BuyerSeats seats;
    private final PublicPages pages;

    SeatsPage(BuyerSeats seats, PublicPages pages) {
        this.seats = seats;
        this.pages = pages;
    }

    @GetMapping(path = "/seats/{code}", produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> show(@PathVariable String code, HttpServletRequest request) {
        return pages.behind(request, () -> seats.by(code), known -> page(HttpStatus.OK, known, ""), UNKNOWN);
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
        if (!EmailAddress.isOne(address)) {
            return page(HttpStatus.UNPROCESSABLE_CONTENT, known, "This is no e-mail address.");
        }
        try {
            seats.send(known.order(), line, seat, address);
            return page(HttpStatus.OK, seats.by(code).orElse(known), "");
        } catch (ProblemException e) {
            return page(HttpStatus.valueOf(e.problem().getStatus()), known, PublicPages.said(e));
        }
    }

    private ResponseEntity<String> page(HttpStatus status, BuyerSeats.Seats known, String problem) {
        return pages.page(
                status,
                "seats.html",
                Map.of(
                        "order",
                        known.order(),
                        "problem",
                        problem,
                        "seats",
                        known.seats().stream().map(SeatsPage::values).toList()));
    }

    private static Map<String, ?> values(BuyerSeats.Seat seat) {
        return Map.of(
                "title",
                seat.title(),
                "line",
                seat.line(),
                "number",
                seat.number(),
                "free",
                seat.free(),
                "sentTo",
                Objects.requireNonNullElse(seat.sentTo(), ""));
    }
}
