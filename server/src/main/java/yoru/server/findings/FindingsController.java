package yoru.server.findings;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.findings.Finding.Kind;
import yoru.server.mapping.Draft;

/** What a person should look at in the mapping. */
@RestController
class FindingsController {

    private final SchoolFindings findings;

    FindingsController(SchoolFindings findings) {
        this.findings = findings;
    }

    @GetMapping("/api/findings")
    List<SchoolFindings.ShownFinding> findings() {
        return findings.all();
    }

    /** @param evidence as it was shown */
    record Accepting(
            @NotNull Kind kind,
            @NotBlank @Size(max = 300) String subject,
            @NotNull @Size(max = 4000) String evidence,
            @NotBlank @Size(max = 300) String reason) {}

    /** What a draft would bring, leave standing at what it touches, and mend; nothing is changed. */
    @PostMapping("/api/findings/draft")
    SchoolFindings.OfDraft ofDraft(@Valid @RequestBody Draft draft) {
        return findings.of(draft.wanted());
    }

    /** Notes that somebody wants it so; it comes back when what it rests on changes. */
    @PostMapping("/api/findings/accept")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void accept(@Valid @RequestBody Accepting accepting, @AuthenticationPrincipal Principal operator) {
        findings.accept(
                accepting.kind, accepting.subject, accepting.evidence, accepting.reason.strip(), operator.getName());
    }

    record Reopening(
            @NotNull Kind kind, @NotBlank @Size(max = 300) String subject) {}

    /** Takes an acceptance back. */
    @PostMapping("/api/findings/reopen")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void reopen(@Valid @RequestBody Reopening reopening, @AuthenticationPrincipal Principal operator) {
        findings.reopen(reopening.kind, reopening.subject, operator.getName());
    }
}
