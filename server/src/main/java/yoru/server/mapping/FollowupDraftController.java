package yoru.server.mapping;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.accounts.SignedIn;
import yoru.server.rulebooks.Publish;

/** What a drafted follow-up would do, before it is published. */
@RestController
class FollowupDraftController {

    private final FollowupPreviews previews;
    private final Mapping mapping;

    FollowupDraftController(FollowupPreviews previews, Mapping mapping) {
        this.previews = previews;
        this.mapping = mapping;
    }

    record PreviewWanted(
            @NotNull @Valid Draft draft,
            @NotBlank @Size(max = 200) String followup) {}

    record PreviewOfOneWanted(
            @NotNull @Valid Draft draft,
            @NotBlank @Size(max = 200) String followup,
            long person) {}

    /** What it would have done in the last 90 days, had it been on all along. */
    @PostMapping("/api/mapping/followups/lately")
    FollowupPreviews.FollowupPreview lately(@Valid @RequestBody PreviewWanted wanted) {
        return previews.lately(wanted.draft.wanted(), wanted.followup);
    }

    /** What it would have done for somebody, with the letters as they would read. */
    @PostMapping("/api/mapping/followups/for-one")
    FollowupPreviews.FollowupForOne forOne(@Valid @RequestBody PreviewOfOneWanted wanted) {
        return previews.forOne(wanted.draft.wanted(), wanted.followup, wanted.person);
    }

    /** @param step of the letter */
    record TrialWanted(
            @NotNull @Valid Draft draft,
            @NotBlank @Size(max = 200) String followup,
            long person,
            @NotBlank @Size(max = 200) String step) {}

    /** @param by the system that took it */
    record TrialSent(String to, String by) {}

    /** Sends a letter that it would have written to somebody, to whoever asks. */
    @PostMapping("/api/mapping/followups/to-me")
    TrialSent toMe(@Valid @RequestBody TrialWanted wanted, @AuthenticationPrincipal SignedIn operator) {
        return new TrialSent(
                operator.email(),
                previews.toMe(wanted.draft.wanted(), wanted.followup, wanted.person, wanted.step, operator.email()));
    }

    /** Switches one that is in force off at once, by itself; drafts go on. */
    @PostMapping("/api/mapping/followups/{followup}/off")
    Publish off(@PathVariable String followup, @AuthenticationPrincipal SignedIn operator) {
        return mapping.switchOff(followup, operator.name());
    }
}
