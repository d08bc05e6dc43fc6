package yoru.server.ledger;

import io.micrometer.core.instrument.MeterRegistry;
import io.swagger.v3.oas.annotations.Hidden;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RestController;
import yoru.formats.FactReader;
import yoru.server.ledger.LedgerService.Fate;
import yoru.server.platform.ProblemException;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;

/** Where connected systems report what happened. Answers after the fact is committed, not before. */
@RestController
@Hidden
class HookController {

    private static final int LARGEST_BODY = 256 * 1024;

    private final Connections connections;
    private final LedgerService ledger;
    private final MeterRegistry registry;

    HookController(Connections connections, LedgerService ledger, MeterRegistry registry) {
        this.connections = connections;
        this.ledger = ledger;
        this.registry = registry;
    }

    /** What became of the report. */
    record Answer(Fate fate) {}

    @PostMapping("/hooks/{connection}")
    Answer report(@PathVariable String connection, HttpServletRequest request) throws IOException {
        Connection from = connections
                .find(connection)
                .orElseThrow(() -> ProblemException.notFound("No connection " + connection + "."));
        var body = request.getInputStream().readNBytes(LARGEST_BODY + 1);
        if (body.length > LARGEST_BODY) {
            throw new ProblemException(
                    HttpStatus.CONTENT_TOO_LARGE,
                    "Too large",
                    "A report has at most %d bytes.".formatted(LARGEST_BODY));
        }
        if (!connections.verify(from, new String(body, StandardCharsets.UTF_8), headers(request))) {
            throw new ProblemException(
                    HttpStatus.UNAUTHORIZED,
                    "Signature not accepted",
                    "The report must carry webhook-id, webhook-timestamp and webhook-signature as Standard Webhooks"
                            + " says, signed with this connection's secret within the last five minutes.");
        }
        var fate = ledger.keep(from.id(), FactReader.parse(body));
        registry.counter("yoru.intake", "system", from.id(), "fate", fate.name())
                .increment();
        return new Answer(fate);
    }

    private static Map<String, List<String>> headers(HttpServletRequest request) {
        return Collections.list(request.getHeaderNames()).stream()
                .collect(Collectors.toMap(
                        name -> name.toLowerCase(Locale.ROOT),
                        name -> Collections.list(request.getHeaders(name)),
                        (one, other) -> one));
    }
}
