package yoru.standins.practice;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/** Has what programs ask answered as the system behaves; pages for people are always well. */
@Component
class MannersFilter extends OncePerRequestFilter {

    private final Manners manners;

    MannersFilter(Manners manners) {
        this.manners = manners;
    }

    @Override
    protected boolean shouldNotFilter(HttpServletRequest request) {
        return Stream.of("/api/", "/catalogue", "/scim/").noneMatch(request.getRequestURI()::startsWith)
                || request.getRequestURI().equals("/api/openapi.yaml");
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        var now = manners.now();
        manners.dawdle();
        if (now.down()) {
            breakOff(response);
            return;
        }
        if (now.busy()) {
            response.setHeader("Retry-After", "2");
            answer(response, 429, "not so fast, please");
        } else if (manners.fails()) {
            answer(response, 500, "bees in the server");
        } else {
            chain.doFilter(request, response);
        }
    }

    /** Promises more than it sends, and hangs up: from within an application one cannot hang up before. */
    private static void breakOff(HttpServletResponse response) throws IOException {
        response.setHeader("Connection", "close");
        response.setContentLength(1000);
        response.flushBuffer();
    }

    private static void answer(HttpServletResponse response, int status, String detail) throws IOException {
        response.setStatus(status);
        response.setContentType("application/problem+json");
        response.getWriter().write("{\"status\": %d, \"detail\": \"%s\"}".formatted(status, detail));
    }
}
