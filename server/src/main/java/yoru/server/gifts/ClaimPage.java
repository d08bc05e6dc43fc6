package yoru.server.gifts;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Map;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.desk.Act;
import yoru.core.ledger.PersonKey;
import yoru.server.desk.DeskService;
import yoru.server.platform.ProblemException;
import yoru.server.platform.PublicPages;
import yoru.server.platform.Sha256;

/**
 * The public page where a gift is taken up, by whoever has its code, with any address. It works without scripts, and
 * says nothing of who bought what to somebody without one.
 */
@RestController
class ClaimPage {

    private static final int LONGEST = 320;

    private static final String UNKNOWN = "claim-unknown.html";

    private final Gifts gifts;
    private final DeskService desk;
    private final PublicPages pages;

    ClaimPage(Gifts gifts, DeskService desk, PublicPages pages) {
        this.gifts = gifts;
        this.desk = desk;
        this.pages = pages;
    }

    @GetMapping(path = "/claim/{code}", produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> show(@PathVariable String code, HttpServletRequest request) {
        return pages.behind(
                request,
                () -> gifts.by(code),
                gift -> gift.open() ? form(HttpStatus.OK, gift, gift.address(), "", "") : gone(gift),
                UNKNOWN);
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
        return pages.behind(request, () -> gifts.by(code), gift -> claim(gift, code, address, name), UNKNOWN);
    }

    private ResponseEntity<String> claim(Gifts.Offered gift, String code, String address, String name) {
        if (!gift.open()) {
            return gone(gift);
        }
        var person = PersonKey.plain(address);
        if (person.length() > LONGEST || name.length() > LONGEST) {
            return form(HttpStatus.BAD_REQUEST, gift, "", "", "This is too long.");
        }
        try {
            var place = gift.place();
            desk.claim(
                    "claim-" + Sha256.of(code + " " + person).substring(0, 40),
                    new Act.Claim(place.orderId(), place.line(), place.seat(), person),
                    name.strip());
            return pages.page(HttpStatus.OK, "claim-done.html", Map.of("what", gift.what(), "person", person));
        } catch (ProblemException e) {
            return gift.open()
                    ? form(HttpStatus.UNPROCESSABLE_CONTENT, gift, address, name, PublicPages.said(e))
                    : gone(gift);
        }
    }

    private ResponseEntity<String> gone(Gifts.Offered gift) {
        return pages.page(
                HttpStatus.GONE,
                gift.claimable() == Gifts.Claimable.OVER ? "claim-over.html" : "claim-taken-up.html",
                Map.of());
    }

    private ResponseEntity<String> form(
            HttpStatus status, Gifts.Offered gift, String address, String name, String problem) {
        return pages.page(
                status,
                "claim.html",
                Map.of("what", gift.what(), "from", gift.from(), "address", address, "name", name, "problem", problem));
    }
}
