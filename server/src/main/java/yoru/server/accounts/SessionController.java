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
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.platform.YoruSettings;

/** Signing in and out. */
@RestController
class SessionController {

    private final Accounts accounts;
    private final SecurityContextRepository contexts;
    private final YoruSettings settings;
    private final Clock clock;

    SessionController(Accounts accounts, SecurityContextRepository contexts, YoruSettings settings, Clock clock) {
        this.accounts = accounts;
        this.contexts = contexts;
        this.settings = settings;
        this.clock = clock;
    }

    /** What the browser needs to know before anything else. */
    record Session(
            String school,
            String zone,
            Instant now,
            boolean firstRun,
            YoruSettings.@Nullable SignIn demoSignIn,
            @Nullable String name,
            @Nullable String email,
            @Nullable Role role) {}

    record Credentials(
            @NotBlank @Size(max = 320) String email,
            @NotBlank @Size(max = 200) String password) {}

    record Owner(
            @NotBlank @Email @Size(max = 320) String email,
            @NotBlank @Size(max = 100) String name,
            @NotBlank @Size(max = 200) String password) {}

    /** @param present the password until now */
    record NewPassword(
            @NotBlank @Size(max = 200) String present,
            @NotBlank @Size(max = 200) String next) {}

    @GetMapping("/api/session")
    Session session(@AuthenticationPrincipal @Nullable SignedIn operator) {
        var role = Optional.ofNullable(operator).flatMap(accounts::roleOf);
        var who = role.isPresent() ? operator : null;
        return new Session(
                settings.schoolName(),
                settings.zone().getId(),
                clock.instant(),
                accounts.isEmpty(),
                settings.demoSignIn(),
                who == null ? null : who.name(),
                who == null ? null : who.email(),
                role.orElse(null));
    }

    @PostMapping("/api/session")
    Session signIn(@Valid @RequestBody Credentials given, HttpServletRequest request, HttpServletResponse response) {
        return begin(accounts.signIn(given.email, given.password), request, response);
    }

    @PostMapping("/api/owner")
    @ResponseStatus(HttpStatus.CREATED)
    Session makeOwner(@Valid @RequestBody Owner owner, HttpServletRequest request, HttpServletResponse response) {
        return begin(accounts.makeOwner(owner.email, owner.name, owner.password), request, response);
    }

    @PutMapping("/api/session/password")
    Session changePassword(
            @AuthenticationPrincipal SignedIn operator,
            @Valid @RequestBody NewPassword password,
            HttpServletRequest request,
            HttpServletResponse response) {
        return begin(accounts.changePassword(operator, password.present, password.next), request, response);
    }

    @DeleteMapping("/api/session")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void signOut(HttpServletRequest request) {
        var session = request.getSession(false);
        if (session != null) {
            session.invalidate();
        }
        SecurityContextHolder.clearContext();
    }

    /** A new session id at sign-in (OWASP ASVS 5.0, 7.2.4). */
    private Session begin(SignedIn operator, HttpServletRequest request, HttpServletResponse response) {
        var old = request.getSession(false);
        if (old != null) {
            old.invalidate();
        }
        request.getSession(true);
        var context = SecurityContextHolder.createEmptyContext();
        context.setAuthentication(UsernamePasswordAuthenticationToken.authenticated(
                operator, null, List.of(new SimpleGrantedAuthority("ROLE_OPERATOR"))));
        SecurityContextHolder.setContext(context);
        contexts.saveContext(context, request, response);
        return session(operator);
    }
}
