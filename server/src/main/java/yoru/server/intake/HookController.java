package yoru.server.intake;

import io.micrometer.core.instrument.MeterRegistry;
import io.swagger.v3.oas.annotations.Hidden;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RestController;
import yoru.formats.FactReader;
import yoru.server.platform.Again;
import yoru.server.platform.ProblemException;
import yoru.server.platform.Sha256;
import yoru.server.platform.Utf8;
import yoru.server.reception.Reception;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;

/** Where connected systems report what happened. Answers after the fact is committed, not before. */
@RestController
@Hidden
class HookController {

    /** A system that is off is asked to come again, so that nothing is lost when it is switched on soon. */
    private static final String LATER_SECONDS = "300";

    private final Connections connections;
    private final Reception reception;
    private final Intake intake;
    private final MeterRegistry registry;

    HookController(Connections connections, Reception reception, Intake intake, MeterRegistry registry) {
        this.connections = connections;
        this.reception = reception;
        this.intake = intake;
        this.registry = registry;
    }

    /** What became of the report. */
    record Answer(String fate, @Nullable String said) {}

    @PostMapping("/hooks/{connection}")
    Answer report(@PathVariable String connection, HttpServletRequest request, HttpServletResponse response)
            throws IOException {
        Connection from = connections
                .find(connection)
                .orElseThrow(() -> ProblemException.notFound("No connection " + connection + "."));
        var body = request.getInputStream().readAllBytes();
        var headers = headers(request);
        if (!connections.verify(from, new String(body, StandardCharsets.UTF_8), headers)) {
            throw new ProblemException(
                    HttpStatus.UNAUTHORIZED,
                    "Signature not accepted",
                    "The report must carry webhook-id, webhook-timestamp and webhook-signature as Standard Webhooks"
                            + " says, signed with this connection's secret within the last five minutes.");
        }
        var answer = Again.ifBeaten(() -> take(from, body, headers, response));
        registry.counter("yoru.intake", "system", from.id(), "fate", answer.fate)
                .increment();
        return answer;
    }

    private Answer take(Connection from, byte[] body, Map<String, List<String>> headers, HttpServletResponse response) {
        switch (from.state()) {
            case OFF -> {
                response.setHeader("Retry-After", LATER_SECONDS);
                throw new ProblemException(
                        HttpStatus.SERVICE_UNAVAILABLE,
                        "Switched off",
                        "This connection is switched off. Nothing was taken; send it again later.");
            }
            case TRYING -> {
                return kept(from, body, headers);
            }
            case ON -> {
                if (intake.matching(from.id()).isPresent()) {
                    return kept(from, body, headers);
                }
            }
        }
        return new Answer(reception.takeUp(from.id(), FactReader.parse(body)).name(), null);
    }

    private Answer kept(Connection from, byte[] body, Map<String, List<String>> headers) {
        var id = Optional.ofNullable(headers.get("webhook-id"))
                .map(List::getFirst)
                .orElseGet(() -> Sha256.of(body));
        var taken = intake.take(from, id, text(body));
        return new Answer(taken.outcome().name(), taken.said());
    }

    /** RFC 8259, 8.1: JSON between systems is UTF-8. */
    private static String text(byte[] body) {
        return Utf8.read(body)
                .orElseThrow(() -> new ProblemException(
                        HttpStatus.BAD_REQUEST,
                        "This cannot be read",
                        "A report is JSON in UTF-8. Nothing was taken."));
    }

    private static Map<String, List<String>> headers(HttpServletRequest request) {
        return Collections.list(request.getHeaderNames()).stream()
                .collect(Collectors.toMap(
                        name -> name.toLowerCase(Locale.ROOT),
                        name -> Collections.list(request.getHeaders(name)),
                        (one, other) -> one));
    }
}
