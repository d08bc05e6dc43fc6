package yoru.server.visitors;

import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.letters.Letter;
import yoru.core.letters.Letter.Block;
import yoru.core.letters.Letter.Paragraph;
import yoru.core.systems.Ability;
import yoru.core.systems.Matter;
import yoru.server.announcements.LetterJson;
import yoru.server.deliveries.Deliveries;
import yoru.server.ledger.Person;
import yoru.server.platform.SchoolSettings;

/** Sends letters that answer what somebody did on a public page. */
@Component
class VisitorLetters {

    private final Deliveries deliveries;
    private final SchoolSettings settings;
    private final JsonMapper json;

    VisitorLetters(Deliveries deliveries, SchoolSettings settings, JsonMapper json) {
        this.deliveries = deliveries;
        this.settings = settings;
        this.json = json;
    }

    /**
     * In the transaction at hand.
     *
     * @param to to whose address it goes
     * @param about what it is kept under, in a word
     * @param called by whose name the reader is called
     * @param body between the greeting and the school's name
     */
    void send(Person to, String about, String subject, Person called, List<? extends Block> body) {
        var blocks = new ArrayList<Block>();
        blocks.add(
                new Paragraph("Hello" + called.givenName().map(it -> " " + it).orElse("") + ","));
        blocks.addAll(body);
        blocks.add(new Paragraph(settings.name()));
        var letter = new Letter(subject, blocks);
        deliveries.send(List.of(new Deliveries.Message(
                to.id(),
                Ability.MESSAGES,
                new Matter.Letter(about + "-" + UUID.randomUUID()),
                () -> json.writeValueAsString(LetterJson.of(letter)),
                null)));
    }
}
