package yoru.server.deliveries;

import java.io.IOException;
import java.net.ConnectException;
import java.net.http.HttpConnectTimeoutException;
import java.net.http.HttpTimeoutException;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.client.ClientHttpResponse;
import org.springframework.stereotype.Component;
import org.springframework.web.client.ResourceAccessException;
import org.springframework.web.client.RestClientException;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.server.ledger.Person;
import yoru.server.systems.Connection;
import yoru.server.systems.SystemClient;

/** Speaks the enrolment API (docs/formats/enrolment-api.yaml): states what should be so, with an idempotency key. */
@Component
class ClassroomClient {

    private static final int LONGEST_ANSWER = 64 * 1024;

    private final SystemClient client;
    private final JsonMapper json;
    private final Clock clock;

    ClassroomClient(SystemClient client, JsonMapper json, Clock clock) {
        this.client = client;
        this.json = json;
        this.clock = clock;
    }

    /** What the enrolment should be. */
    record Enrolment(String name, String state, @Nullable Instant until, int revision) {}

    SystemAnswer tell(Connection classroom, Person person, Delivery delivery) {
        var wanted = new Enrolment(person.name(), delivery.open ? "open" : "closed", delivery.until, delivery.revision);
        try {
            return client.at(classroom)
                    .put()
                    .uri("/api/enrolments/{course}/{learner}", delivery.course, person.key())
                    .header("Idempotency-Key", "yoru-" + delivery.id() + "-" + delivery.revision)
                    .contentType(MediaType.APPLICATION_JSON)
                    .body(wanted)
                    .exchange((request, response) -> read(response, wanted));
        } catch (ResourceAccessException e) {
            return new SystemAnswer.NotDone(inWords(e), null);
        } catch (RestClientException e) {
            return new SystemAnswer.NotDone("answered with something that cannot be read", null);
        }
    }

    private SystemAnswer read(ClientHttpResponse response, Enrolment wanted) throws IOException {
        var status = response.getStatusCode();
        var body = parsed(response.getBody().readNBytes(LONGEST_ANSWER));
        if (status.is2xxSuccessful()) {
            return body != null && wanted.state.equals(body.path("state").asString(""))
                    ? new SystemAnswer.Done(wanted.state.equals("open") ? "enrolled" : "closed, progress kept")
                    : new SystemAnswer.NotDone("answered, but did not confirm that it was done", null);
        }
        var said = body == null ? "" : body.path("detail").asString("");
        return new SystemAnswer.NotDone(
                "answered %d%s".formatted(status.value(), said.isEmpty() ? "" : ": " + shortened(said)),
                retryAfter(response.getHeaders()));
    }

    private @Nullable JsonNode parsed(byte[] body) {
        try {
            return json.readTree(body);
        } catch (JacksonException e) {
            return null;
        }
    }

    /** Seconds or a date, RFC 9110, 10.2.3. */
    private @Nullable Duration retryAfter(HttpHeaders headers) {
        var value = headers.getFirst(HttpHeaders.RETRY_AFTER);
        if (value == null) {
            return null;
        }
        try {
            if (value.chars().allMatch(Character::isDigit)) {
                return Duration.ofSeconds(Integer.parseInt(value));
            }
            return Duration.between(clock.instant(), ZonedDateTime.parse(value, DateTimeFormatter.RFC_1123_DATE_TIME));
        } catch (NumberFormatException | DateTimeException e) {
            return null;
        }
    }

    private static String inWords(ResourceAccessException e) {
        for (Throwable cause = e.getCause(); cause != null; cause = cause.getCause()) {
            switch (cause) {
                case ConnectException _, HttpConnectTimeoutException _ -> {
                    return "is not there (connection refused)";
                }
                case HttpTimeoutException _ -> {
                    return "did not answer in time";
                }
                default -> {}
            }
        }
        return "broke off the connection";
    }

    private static String shortened(String text) {
        return text.length() > 200 ? text.substring(0, 200) + "…" : text;
    }
}
