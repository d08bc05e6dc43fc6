package yoru.server.platform;

import java.util.List;
import java.util.Map;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;

/** Becomes the answer to a request that could not be served, as an RFC 9457 problem. Its kinds say more of the answer. */
public class ProblemException extends RuntimeException {

    private static final long serialVersionUID = 1;

    private final transient ProblemDetail problem;

    public ProblemException(HttpStatus status, String title, String detail) {
        this(status, title, detail, Map.of());
    }

    /** @param more members of the problem beside the standard ones */
    public ProblemException(HttpStatus status, String title, String detail, Map<String, ?> more) {
        super(title + ": " + detail);
        problem = ProblemDetail.forStatusAndDetail(status, detail);
        problem.setTitle(title);
        more.forEach(problem::setProperty);
    }

    public static ProblemException notFound(String what) {
        return new ProblemException(HttpStatus.NOT_FOUND, "Not found", what);
    }

    /** Something that was typed cannot be used. */
    public static ProblemException inField(String title, String field, String problem) {
        return new ProblemException(
                HttpStatus.BAD_REQUEST,
                title,
                "What stands in one field cannot be used. Nothing was done.",
                Map.of("errors", List.of(Map.of("field", field, "problem", problem))));
    }

    public ProblemDetail problem() {
        return problem;
    }
}
