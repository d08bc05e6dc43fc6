package yoru.server.access;

import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;

/** What the date ruler shows. */
@RestController
class RulerController {

    private static final int LONGEST_DAYS = 1100;

    private final OpeningTable openings;
    private final SchoolSettings settings;

    RulerController(OpeningTable openings, SchoolSettings settings) {
        this.openings = openings;
        this.settings = settings;
    }

    /** Openings and endings of one day in the school's zone; days without any are left out. */
    record Day(LocalDate day, long opened, long ended) {}

    /** @param to not included */
    @GetMapping("/api/ruler")
    List<Day> ruler(@RequestParam LocalDate from, @RequestParam LocalDate to) {
        var zone = settings.zone();
        if (!from.isBefore(to) || ChronoUnit.DAYS.between(from, to) > LONGEST_DAYS) {
            throw new ProblemException(
                    HttpStatus.BAD_REQUEST,
                    "This stretch cannot be shown",
                    "from must be before to, and at most %d days before.".formatted(LONGEST_DAYS));
        }
        return openings
                .days(from.atStartOfDay(zone).toInstant(), to.atStartOfDay(zone).toInstant(), zone.getId())
                .stream()
                .map(day -> new Day(day.getDay(), day.getOpened(), day.getEnded()))
                .toList();
    }
}
