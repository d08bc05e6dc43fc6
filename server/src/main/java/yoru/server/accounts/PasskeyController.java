package yoru.server.accounts;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.Serializable;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.security.web.webauthn.api.PublicKeyCredentialCreationOptions;
import org.springframework.security.web.webauthn.api.PublicKeyCredentialRequestOptions;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import yoru.server.platform.ProblemException;

/** Passkeys: making them, and signing in with them. What a device was asked is kept in the session until it answers. */
@RestController
class PasskeyController {

    private static final String OFFERED = "yoru.passkeyOffered";
    private static final String ASKED = "yoru.passkeyAsked";

    private static final Duration ANSWERED_WITHIN = Duration.ofMinutes(6);

    /** What a device was asked, and when. */
    private record Question(Serializable options, Instant at) implements Serializable {}

    private final Passkeys passkeys;
    private final SignIns signIns;
    private final Sessions sessions;
    private final Clock clock;

    PasskeyController(Passkeys passkeys, SignIns signIns, Sessions sessions, Clock clock) {
        this.passkeys = passkeys;
        this.signIns = signIns;
        this.sessions = sessions;
        this.clock = clock;
    }

    /**
     * What a device has made.
     *
     * @param name as the operator calls the device
     * @param credential as the browser writes it (W3C Web Authentication, RegistrationResponseJSON)
     */
    record MadePasskey(
            @NotBlank @Size(max = 100) String name, @NotNull JsonNode credential) {}

    /** @param credential as the browser writes it (W3C Web Authentication, AuthenticationResponseJSON) */
    record ShownPasskey(@NotNull JsonNode credential) {}

    @GetMapping("/api/session/passkeys")
    List<Passkeys.KeptPasskey> passkeys(@AuthenticationPrincipal SignedIn operator) {
        return passkeys.of(operator);
    }

    /** Begins a new one: what the device is asked (PublicKeyCredentialCreationOptionsJSON). */
    @PostMapping("/api/session/passkeys/offer")
    JsonNode offer(@AuthenticationPrincipal SignedIn operator, HttpServletRequest request) {
        var offered = passkeys.offer(operator);
        request.getSession(true).setAttribute(OFFERED, new Question(offered, clock.instant()));
        return passkeys.written(offered);
    }

    @PostMapping("/api/session/passkeys")
    @ResponseStatus(HttpStatus.CREATED)
    void add(
            @AuthenticationPrincipal SignedIn operator,
            @Valid @RequestBody MadePasskey made,
            HttpServletRequest request) {
        passkeys.add(
                operator,
                made.name,
                asked(request, OFFERED, PublicKeyCredentialCreationOptions.class),
                made.credential);
    }

    @DeleteMapping("/api/session/passkeys/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable UUID id, @AuthenticationPrincipal SignedIn operator) {
        passkeys.remove(id, operator);
    }

    /** What any device is asked that may have one (PublicKeyCredentialRequestOptionsJSON). */
    @PostMapping("/api/session/passkey/ask")
    JsonNode ask(HttpServletRequest request) {
        var asked = passkeys.ask();
        var session = request.getSession(false);
        if (session == null) {
            session = request.getSession(true);
            session.setMaxInactiveInterval((int) ANSWERED_WITHIN.toSeconds());
        }
        session.setAttribute(ASKED, new Question(asked, clock.instant()));
        return passkeys.written(asked);
    }

    @PostMapping("/api/session/passkey")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void signIn(@Valid @RequestBody ShownPasskey shown, HttpServletRequest request, HttpServletResponse response) {
        var asked = asked(request, ASKED, PublicKeyCredentialRequestOptions.class);
        sessions.begin(signIns.signIn(asked, shown.credential, sessions.from(request)), request, response);
    }

    /** Proves that it is still them, before what only they may do. */
    @PostMapping("/api/session/proof/passkey")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void confirm(
            @AuthenticationPrincipal SignedIn operator,
            @Valid @RequestBody ShownPasskey shown,
            HttpServletRequest request) {
        var asked = asked(request, ASKED, PublicKeyCredentialRequestOptions.class);
        signIns.confirm(operator, asked, shown.credential, sessions.from(request));
        Sessions.confirmed(request, clock.instant());
    }

    /** What the device was asked; it may answer once, and soon. */
    private <T> T asked(HttpServletRequest request, String name, Class<T> type) {
        var session = request.getSession(false);
        if (session != null && session.getAttribute(name) instanceof Question question) {
            session.removeAttribute(name);
            if (type.isInstance(question.options)
                    && question.at.plus(ANSWERED_WITHIN).isAfter(clock.instant())) {
                return type.cast(question.options);
            }
        }
        throw new ProblemException(
                HttpStatus.CONFLICT, "Nothing was asked", "The device was asked too long ago. Begin again.");
    }
}
