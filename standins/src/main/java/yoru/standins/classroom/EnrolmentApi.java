package yoru.standins.classroom;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
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
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.support.ServletUriComponentsBuilder;
import tools.jackson.databind.json.JsonMapper;
import yoru.standins.Standins;
import yoru.standins.practice.Manners;

/** The enrolment API, described in {@code enrolment-api.yaml}: states what should be so, not steps. */
@RestController
@Profile("classroom")
class EnrolmentApi {

    private final Register register;
    private final ClassroomSettings settings;
    private final Manners manners;
    private final JsonMapper json;

    EnrolmentApi(Register register, ClassroomSettings settings, Manners manners, JsonMapper json) {
        this.register = register;
        this.settings = settings;
        this.manners = manners;
        this.json = json;
    }

    record Stated(
            @Nullable String name,
            @Nullable String state,
            @Nullable Instant until,
            @Nullable Boolean renews,
            int revision) {}

    /** @param page where a learner goes to it */
    record Listed(@JsonUnwrapped Course course, String page) {}

    record Listing(List<Listed> courses, List<Register.Named> downloads) {}

    record Enrolments(
            List<Map<String, Object>> enrolments, @Nullable String next) {}

    @GetMapping("/catalogue")
    Listing catalogue(@RequestHeader(name = "Authorization", defaultValue = "") String authorization) {
        Standins.letIn(authorization, settings.token());
        var here = ServletUriComponentsBuilder.fromCurrentContextPath().build().toUriString();
        return new Listing(
                register.courses().stream()
                        .map(course -> new Listed(course, here + "/courses/" + course.id()))
                        .toList(),
                register.downloads());
    }

    @PutMapping("/api/enrolments/{course}/{learner}")
    ResponseEntity<String> state(
            @PathVariable String course,
            @PathVariable String learner,
            @RequestBody Stated stated,
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization,
            @RequestHeader(name = "Idempotency-Key", defaultValue = "") String key) {
        return state("course/" + course, course, learner, stated, authorization, key, register::state);
    }

    @PutMapping("/api/enrolments/{course}/{learner}/sections/{section}")
    ResponseEntity<String> stateSection(
            @PathVariable String course,
            @PathVariable String learner,
            @PathVariable String section,
            @RequestBody Stated stated,
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization,
            @RequestHeader(name = "Idempotency-Key", defaultValue = "") String key) {
        var thing = "section/" + course + "/" + section;
        return state(thing, course, learner, stated, authorization, key, wanted -> register.hold(thing, wanted));
    }

    @PutMapping("/api/downloads/{download}/{learner}")
    ResponseEntity<String> stateDownload(
            @PathVariable String download,
            @PathVariable String learner,
            @RequestBody Stated stated,
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization,
            @RequestHeader(name = "Idempotency-Key", defaultValue = "") String key) {
        var thing = "download/" + download;
        return state(thing, download, learner, stated, authorization, key, wanted -> register.hold(thing, wanted));
    }

    private ResponseEntity<String> state(
            String thing,
            String id,
            String learner,
            Stated stated,
            String authorization,
            String key,
            Function<Register.Wanted, Object> act) {
        Standins.letIn(authorization, settings.token());
        var asked = "PUT %s / %s: %s, revision %d".formatted(thing, learner, stated.state, stated.revision);
        var before = key.isEmpty() ? Optional.<String>empty() : register.answered(key);
        if (before.isPresent()) {
            register.log(asked + " (again)", key, 200, before.get());
            return answer(HttpStatus.OK, before.get());
        }
        var fault = fault(thing, id, stated, key);
        if (fault != null) {
            var said = json.writeValueAsString(fault);
            register.log(asked, key, fault.getStatus(), said);
            return ResponseEntity.status(fault.getStatus())
                    .contentType(MediaType.APPLICATION_PROBLEM_JSON)
                    .body(said);
        }
        if (manners.now().forgetful()) {
            return answer(HttpStatus.OK, json.writeValueAsString(stated));
        }
        var now = act.apply(new Register.Wanted(
                id,
                learner.toLowerCase(Locale.ROOT),
                stated.name == null ? learner : stated.name,
                Objects.requireNonNull(stated.state),
                stated.until,
                Boolean.TRUE.equals(stated.renews),
                stated.revision));
        var said = json.writeValueAsString(now);
        register.log(asked, key, 200, said);
        return answer(HttpStatus.OK, said);
    }

    /** Who has what; {@code after} is the {@code next} of the page before. */
    @GetMapping("/api/enrolments")
    Enrolments listing(
            @RequestParam(defaultValue = "") String after,
            @RequestParam(defaultValue = "100") int limit,
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization) {
        Standins.letIn(authorization, settings.token());
        int bar = after.indexOf('|');
        var page = register.listing(
                bar < 0 ? "" : after.substring(0, bar), after.substring(bar + 1), Math.clamp(limit, 1, 1000));
        var next = page.size() < limit
                ? null
                : page.getLast().learner() + "|" + page.getLast().thing();
        return new Enrolments(page.stream().map(EnrolmentApi::shown).toList(), next);
    }

    private static Map<String, Object> shown(Register.Held held) {
        Map<String, Object> shown = new LinkedHashMap<>();
        shown.put("learner", held.learner());
        var parts = held.thing().split("/", 3);
        switch (parts[0]) {
            case "course" -> shown.put("course", parts[1]);
            case "section" -> {
                shown.put("course", parts[1]);
                shown.put("section", parts[2]);
            }
            default -> shown.put("download", parts[1]);
        }
        shown.put("state", held.state());
        if (held.until() != null) {
            shown.put("until", held.until());
            shown.put("renews", held.renews());
        }
        return shown;
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

    private @Nullable ProblemDetail fault(String thing, String id, Stated stated, String key) {
        if (key.isEmpty()) {
            return problem(HttpStatus.BAD_REQUEST, "Idempotency-Key is missing");
        }
        if (!"open".equals(stated.state) && !"closed".equals(stated.state)) {
            return problem(HttpStatus.BAD_REQUEST, "state must be open or closed");
        }
        boolean known = thing.startsWith("download/")
                ? register.downloads().stream()
                        .anyMatch(download -> download.id().equals(id))
                : register.course(id).isPresent();
        return known ? null : problem(HttpStatus.NOT_FOUND, "there is no " + thing);
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
