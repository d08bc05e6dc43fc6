package yoru.server.visitors;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Map;
import java.util.stream.Stream;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.platform.PublicPages;

/** What was bought, for whoever just did: everything that it opened, and the way there. */
@RestController
class ThanksPage {

    private static final String UNKNOWN = "thanks-unknown.html";

    private final ThanksCodes codes;
    private final OwnThings things;
    private final OwnPageLinks links;
    private final PublicPages pages;

    ThanksPage(ThanksCodes codes, OwnThings things, OwnPageLinks links, PublicPages pages) {
        this.codes = codes;
        this.things = things;
        this.links = links;
        this.pages = pages;
    }

    @GetMapping(path = "/thanks/{code}", produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> show(@PathVariable String code, HttpServletRequest request) {
        return pages.behind(
                request,
                () -> codes.order(code),
                order -> things.order(order)
                        .map(this::page)
                        .orElseGet(() -> pages.page(HttpStatus.OK, "thanks-later.html", Map.of())),
                UNKNOWN);
    }

    private ResponseEntity<String> page(OwnThings.Arrived arrived) {
        var person = arrived.person();
        var open = arrived.things();
        return pages.page(
                HttpStatus.OK,
                "thanks.html",
                Map.ofEntries(
                        Map.entry("name", person.givenName().orElse("")),
                        Map.entry("address", person.key()),
                        Map.entry("state", state(arrived)),
                        Map.entry(
                                "hasThings", !open.isEmpty() || !arrived.later().isEmpty()),
                        Map.entry("things", open.stream().map(MinePage::thing).toList()),
                        Map.entry("later", arrived.later()),
                        Map.entry("seats", arrived.order().givesSeats()),
                        Map.entry("mine", links.areSent()),
                        Map.entry(
                                "begin",
                                open.stream()
                                        .limit(1)
                                        .filter(it -> it.isHere() && !it.where().isEmpty())
                                        .map(MinePage::thing)
                                        .toList()),
                        Map.entry(
                                "again",
                                !arrived.later().isEmpty() || open.stream().anyMatch(it -> !it.isHere()))));
    }

    private static String state(OwnThings.Arrived arrived) {
        boolean isPaid = Stream.of("paid", "free").anyMatch(arrived.order().state()::equals);
        if (!arrived.later().isEmpty() && !isPaid) {
            return "Your order is " + arrived.order().state() + ". What it opens, opens then.";
        }
        return arrived.things().isEmpty() && arrived.later().isEmpty()
                ? "The school has your order."
                : arrived.later().isEmpty() ? "This is yours now." : "";
    }
}
