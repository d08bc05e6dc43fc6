package yoru.server.platform;

import java.util.List;
import java.util.Map;
import java.util.Set;
import org.apache.tomcat.util.http.InvalidParameterException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpHeaders;
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

    static final String RETRY_AFTER_SECONDS = "15";

    /** SQLSTATE class: data that the database has no form for, such as NUL in a text. */
    private static final Set<String> UNKEEPABLE = Set.of("22");

    private static final Logger LOG = LoggerFactory.getLogger(Problems.class);

    @ExceptionHandler
    ResponseEntity<ProblemDetail> on(ProblemException e) {
        return answer(e.problem());
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> on(TooManyException e) {
        return ResponseEntity.status(HttpStatus.TOO_MANY_REQUESTS)
                .header(HttpHeaders.RETRY_AFTER, e.retryAfter())
                .body(e.problem());
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> on(UnreadableException e) {
        return answer(unreadable(e).problem());
    }

    /** A form that cannot be read, or is too long, as the web server itself says. */
    @ExceptionHandler
    ResponseEntity<ProblemDetail> on(InvalidParameterException e) {
        return answer(BodyLimits.formRefused(e).problem());
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> on(RuntimeException e) {
        if (Weather.isDatabaseAway(e)) {
            LOG.warn("The database could not be used: {}", e.getMessage());
            return ResponseEntity.status(HttpStatus.SERVICE_UNAVAILABLE)
                    .header(HttpHeaders.RETRY_AFTER, RETRY_AFTER_SECONDS)
                    .body(away().problem());
        }
        if (Weather.saidByTheDatabase(UNKEEPABLE, e)) {
            LOG.warn("Something could not be kept: {}", e.getClass().getSimpleName());
            return answer(new ProblemException(
                            HttpStatus.BAD_REQUEST,
                            "This cannot be kept",
                            "It has a character that is none, or a number beyond all sense. Nothing was done.")
                    .problem());
        }
        LOG.error("A request failed", e);
        return answer(ownFault(HttpStatus.INTERNAL_SERVER_ERROR, "Something went wrong here")
                .problem());
    }

    /** What is not the asker's fault: with what the server's log calls it. */
    static ProblemException ownFault(HttpStatus status, String title) {
        return new ProblemException(
                status,
                title,
                "Look whether it was done before you do it again. The server's log says more, under %s."
                        .formatted(RequestIds.current()));
    }

    static ProblemException away() {
        return new ProblemException(
                HttpStatus.SERVICE_UNAVAILABLE,
                "The database cannot be reached",
                "Send the same again a little later: what was kept after all is not kept twice.");
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
