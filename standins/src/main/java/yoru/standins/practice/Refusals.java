package yoru.standins.practice;

import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.server.ResponseStatusException;

/** What programs are refused they are told as RFC 9457 problems; people get a page. */
@RestControllerAdvice(annotations = RestController.class)
class Refusals {

    @ExceptionHandler(ResponseStatusException.class)
    ResponseEntity<ProblemDetail> refused(ResponseStatusException e) {
        return ResponseEntity.status(e.getStatusCode()).body(e.getBody());
    }
}
