package yoru.standins.practice;

import com.standardwebhooks.Webhook;
import com.standardwebhooks.exceptions.EmptyWebhookSecretException;
import com.standardwebhooks.exceptions.WebhookSigningException;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.Map;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Sends one event, signed as Standard Webhooks says. */
@Component
@Profile({"shop", "contacts", "mailbox"})
public class Reporter {

    /** Nobody else knows it. */
    private static final String OTHER_SECRET = "whsec_"
            + Base64.getEncoder().encodeToString("a secret that nobody knows, 32 b".getBytes(StandardCharsets.UTF_8));

    private final Reports reports;
    private final Manners manners;
    private final JsonMapper json;
    private final Clock clock;
    private final HttpClient http = HttpClient.newBuilder()
            .version(HttpClient.Version.HTTP_1_1)
            .connectTimeout(Duration.ofSeconds(3))
            .build();

    Reporter(Reports reports, Manners manners, JsonMapper json, Clock clock) {
        this.reports = reports;
        this.manners = manners;
        this.json = json;
        this.clock = clock;
    }

    /** An event (CloudEvents 1.0) that says what happened just now. */
    public String event(String id, String source, String type, String subject, Map<String, Object> data) {
        return event(id, source, type, subject, clock.instant(), data);
    }

    /** The same at another time. */
    public String event(String id, String source, String type, String subject, Instant at, Map<String, Object> data) {
        Map<String, Object> event = new LinkedHashMap<>();
        event.put("specversion", "1.0");
        event.put("id", id);
        event.put("source", source);
        event.put("type", type);
        event.put("subject", subject);
        event.put("time", at.toString());
        event.put("datacontenttype", "application/json");
        event.put("data", data);
        return json.writeValueAsString(event);
    }

    /** @param words the answer, or why there was none */
    public record Answer(boolean taken, String words) {}

    public Answer report(String id, String body) throws InterruptedException {
        try {
            long now = clock.instant().getEpochSecond();
            var request = HttpRequest.newBuilder(reports.reportTo())
                    .timeout(Duration.ofSeconds(10))
                    .header("content-type", "application/cloudevents+json; charset=UTF-8")
                    .header("webhook-id", id)
                    .header("webhook-timestamp", Long.toString(now))
                    .header(
                            "webhook-signature",
                            new Webhook(manners.now().otherSecret() ? OTHER_SECRET : reports.secret())
                                    .sign(id, now, body))
                    .POST(HttpRequest.BodyPublishers.ofString(body))
                    .build();
            var response = http.send(request, HttpResponse.BodyHandlers.ofString());
            boolean taken = response.statusCode() / 100 == 2;
            return new Answer(taken, response.statusCode() + (taken ? "" : " " + response.body()));
        } catch (IOException e) {
            return new Answer(false, "no answer: " + e.getClass().getSimpleName());
        } catch (WebhookSigningException | EmptyWebhookSecretException e) {
            return new Answer(false, "cannot be signed: " + e.getMessage());
        }
    }
}
