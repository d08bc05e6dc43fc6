package yoru.server.platform;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.apache.coyote.CloseNowException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpHeaders;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/** The database is away before a controller is asked, for sessions and roles are in it: answered as {@link Problems} does. */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 2)
class AwayAnswers extends OncePerRequestFilter {

    private static final Logger LOG = LoggerFactory.getLogger(AwayAnswers.class);

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        try {
            chain.doFilter(request, response);
        } catch (RuntimeException | ServletException e) {
            // the latter around the former, where no handler could answer
            if (!Weather.isDatabaseAway(e)) {
                throw e;
            }
            LOG.warn("The database could not be used: {}", e.getMessage());
            if (response.isCommitted()) {
                // half an answer must not be taken for a whole one
                throw new CloseNowException("broken off", e);
            }
            response.setHeader(HttpHeaders.RETRY_AFTER, Problems.RETRY_AFTER_SECONDS);
            ProblemAnswer.write(response, Problems.away());
        }
    }
}
