package yoru.server.platform;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import tools.jackson.databind.json.JsonMapper;

/** Answers with a problem (RFC 9457) where no controller does: in filters. */
public final class ProblemAnswer {

    private ProblemAnswer() {}

    public static void write(HttpServletResponse response, ProblemException refusal) throws IOException {
        var problem = refusal.problem();
        Map<String, Object> body = new LinkedHashMap<>();
        body.put("type", "about:blank");
        body.put("title", problem.getTitle());
        body.put("status", problem.getStatus());
        body.put("detail", problem.getDetail());
        if (problem.getProperties() != null) {
            body.putAll(problem.getProperties());
        }
        if (refusal instanceof TooManyException tooMany) {
            response.setHeader(HttpHeaders.RETRY_AFTER, tooMany.retryAfter());
        }
        response.resetBuffer();
        response.setStatus(problem.getStatus());
        response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
        response.setCharacterEncoding(StandardCharsets.UTF_8);
        var written = JsonMapper.shared().writeValueAsBytes(body);
        response.setContentLength(written.length);
        // as all else here answers: whoever has begun an answer with it can have no writer
        response.getOutputStream().write(written);
    }
}
