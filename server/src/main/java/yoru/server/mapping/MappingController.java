package yoru.server.mapping;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.platform.ProblemException;
import yoru.server.rulebooks.Publish;

/** The grid: what opens things down, what can be opened across. */
@RestController
class MappingController {

    private final Mapping mapping;
    private final Grids grids;

    MappingController(Mapping mapping, Grids grids) {
        this.mapping = mapping;
        this.grids = grids;
    }

    /** @param despite why it is published although rehearsals do not come out as they should; none = then it is not */
    record Publishing(
            int base,
            @NotNull @Size(max = Draft.MOST) List<@Valid DraftCell> changes,
            @Nullable @Size(max = Draft.MOST) List<Draft.@Valid DraftThing> things,
            @Nullable @Size(max = Draft.LARGEST_DOCUMENT) String document,
            @NotNull @Size(max = 500) String note,
            @Nullable @Size(max = 500) String despite,
            @Nullable @Valid PastServed past) {

        /**
         * What of before follow-ups may serve.
         *
         * @param counts whether what the publish opens or ends by itself is something to follow up
         */
        record PastServed(
                boolean counts, @NotNull @Size(max = 1000) List<@Valid ServedFrom> followups) {}

        /** @param since none = from the beginning */
        record ServedFrom(
                @NotBlank @Size(max = 200) String followup,
                @Nullable Instant since,
                boolean letters) {}

        PublishedPast whatOfThePast() {
            return past == null
                    ? PublishedPast.NOTHING
                    : new PublishedPast(
                            past.counts,
                            past.followups.stream()
                                    .map(it -> new PublishedPast.From(it.followup, it.since, it.letters))
                                    .toList());
        }

        boolean isEmpty() {
            return changes.isEmpty() && (things == null || things.isEmpty()) && document == null;
        }
    }

    @GetMapping("/api/mapping")
    Grids.Grid grid() {
        return grids.now();
    }

    /** Each product that opens nothing to the course of the same name; nothing is changed. */
    @GetMapping("/api/mapping/proposals")
    List<Grids.ProposedCell> proposals() {
        return grids.proposals();
    }

    @PostMapping("/api/mapping/publish")
    Publish publish(@Valid @RequestBody Publishing publishing, @AuthenticationPrincipal Principal operator) {
        if (publishing.isEmpty()) {
            throw new ProblemException(HttpStatus.BAD_REQUEST, "Nothing to publish", "The draft changes nothing.");
        }
        return mapping.publish(
                publishing.base,
                new Draft(publishing.changes, publishing.things, publishing.document).wanted(),
                publishing.whatOfThePast(),
                Objects.requireNonNullElse(publishing.despite, ""),
                publishing.note,
                operator.getName());
    }

    /** A rulebook as YAML: the one in force over today's catalogues, or as it was published. */
    @GetMapping(path = "/api/mapping/rulebook", produces = "application/yaml")
    String rulebook(@RequestParam(required = false) @Nullable Integer version) {
        return mapping.yaml(version);
    }

    @GetMapping("/api/mapping/history")
    List<Publish> history() {
        return mapping.history();
    }
}
