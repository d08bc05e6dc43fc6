package yoru.standins.classroom;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Profile;
import org.springframework.core.io.ClassPathResource;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;
import yoru.standins.Standins;

/** The enrolment API, described in {@code enrolment-api.yaml}: states what should be so, not steps. */
@RestController
@Profile("classroom")
class EnrolmentApi {

    private final Register register;
    private final ClassroomSettings settings;
    private final JsonMapper json;

    EnrolmentApi(Register register, ClassroomSettings settings, JsonMapper json) {
        this.register = register;
        this.settings = settings;
        this.json = json;
    }

    record Stated(
            @Nullable String name,
            @Nullable String state,
            @Nullable Instant until,
            int revision) {}

    record Listing(List<Course> courses) {}

    @GetMapping("/catalogue")
    Listing catalogue(@RequestHeader(name = "Authorization", defaultValue = "") String authorization) {
        Standins.letIn(authorization, settings.token());
        return new Listing(register.courses());
    }

    @PutMapping("/api/enrolments/{course}/{learner}")
    ResponseEntity<String> state(
            @PathVariable String course,
            @PathVariable String learner,
            @RequestBody Stated stated,
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization,
            @RequestHeader(name = "Idempotency-Key", defaultValue = "") String key) {
        Standins.letIn(authorization, settings.token());
        var asked = "PUT %s / %s: %s, revision %d".formatted(course, learner, stated.state, stated.revision);
        var before = key.isEmpty() ? Optional.<String>empty() : register.answered(key);
        if (before.isPresent()) {
            register.log(asked + " (again)", key, 200, before.get());
            return answer(HttpStatus.OK, before.get());
        }
        var fault = fault(course, stated, key);
        if (fault != null) {
            var said = json.writeValueAsString(fault);
            register.log(asked, key, fault.getStatus(), said);
            return ResponseEntity.status(fault.getStatus())
                    .contentType(MediaType.APPLICATION_PROBLEM_JSON)
                    .body(said);
        }
        var now = register.state(new Register.Wanted(
                course,
                learner.toLowerCase(Locale.ROOT),
                stated.name == null ? learner : stated.name,
                Objects.requireNonNull(stated.state),
                stated.until,
                stated.revision));
        var said = json.writeValueAsString(now);
        register.log(asked, key, 200, said);
        return answer(HttpStatus.OK, said);
    }

    @GetMapping("/api/enrolments/{course}/{learner}")
    ResponseEntity<Enrolment> read(
            @PathVariable String course,
            @PathVariable String learner,
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization) {
        Standins.letIn(authorization, settings.token());
        return ResponseEntity.of(register.enrolment(course, learner.toLowerCase(Locale.ROOT)));
    }

    @GetMapping(path = "/api/openapi.yaml", produces = "application/yaml")
    String description() throws IOException {
        return new ClassPathResource("enrolment-api.yaml").getContentAsString(StandardCharsets.UTF_8);
    }

    private @Nullable ProblemDetail fault(String course, Stated stated, String key) {
        if (key.isEmpty()) {
            return problem(HttpStatus.BAD_REQUEST, "Idempotency-Key is missing");
        }
        if (!"open".equals(stated.state) && !"closed".equals(stated.state)) {
            return problem(HttpStatus.BAD_REQUEST, "state must be open or closed");
        }
        return register.course(course).isEmpty() ? problem(HttpStatus.NOT_FOUND, "there is no course " + course) : null;
    }

    private static ProblemDetail problem(HttpStatus status, String detail) {
        return ProblemDetail.forStatusAndDetail(status, detail);
    }

    private static ResponseEntity<String> answer(HttpStatus status, String body) {
        return ResponseEntity.status(status)
                .contentType(MediaType.APPLICATION_JSON)
                .body(body);
    }
}
