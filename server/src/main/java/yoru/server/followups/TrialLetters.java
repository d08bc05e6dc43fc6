package yoru.server.followups;

import java.util.Optional;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.systems.Ability;
import yoru.core.systems.Matter;
import yoru.server.announcements.LetterJson;
import yoru.server.platform.ProblemException;
import yoru.server.systems.Connections;
import yoru.server.systems.Connectors;
import yoru.server.systems.Landscapes;
import yoru.server.systems.Statement;
import yoru.server.systems.TroubleException;

/** Sends a letter to whoever is writing it, at once and past the queue: what comes of it is said there and then. */
@Service
public class TrialLetters {

    private final Wordings wordings;
    private final Landscapes landscapes;
    private final Connections connections;
    private final Connectors connectors;
    private final JsonMapper json;

    TrialLetters(
            Wordings wordings, Landscapes landscapes, Connections connections, Connectors connectors, JsonMapper json) {
        this.wordings = wordings;
        this.landscapes = landscapes;
        this.connections = connections;
        this.connectors = connectors;
        this.json = json;
    }

    /** As it will look, as HTML; where a code of one's own will stand, a placeholder stays. */
    public String html(String subject, String text) {
        return letter(subject, text).html();
    }

    private LetterJson letter(String subject, String text) {
        return wordings.letter(subject, text, Optional.empty());
    }

    /**
     * Sends it.
     *
     * @return by which system, in words
     */
    public String send(String to, String subject, String text) {
        var system = landscapes.current().able(Ability.MESSAGES).stream()
                .findFirst()
                .orElseThrow(() -> new ProblemException(
                        HttpStatus.CONFLICT, "Nobody carries it", "No system that is on carries letters."));
        var connection = connections.get(system.id());
        var letter = letter(subject, text);
        try {
            connectors
                    .of(connection)
                    .tell(
                            connections.place(connection),
                            new Statement(
                                    to,
                                    "",
                                    new Matter.Letter("trial"),
                                    true,
                                    null,
                                    false,
                                    1,
                                    "trial-" + UUID.randomUUID(),
                                    json.valueToTree(letter)));
        } catch (TroubleException e) {
            throw new ProblemException(
                    HttpStatus.BAD_GATEWAY, "It was not taken", connection.title() + " " + e.words() + ".");
        }
        return connection.title();
    }
}
