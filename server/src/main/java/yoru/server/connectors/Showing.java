package yoru.server.connectors;

import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.server.systems.Place;
import yoru.server.systems.Shown;
import yoru.server.systems.SystemClient;
import yoru.server.systems.SystemClient.Question;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/**
 * Has a system show something at a place, in the one way that all of them speak: what is told is put, and read back from a
 * list (docs/connectors.md).
 *
 * @param path where they take it
 */
public record Showing(SystemClient client, JsonMapper json, String path) {

    /** @param shown none = nothing of Yoru's */
    public String tell(Place place, String of, @Nullable Shown shown, String key) {
        var question = shown == null
                ? Question.get(path + "?of={of}", of).as(HttpMethod.DELETE, MediaType.APPLICATION_JSON)
                : Question.put(json.writeValueAsString(shown), path + "?of={of}", of);
        var reply = client.ask(place, question.with(Map.of("Idempotency-Key", key)));
        if (reply.status() == HttpStatus.NOT_FOUND.value()) {
            throw new TroubleException(Trouble.REFUSED, "shows nothing that it is told there");
        }
        reply.orTrouble();
        return shown == null ? "shows its own" : "shows it";
    }

    /** By the paths of the places. */
    public Map<String, JsonNode> read(Place place) {
        var answer = client.ask(place, Question.get(path)).orTrouble().json();
        Map<String, JsonNode> shown = new HashMap<>();
        Answers.each(answer, "shown", it -> it).forEach(it -> shown.put(Answers.text(it, "of"), it.path("says")));
        return shown;
    }
}
