package yoru.server.connectors.listener;

import com.standardwebhooks.Webhook;
import com.standardwebhooks.exceptions.EmptyWebhookSecretException;
import com.standardwebhooks.exceptions.WebhookSigningException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Map;
import java.util.Set;
import org.springframework.http.HttpMethod;
import org.springframework.http.MediaType;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import yoru.core.systems.Ability;
import yoru.core.systems.Matter;
import yoru.server.connectors.Answers;
import yoru.server.systems.Connector;
import yoru.server.systems.Place;
import yoru.server.systems.Statement;
import yoru.server.systems.SystemClient;
import yoru.server.systems.SystemClient.Question;
import yoru.server.systems.SystemKind;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/**
 * Sends events out, as CloudEvents 1.0 in JSON, signed as Standard Webhooks 1.0 says. While a new secret takes over it
 * signs with both, so that the other side may change when it likes.
 */
@Component
class ListenerConnector implements Connector {

    private static final MediaType CLOUD_EVENT = MediaType.valueOf("application/cloudevents+json");

    private final SystemClient client;
    private final Clock clock;

    ListenerConnector(SystemClient client, Clock clock) {
        this.client = client;
        this.clock = clock;
    }

    @Override
    public SystemKind kind() {
        return SystemKind.LISTENER;
    }

    @Override
    public Set<Ability> abilities() {
        return Set.of(Ability.EVENTS);
    }

    @Override
    public AddressForm addressForm() {
        return AddressForm.WEB_WITH_PATH;
    }

    @Override
    public String tell(Place place, Statement statement) {
        var event = event(statement);
        send(place, Answers.text(event, "id"), event.toString());
        return "taken";
    }

    @Override
    public String preview(Place place, Statement statement) {
        return question(event(statement).toString()).inWords(place);
    }

    private static JsonNode event(Statement statement) {
        if (!(statement.matter() instanceof Matter.Event)) {
            throw new IllegalArgumentException("a listener cannot be told about " + statement.matter());
        }
        return statement.content().orElseThrow();
    }

    private static Question question(String body) {
        return Question.post(body, "").as(HttpMethod.POST, CLOUD_EVENT);
    }

    /** Nothing is asked of a listener; that it is there is seen by sending it an event that says nothing. */
    @Override
    public Sample sample(Place place) {
        var body = """
                {"specversion":"1.0","id":"try-%d","source":"yoru","type":"yoru.try","time":"%s"}""".formatted(clock.millis(), clock.instant());
        send(place, "try-" + clock.millis(), body);
        return new Sample("an event that says nothing was taken", body);
    }

    private void send(Place place, String id, String body) {
        var at = clock.instant().getEpochSecond();
        var signatures = new ArrayList<String>();
        try {
            for (String secret : place.secrets()) {
                signatures.add(new Webhook(secret).sign(id, at, body));
            }
        } catch (WebhookSigningException | EmptyWebhookSecretException e) {
            throw new TroubleException(Trouble.NOT_LET_IN, "has a secret that cannot sign");
        }
        var headers = Map.of(
                "webhook-id", id,
                "webhook-timestamp", String.valueOf(at),
                "webhook-signature", String.join(" ", signatures));
        client.ask(place, question(body).with(headers)).orTrouble();
    }
}
