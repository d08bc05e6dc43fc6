package yoru.server.platform;

import io.swagger.v3.oas.annotations.Hidden;
import jakarta.servlet.RequestDispatcher;
import jakarta.servlet.http.HttpServletRequest;
import org.springframework.boot.webmvc.error.ErrorController;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.security.web.firewall.RequestRejectedHandler;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What goes wrong before a controller is asked, or outside of one: problems too (RFC 9457). */
@RestController
@Hidden
class OtherErrors implements ErrorController {

    @RequestMapping("/error")
    ResponseEntity<ProblemDetail> error(HttpServletRequest request) {
        var status = request.getAttribute(RequestDispatcher.ERROR_STATUS_CODE) instanceof Integer code
                        && HttpStatus.resolve(code) != null
                ? HttpStatus.valueOf(code)
                : HttpStatus.NOT_FOUND;
        var said = status.is5xxServerError()
                ? Problems.ownFault(status, status.getReasonPhrase())
                : new ProblemException(status, status.getReasonPhrase(), "Nothing was done.");
        return ResponseEntity.status(status)
                .contentType(MediaType.APPLICATION_PROBLEM_JSON)
                .body(said.problem());
    }

    @Configuration(proxyBeanMethods = false)
    static class Firewall {

        /** Addresses that no page of Yoru's writes: with NUL, with a path that climbs, with two slashes. */
        @Bean
        RequestRejectedHandler rejected() {
            return (request, response, e) -> ProblemAnswer.write(
                    response,
                    new ProblemException(
                            HttpStatus.BAD_REQUEST,
                            "This address cannot be asked",
                            "It has characters that stand in no address here. Nothing was done."));
        }
    }
}
