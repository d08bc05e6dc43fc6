package yoru.server.accounts;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpMethod;
import org.springframework.http.MediaType;
import org.springframework.security.authorization.AuthorizationDecision;
import org.springframework.security.authorization.AuthorizationManager;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configuration.EnableWebSecurity;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.access.IpAddressAuthorizationManager;
import org.springframework.security.web.access.intercept.RequestAuthorizationContext;
import org.springframework.security.web.context.HttpSessionSecurityContextRepository;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.security.web.csrf.CsrfException;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;
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
                        "/claim/**", "/seats/**", "/feeds/**", "/letters/**", "/door/**", "/thanks/**", "/mine/**")
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
    SecurityFilterChain security(HttpSecurity http, SecurityContextRepository contexts, Accounts accounts)
            throws Exception {
        return http.securityContext(context -> context.securityContextRepository(contexts))
                .authorizeHttpRequests(requests -> requests.requestMatchers("/api/session", "/api/owner")
                        .permitAll()
                        .requestMatchers("/actuator/prometheus", "/actuator/quiet")
                        .access(IpAddressAuthorizationManager.hasIpAddress("127.0.0.1"))
                        .requestMatchers("/api/team/**")
                        .access(atLeast(Role.OWNER, accounts))
                        .requestMatchers(
                                "/api/mapping/**",
                                "/api/findings/**",
                                "/api/systems/**",
                                "/api/policies/**",
                                "/api/letters/**",
                                "/api/rehearsals/**",
                                "/v3/**")
                        .access(atLeast(Role.OPERATOR, accounts))
                        .requestMatchers(
                                HttpMethod.POST,
                                "/api/followups/steps/*/skip",
                                "/api/followups/runs/*/stop",
                                "/api/followups/*/stop")
                        .access(atLeast(Role.OPERATOR, accounts))
                        .requestMatchers(HttpMethod.POST, "/api/segments/look")
                        .access(atLeast(Role.READER, accounts))
                        .requestMatchers("/api/imports/**")
                        .access(atLeast(Role.OPERATOR, accounts))
                        .requestMatchers("/api/session/password")
                        .access(atLeast(Role.READER, accounts))
                        .requestMatchers(HttpMethod.GET, "/api/**")
                        .access(atLeast(Role.READER, accounts))
                        .requestMatchers("/api/**")
                        .access(atLeast(Role.SUPPORT, accounts))
                        .anyRequest()
                        .permitAll())
                .csrf(csrf -> csrf.spa())
                .headers(headers -> headers.contentSecurityPolicy(policy -> policy.policyDirectives(CONTENT_POLICY))
                        .referrerPolicy(referrer -> referrer.policy(ReferrerPolicy.SAME_ORIGIN)))
                .exceptionHandling(failures -> failures.authenticationEntryPoint(
                                (request, response, e) -> ended(response))
                        .accessDeniedHandler((request, response, e) -> {
                            if (e instanceof CsrfException) {
                                refused(response, "The page is out of date. Load it again.");
                            } else if (signedIn(
                                            SecurityContextHolder.getContext().getAuthentication())
                                    .flatMap(accounts::roleOf)
                                    .isEmpty()) {
                                ended(response);
                            } else {
                                refused(response, "Your account may not do this. An owner can change that.");
                            }
                        }))
                .requestCache(cache -> cache.disable())
                .logout(logout -> logout.disable())
                .build();
    }

    /** Asked of the accounts at every request, so that what an owner changes counts at once. */
    private static AuthorizationManager<RequestAuthorizationContext> atLeast(Role role, Accounts accounts) {
        return (authentication, request) -> new AuthorizationDecision(signedIn(authentication.get())
                .filter(who -> accounts.isAtLeast(who, role))
                .isPresent());
    }

    private static Optional<SignedIn> signedIn(@Nullable Authentication authentication) {
        return Optional.ofNullable(authentication)
                .map(Authentication::getPrincipal)
                .filter(SignedIn.class::isInstance)
                .map(SignedIn.class::cast);
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
        problem(response, 401, "Not signed in", "Your session has ended. Sign in again.");
    }

    private static void refused(HttpServletResponse response, String why) throws IOException {
        problem(response, 403, "Refused", why);
    }

    private static void problem(HttpServletResponse response, int status, String title, String detail)
            throws IOException {
        response.setStatus(status);
        response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
        response.getWriter()
                .write("{\"type\":\"about:blank\",\"title\":\"%s\",\"status\":%d,\"detail\":\"%s\"}"
                        .formatted(title, status, detail));
    }
}
