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
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import yoru.server.systems.Connections;

/** Matching the fields of what a system reports. */
@RestController
class MatchingController {

    private final Matchings matchings;
    private final Intake intake;
    private final Connections connections;

    MatchingController(Matchings matchings, Intake intake, Connections connections) {
        this.matchings = matchings;
        this.intake = intake;
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

    /** @param reports how many */
    record TakenUp(int reports) {}

    /** Has what was not taken up tried again with the matching as it is now. */
    @PostMapping("/api/systems/{id}/received/again")
    TakenUp again(@PathVariable String id, @AuthenticationPrincipal Principal operator) {
        return new TakenUp(intake.again(connections.get(id), operator.getName()));
    }
}
