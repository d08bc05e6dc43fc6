package yoru.server.intake;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import yoru.formats.UnreadableException;
import yoru.server.platform.ProblemException;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;

/** Matching the fields of what a system reports. */
@RestController
class MatchingController {

    private final Matchings matchings;
    private final Intake intake;
    private final HandedOver handedOver;
    private final Connections connections;

    MatchingController(Matchings matchings, Intake intake, HandedOver handedOver, Connections connections) {
        this.matchings = matchings;
        this.intake = intake;
        this.handedOver = handedOver;
        this.connections = connections;
    }

    @Configuration(proxyBeanMethods = false)
    static class Forgetting {
        @Bean
        RecurringTask<Void> forgetReceived(Intake intake) {
            return Tasks.recurring("forget-received", FixedDelay.of(Duration.ofHours(6)))
                    .execute((task, context) -> intake.forget());
        }
    }

    @GetMapping("/api/systems/{id}/matching")
    Matchings.MatchingShown matching(@PathVariable String id) {
        return matchings.of(id);
    }

    /** A version as a file, to keep or to bring to another school. */
    @GetMapping("/api/systems/{id}/matching/{number}")
    JsonNode version(@PathVariable String id, @PathVariable int number) {
        return matchings.document(id, number);
    }

    /** @param document see docs/formats/matching.md */
    record MatchingDraft(@NotNull JsonNode document) {}

    /** What the latest reports would come to; keeps nothing. */
    @PostMapping("/api/systems/{id}/matching/trial")
    Matchings.Trial trial(@PathVariable String id, @Valid @RequestBody MatchingDraft draft) {
        return matchings.trial(id, draft.document);
    }

    record NewVersion(
            @NotNull JsonNode document,
            int base,
            @NotNull @Size(max = 300) String note) {}

    /** @param version its number */
    record VersionKept(int version) {}

    @PutMapping("/api/systems/{id}/matching")
    VersionKept keep(
            @PathVariable String id,
            @Valid @RequestBody NewVersion wanted,
            @AuthenticationPrincipal Principal operator) {
        return new VersionKept(
                matchings.keep(id, wanted.document, wanted.base, wanted.note.strip(), operator.getName()));
    }

    /**
     * Takes a CSV file over, row by row (docs/formats/folder.md).
     *
     * @param name what the file is called, for the journal
     */
    @PostMapping(path = "/api/systems/{id}/files", consumes = "text/csv")
    HandedOver.FileTaken handOver(
            @PathVariable String id,
            @RequestParam @Size(max = 200) String name,
            @RequestBody byte[] file,
            @AuthenticationPrincipal Principal operator) {
        var connection = connections.get(id);
        if (connection.state() == Connection.State.OFF) {
            throw new ProblemException(
                    HttpStatus.CONFLICT, "Switched off", "This system is switched off. Nothing was taken.");
        }
        if (connection.kind().speaksEvents() && intake.matching(id).isEmpty()) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "Nothing is matched yet",
                    "Match the columns first; then the file can be taken over. Nothing was taken.");
        }
        try {
            return handedOver.take(connection, name, file, operator.getName());
        } catch (UnreadableException e) {
            throw new ProblemException(
                    HttpStatus.UNPROCESSABLE_CONTENT,
                    "This file cannot be read",
                    "It " + Intake.inWords(e.faults()) + ". Nothing was taken.");
        }
    }

    /** @param reports how many */
    record TakenUp(int reports) {}

    /** Has what was not taken up tried again with the matching as it is now. */
    @PostMapping("/api/systems/{id}/received/again")
    TakenUp again(@PathVariable String id, @AuthenticationPrincipal Principal operator) {
        return new TakenUp(intake.again(connections.get(id), operator.getName()));
    }
}
