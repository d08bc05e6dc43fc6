package yoru.server.followups;

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
import yoru.server.platform.PublicPages;

/**
 * The public page that letters lead to which answer nothing their reader did. Looking at it changes nothing: only what is
 * posted does, as a mail program does by itself (RFC 8058) or the reader by pressing.
 */
@RestController
class LetterStopPage {

    private static final String UNKNOWN = "letters-unknown.html";

    private final LetterStops stops;
    private final PublicPages pages;

    LetterStopPage(LetterStops stops, PublicPages pages) {
        this.stops = stops;
        this.pages = pages;
    }

    @GetMapping(path = "/letters/{code}", produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> show(@PathVariable String code, HttpServletRequest request) {
        return pages.behind(request, () -> stops.behind(code), choice -> page(choice.stoppedAt() != null), UNKNOWN);
    }

    /** @param again whether they are wanted again */
    @PostMapping(
            path = "/letters/{code}",
            consumes = {MediaType.APPLICATION_FORM_URLENCODED_VALUE, MediaType.MULTIPART_FORM_DATA_VALUE},
            produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> choose(
            @PathVariable String code, @RequestParam(defaultValue = "") String again, HttpServletRequest request) {
        return pages.behind(
                request,
                () -> stops.behind(code),
                choice -> {
                    stops.choose(code, again.isEmpty());
                    return page(again.isEmpty());
                },
                UNKNOWN);
    }

    private ResponseEntity<String> page(boolean stopped) {
        return pages.page(HttpStatus.OK, "letters.html", Map.of("stopped", stopped));
    }
}
