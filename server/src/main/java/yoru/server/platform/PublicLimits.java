package yoru.server.platform;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import io.github.bucket4j.Bucket;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * How often one place may ask for what anybody may ask for, each server counting for itself: far more than people and
 * well-behaved systems do, and little enough that nobody keeps a server busy alone. What costs something or can be guessed
 * at has limits of its own where it is decided.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 1)
class PublicLimits extends OncePerRequestFilter {

    private static final int MOST_ORIGINS = 50_000;
    private static final Duration FORGOTTEN_AFTER = Duration.ofMinutes(10);

    /** @param most at once, and as many again within the time */
    private record Limit(String name, List<String> paths, long most, Duration within) {

        boolean isFor(String path) {
            return paths.stream().anyMatch(path::startsWith);
        }

        Bucket bucket() {
            return Bucket.builder()
                    .addLimit(limit -> limit.capacity(most).refillGreedy(most, within))
                    .build();
        }
    }

    /** The first that fits counts. */
    private static final List<Limit> LIMITS = List.of(
            new Limit("letters", List.of("/api/session/forgotten"), 30, Duration.ofMinutes(5)),
            new Limit("codes", List.of("/api/owner", "/api/session/new-password"), 300, Duration.ofMinutes(5)),
            new Limit("session", List.of("/api/session"), 600, Duration.ofMinutes(1)),
            new Limit("pages", PublicPages.PATHS, 300, Duration.ofMinutes(1)),
            new Limit("reached", List.of("/reached"), 60, Duration.ofMinutes(1)),
            // a shop's busiest minute, ten times over
            new Limit("reports", List.of("/hooks/"), 20_000, Duration.ofSeconds(10)));

    private final Cache<String, Bucket> buckets = Caffeine.newBuilder()
            .maximumSize(MOST_ORIGINS)
            .expireAfterAccess(FORGOTTEN_AFTER)
            .build();

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        var path = request.getServletPath();
        for (Limit limit : LIMITS) {
            if (limit.isFor(path)) {
                var bucket = buckets.get(limit.name + " " + Origins.place(request), _ -> limit.bucket());
                var probe = bucket.tryConsumeAndReturnRemaining(1);
                if (!probe.isConsumed()) {
                    ProblemAnswer.write(
                            response,
                            new TooManyException(
                                    "This is asked too often from where you are.",
                                    Duration.ofNanos(probe.getNanosToWaitForRefill())));
                    return;
                }
                break;
            }
        }
        chain.doFilter(request, response);
    }
}
