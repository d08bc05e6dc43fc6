package yoru.server.systems;

import java.io.IOException;
import java.net.ConnectException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpConnectTimeoutException;
import java.net.http.HttpTimeoutException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpMethod;
import org.springframework.http.MediaType;
import org.springframework.http.client.JdkClientHttpRequestFactory;
import org.springframework.stereotype.Component;
import org.springframework.web.client.ResourceAccessException;
import org.springframework.web.client.RestClient;
import org.springframework.web.client.RestClientException;
import org.springframework.web.util.UriComponentsBuilder;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.server.platform.YoruSettings;

/** Speaks HTTP with connected systems: with limits of time and size, without following redirects. */
@Component
public class SystemClient {

    private static final int LARGEST_ANSWER = 8 * 1024 * 1024;
    private static final int LONGEST_QUOTE = 200;

    private final RestClient client;
    private final AddressGuard guard;
    private final JsonMapper json;
    private final Clock clock;

    SystemClient(RestClient.Builder builder, AddressGuard guard, JsonMapper json, Clock clock, YoruSettings settings) {
        var http = HttpClient.newBuilder()
                .connectTimeout(Duration.ofSeconds(3))
                .version(HttpClient.Version.HTTP_1_1)
                .followRedirects(HttpClient.Redirect.NEVER)
                .build();
        var factory = new JdkClientHttpRequestFactory(http);
        factory.setReadTimeout(settings.delivery().timeout());
        this.client = builder.requestFactory(factory).build();
        this.guard = guard;
        this.json = json;
        this.clock = clock;
    }

    /**
     * A question to a system.
     *
     * @param path with {@code {}} for each part to fill in
     * @param parts filled in, so that no character of theirs is taken for the address's own
     */
    public record Question(
            HttpMethod method,
            String path,
            List<Object> parts,
            Map<String, String> headers,
            MediaType type,
            @Nullable String body) {

        public static Question get(String path, Object... parts) {
            return new Question(HttpMethod.GET, path, List.of(parts), Map.of(), MediaType.APPLICATION_JSON, null);
        }

        public static Question put(String body, String path, Object... parts) {
            return new Question(HttpMethod.PUT, path, List.of(parts), Map.of(), MediaType.APPLICATION_JSON, body);
        }

        public static Question post(String body, String path, Object... parts) {
            return new Question(HttpMethod.POST, path, List.of(parts), Map.of(), MediaType.APPLICATION_JSON, body);
        }

        public Question with(Map<String, String> more) {
            return new Question(method, path, parts, more, type, body);
        }

        URI at(Place place) {
            return UriComponentsBuilder.fromUriString(place.address() + path)
                    .encode()
                    .buildAndExpand(parts.toArray())
                    .toUri();
        }

        /** {@code PUT https://host/path {"state":"open"}}; its headers are left out. */
        public String inWords(Place place) {
            return method + " " + at(place) + (body == null ? "" : " " + body);
        }

        public Question as(HttpMethod other, MediaType otherType) {
            return new Question(other, path, parts, headers, otherType, body);
        }
    }

    /** An answer, whatever its status. */
    public final class Reply {

        private final int status;
        private final byte[] body;
        private final @Nullable Duration asked;

        Reply(int status, byte[] body, @Nullable Duration asked) {
            this.status = status;
            this.body = body;
            this.asked = asked;
        }

        public int status() {
            return status;
        }

        public String text() {
            return new String(body, StandardCharsets.UTF_8);
        }

        /** The body of a success. */
        public JsonNode json() {
            try {
                return json.readTree(body);
            } catch (JacksonException e) {
                throw new TroubleException(Trouble.UNREADABLE, "answered with something that cannot be read");
            }
        }

        /** Itself, if the system did what it was asked. */
        public Reply orTrouble() {
            if (status >= 200 && status < 300) {
                return this;
            }
            throw new TroubleException(trouble(), "answered " + status + quoted(), asked);
        }

