package yoru.server.platform;

import java.util.List;
import java.util.Map;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;

/** Turns what went wrong into RFC 9457 problems. */
@RestControllerAdvice
class Problems extends ResponseEntityExceptionHandler {

    private static final Logger LOG = LoggerFactory.getLogger(Problems.class);

    @ExceptionHandler
    ResponseEntity<ProblemDetail> on(ProblemException e) {
        return answer(e.problem());
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> on(UnreadableException e) {
        return answer(unreadable(e).problem());
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> on(RuntimeException e) {
        LOG.error("A request failed", e);
        return answer(new ProblemException(
                        HttpStatus.INTERNAL_SERVER_ERROR,
                        "Something went wrong here",
                        "Nothing was changed. The server's log says more.")
                .problem());
    }

    private static ProblemException unreadable(UnreadableException e) {
        List<Fault> faults = e.faults();
        var errors = faults.stream()
                .map(fault -> Map.of("field", fault.field(), "problem", fault.problem()))
                .toList();
        return new ProblemException(
                HttpStatus.BAD_REQUEST,
                "This cannot be read",
                String.valueOf(e.getMessage()),
                Map.of("errors", errors));
    }

    private static ResponseEntity<ProblemDetail> answer(ProblemDetail problem) {
        return ResponseEntity.status(problem.getStatus()).body(problem);
    }
}
