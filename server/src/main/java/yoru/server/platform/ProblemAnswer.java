package yoru.server.platform;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import tools.jackson.databind.json.JsonMapper;

/** Answers with a problem (RFC 9457) where no controller does: in filters. */
public final class ProblemAnswer {

    private ProblemAnswer() {}

    public static void write(HttpServletResponse response, HttpStatus status, String title, String detail)
            throws IOException {
        write(response, status, title, detail, Map.of());
    }

    /** @param more members of the problem beside the standard ones */
    public static void write(
            HttpServletResponse response, HttpStatus status, String title, String detail, Map<String, ?> more)
            throws IOException {
        Map<String, Object> problem = new LinkedHashMap<>(
                Map.of("type", "about:blank", "title", title, "status", status.value(), "detail", detail));
        problem.putAll(more);
        response.setStatus(status.value());
        response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
        response.setCharacterEncoding(StandardCharsets.UTF_8);
        response.getWriter().write(JsonMapper.shared().writeValueAsString(problem));
    }
}