        private Trouble trouble() {
            return switch (status) {
                case 401, 403 -> Trouble.NOT_LET_IN;
                case 429, 503 -> Trouble.BUSY;
                case 408 -> Trouble.SLOW;
                default -> status >= 500 ? Trouble.BROKEN : status >= 400 ? Trouble.REFUSED : Trouble.SENT_ELSEWHERE;
            };
        }

        /** What the system said of it: RFC 9457 and RFC 7644, 3.12 both call it detail. */
        private String quoted() {
            try {
                var said = json.readTree(body).path("detail").asString("");
                return said.isEmpty()
                        ? ""
                        : ": " + (said.length() > LONGEST_QUOTE ? said.substring(0, LONGEST_QUOTE) + "…" : said);
            } catch (JacksonException e) {
                return "";
            }
        }
    }

    /** Asks. @throws TroubleException when there is no answer, or one beyond all bounds */
    public Reply ask(Place place, Question question) {
        var address = question.at(place);
        guard.check(address);
        try {
            return exchange(place, question, address);
        } catch (ResourceAccessException e) {
            throw inWords(e);
        } catch (RestClientException e) {
            throw new TroubleException(Trouble.UNREADABLE, "answered with something that cannot be read");
        }
    }

    /**
     * What a page answers to somebody nobody knows, as an HTTP status.
     *
     * @throws TroubleException when there is no answer, or the address must not be asked
     */
    public int statusOf(String address) {
        try {
            var uri = URI.create(address);
            guard.check(uri);
            return client.get()
                    .uri(uri)
                    .exchangeForRequiredValue((sent, response) ->
                            Integer.valueOf(response.getStatusCode().value()));
        } catch (IllegalArgumentException e) {
            throw new TroubleException(Trouble.AWAY, "has an address that cannot be read");
        } catch (ResourceAccessException e) {
            throw inWords(e);
        }
    }

    private Reply exchange(Place place, Question question, URI address) {
        var request = client.method(question.method).uri(address).headers(headers -> {
            if (!place.token().isEmpty()) {
                headers.setBearerAuth(place.token());
            }
            question.headers.forEach(headers::set);
        });
        if (question.body != null) {
            request.contentType(question.type).body(question.body);
        }
        return request.exchangeForRequiredValue((sent, response) -> {
            var body = response.getBody().readNBytes(LARGEST_ANSWER + 1);
            if (body.length > LARGEST_ANSWER) {
                throw new TroubleException(Trouble.UNREADABLE, "answered with more than 8 MB and was cut off");
            }
            return new Reply(response.getStatusCode().value(), body, retryAfter(response.getHeaders()));
        });
    }

    /** Seconds or a date, RFC 9110, 10.2.3. */
    private @Nullable Duration retryAfter(HttpHeaders headers) {
        var value = headers.getFirst(HttpHeaders.RETRY_AFTER);
        if (value == null) {
            return null;
        }
        try {
            if (!value.isEmpty() && value.chars().allMatch(Character::isDigit)) {
                return Duration.ofSeconds(Integer.parseInt(value));
            }
            return Duration.between(clock.instant(), ZonedDateTime.parse(value, DateTimeFormatter.RFC_1123_DATE_TIME));
        } catch (NumberFormatException | DateTimeException e) {
            return null;
        }
    }

    private static TroubleException inWords(ResourceAccessException e) {
        for (Throwable cause = e.getCause(); cause != null; cause = cause.getCause()) {
            switch (cause) {
                case TroubleException trouble -> {
                    return trouble;
                }
                case ConnectException _, HttpConnectTimeoutException _ -> {
                    return new TroubleException(Trouble.AWAY, "is not there (connection refused)");
                }
                case HttpTimeoutException _ -> {
                    return new TroubleException(Trouble.SLOW, "did not answer in time");
                }
                case IOException _ -> {}
                default -> {}
            }
        }
        return new TroubleException(Trouble.CUT_OFF, "broke off the connection");
    }
}
