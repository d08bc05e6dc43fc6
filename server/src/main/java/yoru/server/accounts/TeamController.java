package yoru.server.accounts;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Who works with Yoru, and as what; for owners. */
@RestController
class TeamController {

    private final Accounts accounts;
    private final SecondFactors factors;
    private final Passkeys passkeys;

    TeamController(Accounts accounts, SecondFactors factors, Passkeys passkeys) {
        this.accounts = accounts;
        this.factors = factors;
        this.passkeys = passkeys;
    }

    record ChangedMember(@NotNull Role role) {}

    @GetMapping("/api/team")
    List<Accounts.Member> team() {
        return accounts.team();
    }

    @PutMapping("/api/team/{id}")
    Accounts.Member change(
            @PathVariable UUID id, @Valid @RequestBody ChangedMember member, @AuthenticationPrincipal SignedIn owner) {
        return accounts.change(id, member.role, owner);
    }

    record ToldMember(boolean told) {}

    /** Whether what follow-ups tell the team is written to them. */
    @PutMapping("/api/team/{id}/told")
    Accounts.Member tell(
            @PathVariable UUID id, @Valid @RequestBody ToldMember member, @AuthenticationPrincipal SignedIn owner) {
        return accounts.tell(id, member.told, owner);
    }

    /** For who has lost theirs. */
    @DeleteMapping("/api/team/{id}/second-factor")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void removeFactor(@PathVariable UUID id, @AuthenticationPrincipal SignedIn owner) {
        factors.remove(id, owner);
    }

    /** All of them, for who has lost a device. */
    @DeleteMapping("/api/team/{id}/passkeys")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void removePasskeys(@PathVariable UUID id, @AuthenticationPrincipal SignedIn owner) {
        passkeys.removeAll(id, owner);
    }

    @DeleteMapping("/api/team/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable UUID id, @AuthenticationPrincipal SignedIn owner) {
        accounts.remove(id, owner);
    }
}
