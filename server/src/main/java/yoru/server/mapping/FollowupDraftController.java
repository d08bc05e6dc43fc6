package yoru.server.mapping;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What a drafted follow-up would do, before it is published. */
@RestController
class FollowupDraftController {

    private final FollowupPreviews previews;

    FollowupDraftController(FollowupPreviews previews) {
        this.previews = previews;
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
}
