package yoru.server.platform;

import com.github.kagkarlsson.scheduler.event.ExecutionChain;
import com.github.kagkarlsson.scheduler.event.ExecutionInterceptor;
import com.github.kagkarlsson.scheduler.task.CompletionHandler;
import com.github.kagkarlsson.scheduler.task.ExecutionContext;
import com.github.kagkarlsson.scheduler.task.TaskInstance;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.HexFormat;
import java.util.concurrent.ThreadLocalRandom;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.slf4j.MDC;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Each request has an id, each piece of work its name: the log says with every line what it belongs to, the answer says it
 * in {@code X-Request-ID}, and whoever is shown that something went wrong can say which it was.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class RequestIds extends OncePerRequestFilter {

    private static final String HEADER = "X-Request-ID";
    private static final String REQUEST = "request";
    private static final String WORK = "work";

    /** What a proxy may have given it already; nothing that could pretend to be another line of the log. */
    private static final Pattern ALREADY = Pattern.compile("[\\w.-]{8,64}");

    /** Of the request at hand; none outside of one. */
    static @Nullable String current() {
        return MDC.get(REQUEST);
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        var id = request.getAttribute(HEADER) instanceof String known ? known : idOf(request.getHeader(HEADER));
        request.setAttribute(HEADER, id);
        response.setHeader(HEADER, id);
        try (var _ = MDC.putCloseable(REQUEST, id)) {
            chain.doFilter(request, response);
        }
    }

    private static String idOf(@Nullable String given) {
        return given != null && ALREADY.matcher(given).matches()
                ? given
                : HexFormat.of().toHexDigits(ThreadLocalRandom.current().nextLong());
    }

    /** What the web server answers by itself, after a failure, is the same request. */
    @Override
    protected boolean shouldNotFilterErrorDispatch() {
        return false;
    }

    /** The queue itself says in a line that work has failed; with a trace here where it is not weather. */
    @Component
    static class OfWork implements ExecutionInterceptor {

        private static final Logger LOG = LoggerFactory.getLogger(OfWork.class);

        @Override
        public CompletionHandler<?> execute(TaskInstance<?> work, ExecutionContext context, ExecutionChain chain) {
            try (var _ = MDC.putCloseable(WORK, work.getTaskAndInstance())) {
                return proceed(work, context, chain);
            }
        }

        private static CompletionHandler<?> proceed(
                TaskInstance<?> work, ExecutionContext context, ExecutionChain chain) {
            try {
                return chain.proceed(work, context);
            } catch (RuntimeException e) {
                if (!Weather.isBehind(e)) {
                    LOG.error("Work failed", e);
                }
                throw e;
            }
        }
    }
}
