package yoru.server.journal;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
class JournalController {

    private static final int PAGE = 60;

    private final Journal journal;

    JournalController(Journal journal) {
        this.journal = journal;
    }

    /** @param before the id of the last line already shown */
    @GetMapping("/api/journal")
    List<Journal.JournalLine> journal(
            @RequestParam(required = false) @Nullable Long before,
            @RequestParam(defaultValue = "") List<Kind> kind,
            @RequestParam(required = false) @Nullable Instant until,
            @RequestParam(required = false) @Nullable Long person,
            @RequestParam(defaultValue = "") String q) {
        return journal.read(new Journal.Filter(before, kind, until, person, q), PAGE);
    }
}
