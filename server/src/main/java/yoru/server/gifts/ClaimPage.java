package yoru.server.gifts;

import jakarta.servlet.http.HttpServletRequest;
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
import yoru.core.ledger.PersonKey;
import yoru.server.desk.DeskService;
import yoru.server.platform.ProblemException;
import yoru.server.platform.Sha256;

/**
 * The public page where a gift is taken up, by whoever has its code, with any address. It works without scripts, and
 * says nothing of who bought what to somebody without one.
 */
@RestController
class ClaimPage {

    private static final int LONGEST = 320;

    private static final String UNKNOWN = """
            <h1>There is no such gift</h1>
            <p>Copy the whole link out of the letter, or ask whoever gave it to you to have it sent again.</p>""";

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
                gift -> gift.open() ? pages.page(HttpStatus.OK, form(gift, gift.address(), "", "")) : gone(gift),
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
            return pages.page(HttpStatus.BAD_REQUEST, form(gift, "", "", "This is too long."));
        }
        try {
            var place = gift.place();
            desk.claim(
                    "claim-" + Sha256.of(code + " " + person).substring(0, 40),
                    new Act.Claim(place.orderId(), place.line(), place.seat(), person),
                    name.strip(),
                    person);
            return pages.page(HttpStatus.OK, done(gift, person));
        } catch (ProblemException e) {
            return gift.open()
                    ? pages.page(HttpStatus.UNPROCESSABLE_CONTENT, form(gift, address, name, PublicPages.said(e)))
                    : gone(gift);
        }
    }

    private ResponseEntity<String> gone(Gifts.Offered gift) {
        return pages.page(HttpStatus.GONE, gift.claimable() == Gifts.Claimable.OVER ? over() : takenUp());
    }

    private static String over() {
        return """
                <h1>It is too late</h1>
                <p>This gift could be taken up only for a time. Ask whoever gave it to you, or the school, to have it sent again.</p>""";
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
                        PublicPages.alert(problem),
                        HtmlUtils.htmlEscape(address),
                        HtmlUtils.htmlEscape(name));
    }

    private static String done(Gifts.Offered gift, String person) {
        return """
                <h1>It is yours</h1>
                <p>%s opens for %s now. A letter says where to sign in.</p>""".formatted(HtmlUtils.htmlEscape(gift.what()), HtmlUtils.htmlEscape(person));
    }
}
