package yoru.server.accounts;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Email;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.YoruSettings;

/** Signing in and out, and what somebody signs in with. */
@RestController
class SessionController {

    private final Accounts accounts;
    private final SignIns signIns;
    private final FirstVisit firstVisit;
    private final OwnPassword ownPassword;
    private final SecondFactors factors;
    private final Passkeys passkeys;
    private final Sessions sessions;
    private final YoruSettings settings;
    private final SchoolSettings school;
    private final Clock clock;

    SessionController(
            Accounts accounts,
            SignIns signIns,
            FirstVisit firstVisit,
            OwnPassword ownPassword,
            SecondFactors factors,
            Passkeys passkeys,
            Sessions sessions,
            YoruSettings settings,
            SchoolSettings school,
            Clock clock) {
        this.school = school;
        this.accounts = accounts;
        this.signIns = signIns;
        this.firstVisit = firstVisit;
        this.ownPassword = ownPassword;
        this.factors = factors;
        this.passkeys = passkeys;
        this.sessions = sessions;
        this.settings = settings;
        this.clock = clock;
    }

    /**
     * What the browser needs to know before anything else.
     *
     * @param address under which people and systems outside reach this server
     * @param secondFactor whether whoever is signed in proves themselves by more than a password
     * @param passkeyHost where passkeys are good; none where browsers make none for the school's address
     */
    record Session(
            String school,
            String address,
            String zone,
            Instant now,
            YoruSettings.@Nullable SignIn demoSignIn,
            @Nullable String name,
            @Nullable String email,
            @Nullable Role role,
            boolean secondFactor,
            @Nullable String passkeyHost) {}

    /** @param code of the second factor, or one of those that were written down */
    record Credentials(
            @NotBlank @Size(max = 320) String email,
            @NotBlank @Size(max = 200) String password,
            @Nullable @Size(max = 40) String code) {}

    /** @param code which the start has printed */
    record Owner(
            @NotBlank @Size(max = 100) String code,
            @NotBlank @Email @Size(max = 320) String email,
            @NotBlank @Size(max = 100) String name,
            @NotBlank @Size(max = 200) String password) {}

    /** @param present the password until now */
    record NewPassword(
            @NotBlank @Size(max = 200) String present,
            @NotBlank @Size(max = 200) String next) {}

    /** That it is still them. */
    record Proof(
            @NotBlank @Size(max = 200) String password,
            @Nullable @Size(max = 40) String code) {}

    record FactorCode(@NotBlank @Size(max = 40) String code) {}

    /** @param codes to be written down, shown this once */
    record FactorConfirmed(List<String> codes) {}

    @GetMapping("/api/session")
    Session session(@AuthenticationPrincipal @Nullable SignedIn operator, HttpServletRequest request) {
        return session(Sessions.isOver(request, clock.instant()) ? null : operator);
    }

    private Session session(@Nullable SignedIn operator) {
        var role = Optional.ofNullable(operator).flatMap(accounts::roleOf);
        var who = role.isPresent() ? operator : null;
        return new Session(
                school.name(),
                school.publicAddress(),
                school.zone().getId(),
                clock.instant(),
                settings.demoSignIn(),
                who == null ? null : who.name(),
                who == null ? null : who.email(),
                role.orElse(null),
                who != null
                        && accounts.member(who.email())
                                .filter(Accounts.Member::secondFactor)
                                .isPresent(),
                passkeys.host().orElse(null));
    }

    @PostMapping("/api/session")
    Session signIn(@Valid @RequestBody Credentials given, HttpServletRequest request, HttpServletResponse response) {
        return begin(
                signIns.signIn(given.email, given.password, given.code, sessions.from(request)), request, response);
    }

    @PostMapping("/api/owner")
    @ResponseStatus(HttpStatus.CREATED)
    Session makeOwner(@Valid @RequestBody Owner owner, HttpServletRequest request, HttpServletResponse response) {
        return begin(firstVisit.makeOwner(owner.code, owner.email, owner.name, owner.password), request, response);
    }

    @PutMapping("/api/session/password")
    Session changePassword(
            @AuthenticationPrincipal SignedIn operator,
            @Valid @RequestBody NewPassword password,
            HttpServletRequest request,
            HttpServletResponse response) {
        return begin(
                ownPassword.change(operator, password.present, password.next, sessions.from(request)),
                request,
                response);
    }

    /** Proves that it is still them, before what only they may do. */
    @PostMapping("/api/session/proof")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void confirm(
            @AuthenticationPrincipal SignedIn operator, @Valid @RequestBody Proof proof, HttpServletRequest request) {
        signIns.confirm(operator, proof.password, proof.code, sessions.from(request));
        Sessions.confirmed(request, clock.instant());
    }

    /** Begins a second factor. */
    @PostMapping("/api/session/second-factor")
    SecondFactors.Begun beginFactor(@AuthenticationPrincipal SignedIn operator) {
        return factors.begin(operator);
    }

    /** Has it count, with the first code made with it. */
    @PutMapping("/api/session/second-factor")
    FactorConfirmed confirmFactor(@AuthenticationPrincipal SignedIn operator, @Valid @RequestBody FactorCode given) {
        return new FactorConfirmed(factors.confirm(operator, given.code));
    }

    @DeleteMapping("/api/session/second-factor")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void removeFactor(@AuthenticationPrincipal SignedIn operator) {
        accounts.member(operator.email()).ifPresent(member -> factors.remove(member.id(), operator));
    }

    @DeleteMapping("/api/session")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void signOut(HttpServletRequest request) {
        Sessions.end(request);
    }

    private Session begin(SignedIn operator, HttpServletRequest request, HttpServletResponse response) {
        sessions.begin(operator, request, response);
        return session(operator);
    }
}
