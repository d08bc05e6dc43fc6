package yoru.server.accounts;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Clock;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpStatus;
import org.springframework.security.authorization.AuthorizationDecision;
import org.springframework.security.authorization.AuthorizationDeniedException;
import org.springframework.security.authorization.AuthorizationManager;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configuration.EnableWebSecurity;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.access.intercept.RequestAuthorizationContext;
import org.springframework.security.web.context.HttpSessionSecurityContextRepository;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.security.web.csrf.CookieCsrfTokenRepository;
import org.springframework.security.web.csrf.CsrfException;
import org.springframework.security.web.csrf.CsrfTokenRepository;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;
import org.springframework.session.web.http.CookieSerializer;
import org.springframework.session.web.http.DefaultCookieSerializer;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.Acting;
import yoru.server.platform.ProblemAnswer;
import yoru.server.platform.ProblemException;
import yoru.server.platform.PublicPages;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.YoruSettings;

@Configuration(proxyBeanMethods = false)
@EnableWebSecurity
class SecurityConfiguration {

    /** Everything comes from this server; inline styles are what React sets on elements. */
    private static final String CONTENT_POLICY =
            "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; "
                    + "frame-ancestors 'none'; base-uri 'none'; form-action 'self'; object-src 'none'";

    /** Reports from outside prove themselves by their signature: no session, no token, nothing else to ask. */
    @Bean
    @Order(1)
    SecurityFilterChain hooks(HttpSecurity http) throws Exception {
        return forEverybody(http.securityMatcher("/hooks/**"));
    }

    /** Whoever has a gift's code or a calendar's may use it: the code is all there is to ask for, and nobody is signed in. */
    @Bean
    @Order(2)
    SecurityFilterChain claims(HttpSecurity http) throws Exception {
        return forEverybody(http.securityMatcher(
                        PublicPages.PATHS.stream().map(path -> path + "/**").toArray(String[]::new))
                .headers(headers -> headers.contentSecurityPolicy(policy -> policy.policyDirectives(CONTENT_POLICY))
                        .referrerPolicy(referrer -> referrer.policy(ReferrerPolicy.NO_REFERRER))));
    }

    /** Without a session: what proves who asks is in the request. */
    private static SecurityFilterChain forEverybody(HttpSecurity http) throws Exception {
        return http.authorizeHttpRequests(requests -> requests.anyRequest().permitAll())
                .csrf(csrf -> csrf.disable())
                .anonymous(anonymous -> anonymous.disable())
                .sessionManagement(sessions -> sessions.disable())
                .securityContext(context -> context.disable())
                .requestCache(cache -> cache.disable())
                .logout(logout -> logout.disable())
                .build();
    }

    @Bean
    SecurityFilterChain security(
            HttpSecurity http,
            SecurityContextRepository contexts,
            CsrfTokenRepository tokens,
            Accounts accounts,
            Journal journal,
            Clock clock)
            throws Exception {
        var rules = new Rules(accounts, clock);
        return http.securityContext(context -> context.securityContextRepository(contexts))
                .authorizeHttpRequests(requests -> requests.requestMatchers(
                                "/api/session",
                                "/api/owner",
                                "/api/session/forgotten",
                                "/api/session/new-password",
                                "/api/session/passkey",
                                "/api/session/passkey/ask")
                        .permitAll()
                        .requestMatchers(HttpMethod.GET, "/api/team/**")
                        .access(rules.atLeast(Role.OWNER))
                        .requestMatchers(HttpMethod.POST, "/api/school/**")
                        .access(rules.atLeast(Role.OWNER))
                        .requestMatchers("/api/team/**")
                        .access(rules.proved(Role.OWNER))
                        .requestMatchers(HttpMethod.PUT, "/api/school")
                        .access(rules.proved(Role.OWNER))
                        .requestMatchers(HttpMethod.POST, "/api/systems/*/secret")
                        .access(rules.proved(Role.OPERATOR))
                        .requestMatchers(HttpMethod.GET, "/api/session/passkeys")
                        .access(rules.atLeast(Role.READER))
                        .requestMatchers("/api/session/second-factor", "/api/session/passkeys/**")
                        .access(rules.proved(Role.READER))
                        .requestMatchers(
                                "/api/mapping/**",
                                "/api/findings/**",
                                "/api/systems/**",
                                "/api/policies/**",
                                "/api/letters/**",
                                "/api/rehearsals/**",
                                "/v3/**")
                        .access(rules.atLeast(Role.OPERATOR))
                        .requestMatchers(
                                HttpMethod.POST,
                                "/api/followups/steps/*/skip",
                                "/api/followups/runs/*/stop",
                                "/api/followups/*/stop")
                        .access(rules.atLeast(Role.OPERATOR))
                        .requestMatchers(HttpMethod.POST, "/api/segments/look")
                        .access(rules.atLeast(Role.READER))
                        .requestMatchers("/api/imports/**")
                        .access(rules.atLeast(Role.OPERATOR))
                        .requestMatchers("/api/session/**")
                        .access(rules.atLeast(Role.READER))
                        .requestMatchers(HttpMethod.GET, "/api/**")
                        .access(rules.atLeast(Role.READER))
                        .requestMatchers("/api/**")
                        .access(rules.atLeast(Role.SUPPORT))
                        .anyRequest()
                        .permitAll())
                .csrf(csrf -> csrf.spa().csrfTokenRepository(tokens))
                .headers(headers -> headers.contentSecurityPolicy(policy -> policy.policyDirectives(CONTENT_POLICY))
                        .referrerPolicy(referrer -> referrer.policy(ReferrerPolicy.SAME_ORIGIN)))
                .exceptionHandling(failures -> failures.authenticationEntryPoint(
                                (request, response, e) -> ended(response))
                        .accessDeniedHandler((request, response, e) -> {
                            if (e instanceof CsrfException) {
                                refused(response, "The page is out of date. Load it again.");
                            } else if (!rules.isSignedIn(request)) {
                                ended(response);
                            } else if (e instanceof AuthorizationDeniedException denied
                                    && denied.getAuthorizationResult() instanceof Unproved) {
                                ProblemAnswer.write(
                                        response,
                                        new ProblemException(
                                                HttpStatus.FORBIDDEN,
                                                "Prove that it is you",
                                                "Before this, enter your password once more.",
                                                Map.of("proof", true)));
                            } else {
                                Acting.now()
                                        .ifPresent(who -> journal.gather(
                                                Kind.REFUSED,
                                                "Refused by their role",
                                                request.getMethod() + " " + request.getRequestURI(),
                                                who.address()));
                                refused(response, "Your account may not do this. An owner can change that.");
                            }
                        }))
                .requestCache(cache -> cache.disable())
                .logout(logout -> logout.disable())
                .build();
    }

