package yoru.server.mapping;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.server.accounts.SignedIn;
import yoru.server.platform.ProblemException;

/** Drafts while nobody has published them: the same one on every machine of an operator, and seen by the others. */
@RestController
class KeptDraftController {

    private final KeptDrafts drafts;
    private final JsonMapper json;
    private final Clock clock;

    KeptDraftController(KeptDrafts drafts, JsonMapper json, Clock clock) {
        this.drafts = drafts;
        this.json = json;
        this.clock = clock;
    }

    /**
     * @param revision grows with each change; 0 = there never was one
     * @param draft as a browser wrote it; none = nothing is changed
     * @param others what others have changed and not published
     */
    record Drafts(int revision, @Nullable JsonNode draft, List<OthersDraft> others) {}

    /**
     * @param places the first of what it changes, in words
     * @param many how much it changes
     */
    record OthersDraft(String name, Instant at, List<String> places, int many) {}

    /** @param revision of the one that was changed */
    record DraftToKeep(
            int revision,
            @Nullable JsonNode draft,
            @NotNull @Size(max = 20) List<@NotNull @Size(max = 500) String> places,
            int many) {}

    record DraftKept(int revision) {}

    @GetMapping("/api/mapping/draft")
    @Transactional(readOnly = true)
    public Drafts drafts(@AuthenticationPrincipal SignedIn operator) {
        var mine = drafts.findById(operator.email());
        return new Drafts(
                mine.map(it -> it.revision).orElse(0),
                mine.map(it -> it.draft).map(json::readTree).orElse(null),
                drafts.ofOthers(operator.email()).stream()
                        .map(it -> new OthersDraft(it.name, it.keptAt, List.of(it.places), it.many))
                        .toList());
    }

    /** Refused with 409 where it was changed elsewhere meanwhile; nothing is lost then. */
    @PutMapping("/api/mapping/draft")
    @Transactional
    public DraftKept keep(@Valid @RequestBody DraftToKeep wanted, @AuthenticationPrincipal SignedIn operator) {
        var text = wanted.draft == null || wanted.draft.isNull() ? null : wanted.draft.toString();
        if (text != null && text.length() > Draft.LARGEST_DOCUMENT) {
            throw new ProblemException(
                    HttpStatus.CONTENT_TOO_LARGE, "Too large", "The draft stays in this browser only.");
        }
        drafts.make(operator.email(), operator.name());
        var kept = drafts.lock(operator.email()).orElseThrow();
        if (kept.revision != wanted.revision) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "Changed on another machine",
                    "Your draft was changed elsewhere since this page had it.");
        }
        kept.name = operator.name();
        kept.draft = text;
        kept.places = wanted.places.toArray(String[]::new);
        kept.many = wanted.many;
        kept.revision++;
        kept.keptAt = clock.instant();
        return new DraftKept(kept.revision);
    }
}
