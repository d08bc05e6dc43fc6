package yoru.server.accounts;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseCookie;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.security.web.csrf.CsrfTokenRepository;
import org.springframework.stereotype.Component;
import org.springframework.web.util.WebUtils;
import yoru.server.platform.SchoolSettings;

/** Begins and ends what a browser is signed in with. */
@Component
class Sessions {

    /** However busy somebody is: after that they sign in again (OWASP ASVS 5.0, 7.3.2). */
    private static final Duration LONGEST = Duration.ofHours(24);

    /** Before what opens everything else, somebody proves again that it is them (OWASP ASVS 5.0, 7.5.1 and 7.5.3). */
    private static final Duration PROOF_GOOD_FOR = Duration.ofMinutes(15);

    private static final Duration BROWSER_KNOWN_FOR = Duration.ofDays(180);
    private static final String PROVED_AT = "yoru.provedAt";

    private final SecurityContextRepository contexts;
    private final CsrfTokenRepository tokens;
    private final KnownBrowsers browsers;
    private final SchoolSettings settings;
    private final Clock clock;

    Sessions(
            SecurityContextRepository contexts,
            CsrfTokenRepository tokens,
            KnownBrowsers browsers,
            SchoolSettings settings,
            Clock clock) {
        this.contexts = contexts;
        this.tokens = tokens;
        this.browsers = browsers;
        this.settings = settings;
        this.clock = clock;
    }

    /** A new session and a new token against forged requests (OWASP ASVS 5.0, 7.2.4), and the browser is known from now on. */
    void begin(SignedIn operator, HttpServletRequest request, HttpServletResponse response) {
        end(request);
        confirmed(request, clock.instant());
        var context = SecurityContextHolder.createEmptyContext();
        context.setAuthentication(UsernamePasswordAuthenticationToken.authenticated(
                operator, null, List.of(new SimpleGrantedAuthority("ROLE_OPERATOR"))));
        SecurityContextHolder.setContext(context);
        contexts.saveContext(context, request, response);
        tokens.saveToken(tokens.generateToken(request), request, response);
        operator.accountId().ifPresent(account -> response.addHeader(HttpHeaders.SET_COOKIE, mark(account)));
    }

    private String mark(UUID account) {
        return ResponseCookie.from(browserCookie(), browsers.mark(account))
                .path("/")
                .httpOnly(true)
                .secure(settings.isSecure())
                .sameSite("Lax")
                .maxAge(BROWSER_KNOWN_FOR)
                .build()
                .toString();
    }

    static void end(HttpServletRequest request) {
        var session = request.getSession(false);
        if (session != null) {
            session.invalidate();
        }
        SecurityContextHolder.clearContext();
    }

    /** Whether it has lasted so long that they must sign in again. */
    static boolean isOver(HttpServletRequest request, Instant now) {
        return Optional.ofNullable(request.getSession(false))
                .map(session -> Instant.ofEpochMilli(session.getCreationTime()))
                .filter(began -> began.plus(LONGEST).isBefore(now))
                .isPresent();
    }

    static void confirmed(HttpServletRequest request, Instant now) {
        request.getSession(true).setAttribute(PROVED_AT, now);
    }

    /** Whether somebody has proved of late that it is them. */
    static boolean isConfirmed(HttpServletRequest request, Instant now) {
        return Optional.ofNullable(request.getSession(false))
                .map(session -> session.getAttribute(PROVED_AT))
                .filter(at -> at instanceof Instant proved
                        && proved.plus(PROOF_GOOD_FOR).isAfter(now))
                .isPresent();
    }

    SignIns.From from(HttpServletRequest request) {
        var cookie = WebUtils.getCookie(request, browserCookie());
        return new SignIns.From(String.valueOf(request.getRemoteAddr()), cookie == null ? null : cookie.getValue());
    }

    private String browserCookie() {
        return settings.cookie("yoru-browser");
    }
}