    /** Not refused for good: they are to prove first that it is them. */
    private static final class Unproved extends AuthorizationDecision {

        Unproved() {
            super(false);
        }
    }

    /** Asked of the accounts at every request, so that what an owner changes counts at once. */
    private record Rules(Accounts accounts, Clock clock) {

        AuthorizationManager<RequestAuthorizationContext> atLeast(Role role) {
            return (authentication, context) ->
                    new AuthorizationDecision(isAtLeast(authentication.get(), role, context.getRequest()));
        }

        /** The same, for what opens everything else: whoever finds a browser open must not do it. */
        AuthorizationManager<RequestAuthorizationContext> proved(Role role) {
            return (authentication, context) -> {
                boolean may = isAtLeast(authentication.get(), role, context.getRequest());
                return may && !Sessions.isConfirmed(context.getRequest(), clock.instant())
                        ? new Unproved()
                        : new AuthorizationDecision(may);
            };
        }

        private boolean isAtLeast(@Nullable Authentication authentication, Role role, HttpServletRequest request) {
            return !Sessions.isOver(request, clock.instant())
                    && signedIn(authentication)
                            .filter(who -> accounts.isAtLeast(who, role))
                            .isPresent();
        }

        boolean isSignedIn(HttpServletRequest request) {
            return isAtLeast(SecurityContextHolder.getContext().getAuthentication(), Role.READER, request);
        }

        private static Optional<SignedIn> signedIn(@Nullable Authentication authentication) {
            return Optional.ofNullable(authentication)
                    .map(Authentication::getPrincipal)
                    .filter(SignedIn.class::isInstance)
                    .map(SignedIn.class::cast);
        }
    }

    /** Scripts of this server read it and send it back; nobody else's can. */
    @Bean
    CsrfTokenRepository csrfTokenRepository(SchoolSettings settings) {
        var tokens = CookieCsrfTokenRepository.withHttpOnlyFalse();
        tokens.setCookieName(settings.cookie("XSRF-TOKEN"));
        tokens.setCookieCustomizer(
                cookie -> cookie.path("/").secure(settings.isSecure()).sameSite("Lax"));
        return tokens;
    }

    @Bean
    CookieSerializer sessionCookie(SchoolSettings settings) {
        var cookie = new DefaultCookieSerializer();
        cookie.setCookieName(settings.cookie("yoru-session"));
        cookie.setCookiePath("/");
        cookie.setUseSecureCookie(settings.isSecure());
        cookie.setUseHttpOnlyCookie(true);
        cookie.setSameSite("Lax");
        return cookie;
    }

    @Bean
    SecurityContextRepository securityContextRepository() {
        return new HttpSessionSecurityContextRepository();
    }

    @Bean
    PasswordEncoder passwordEncoder(YoruSettings settings) {
        return new BCryptPasswordEncoder(settings.passwordCost());
    }

    private static void ended(HttpServletResponse response) throws IOException {
        ProblemAnswer.write(
                response,
                new ProblemException(
                        HttpStatus.UNAUTHORIZED, "Not signed in", "Your session has ended. Sign in again."));
    }

    private static void refused(HttpServletResponse response, String why) throws IOException {
        ProblemAnswer.write(response, new ProblemException(HttpStatus.FORBIDDEN, "Refused", why));
    }
}
