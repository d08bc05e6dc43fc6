package yoru.server.invitations;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Email;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.accounts.PasswordCodes;
import yoru.server.accounts.Role;
import yoru.server.accounts.SignedIn;

/** Invitations, and what they lead to. */
@RestController
class InvitationController {

    private final Invitations invitations;
    private final PasswordCodes codes;

    InvitationController(Invitations invitations, PasswordCodes codes) {
        this.invitations = invitations;
        this.codes = codes;
    }

    record NewMember(
            @NotBlank @Email @Size(max = 320) String email,
            @NotBlank @Size(max = 100) String name,
            @NotNull Role role) {}

    record Forgotten(@NotBlank @Email @Size(max = 320) String email) {}

    /** @param code from the letter */
    record ChosenPassword(
            @NotBlank @Size(max = 100) String code,
            @NotBlank @Size(max = 200) String password) {}

    @PostMapping("/api/team")
    @ResponseStatus(HttpStatus.CREATED)
    Invitations.Invited invite(@Valid @RequestBody NewMember member, @AuthenticationPrincipal SignedIn owner) {
        return invitations.invite(member.email, member.name, member.role, owner);
    }

    @PostMapping("/api/team/{id}/invitation")
    Invitations.Invited again(@PathVariable UUID id) {
        return invitations.again(id);
    }

    /** Has a letter written, where somebody has the address; the answer is the same where nobody has it. */
    @PostMapping("/api/session/forgotten")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void forgotten(@Valid @RequestBody Forgotten forgotten) {
        invitations.forgotten(forgotten.email);
    }

    /** Sets the password that somebody chose; they sign in with it then. */
    @PostMapping("/api/session/new-password")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void choose(@Valid @RequestBody ChosenPassword chosen) {
        codes.set(chosen.code, chosen.password);
    }
}
