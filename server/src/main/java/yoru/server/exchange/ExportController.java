package yoru.server.exchange;

import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.accounts.SignedIn;
import yoru.server.platform.ProblemException;

/** Files and feeds that go out (docs/formats/results.md). */
@RestController
class ExportController {

    private final Exports exports;
    private final Feeds feeds;
    private final Clock clock;

    ExportController(Exports exports, Feeds feeds, Clock clock) {
        this.exports = exports;
        this.feeds = feeds;
        this.clock = clock;
    }

    record NewFeed(@NotBlank @Size(max = 100) String name) {}

    @GetMapping(path = "/api/exports/access.csv", produces = "text/csv")
    void access(@RequestParam(required = false) @Nullable Instant at, HttpServletResponse response) throws IOException {
        response.setContentType("text/csv;charset=UTF-8");
        response.setHeader(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"access.csv\"");
        exports.accessCsv(at(at), response.getOutputStream());
    }

    @GetMapping(path = "/api/exports/oneroster.zip", produces = "application/zip")
    void roster(@RequestParam(required = false) @Nullable Instant at, HttpServletResponse response) throws IOException {
        response.setContentType("application/zip");
        response.setHeader(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"oneroster.zip\"");
        exports.roster(at(at), response.getOutputStream());
    }

    private Instant at(@Nullable Instant at) {
        return Objects.requireNonNullElseGet(at, clock::instant);
    }

    @GetMapping("/api/feeds")
    List<Feeds.ShownFeed> feeds() {
        return feeds.all();
    }

    @PostMapping("/api/feeds")
    @ResponseStatus(HttpStatus.CREATED)
    Feeds.ShownFeed make(@Valid @RequestBody NewFeed feed, @AuthenticationPrincipal SignedIn operator) {
        return feeds.make(feed.name, operator.name());
    }

    @DeleteMapping("/api/feeds/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void revoke(@PathVariable long id, @AuthenticationPrincipal SignedIn operator) {
        feeds.revoke(id, operator.name());
    }

    /** For whoever has the address; programs for calendars cannot sign in. */
    @GetMapping(path = "/feeds/{code}.ics", produces = "text/calendar")
    ResponseEntity<String> calendar(@PathVariable String code) {
        if (!feeds.opens(code)) {
            throw ProblemException.notFound("No calendar is there.");
        }
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_TYPE, "text/calendar;charset=UTF-8")
                .cacheControl(CacheControl.noStore())
                .body(exports.endings());
    }
}
