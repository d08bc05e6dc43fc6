package yoru.server.people;

import java.time.Clock;
import java.util.Optional;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.ledger.Histories;
import yoru.formats.ReasonsJson;
import yoru.server.deliveries.DeliveryList;
import yoru.server.ledger.FactKeeper;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.PersonForgotten;
import yoru.server.rulebooks.Rulebooks;

/** All that is kept about a person, to be handed to them: facts as CloudEvents, access with its reasons, what systems were told. */
@Service
class PersonData {

    private final LedgerReader ledger;
    private final Register register;
    private final Rulebooks rulebooks;
    private final DeliveryList deliveries;
    private final PersonNotes notes;
    private final JsonMapper json;
    private final Clock clock;

    PersonData(
            LedgerReader ledger,
            Register register,
            Rulebooks rulebooks,
            DeliveryList deliveries,
            PersonNotes notes,
            JsonMapper json,
            Clock clock) {
        this.ledger = ledger;
        this.register = register;
        this.rulebooks = rulebooks;
        this.deliveries = deliveries;
        this.notes = notes;
        this.json = json;
        this.clock = clock;
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        notes.deleteByPersonIdIn(forgotten.people());
        for (String word : forgotten.forgetting().words()) {
            notes.saying(word)
                    .forEach(note -> note.text = forgotten.forgetting().words(note.text));
        }
    }

    @Transactional(readOnly = true)
    public Optional<ObjectNode> of(long id) {
        return register.person(id).map(this::data);
    }

    private ObjectNode data(Person person) {
        var now = clock.instant();
        var all = ledger.concerning(person.key());
        var histories = Histories.of(all);
        var node = JsonNodeFactory.instance.objectNode();
        node.put("person", person.key());
        node.put("name", person.name());
        node.put("since", person.firstSeenAt().toString());
        node.put("asOf", now.toString());
        var facts = node.putArray("facts");
        all.facts().stream()
                .filter(fact -> histories.isOnePerson(fact.subject(), person.key()))
                .forEach(fact -> facts.add(FactKeeper.event(fact)));
        var access = node.putArray("access");
        rulebooks
                .current()
                .engine()
                .access(Histories.of(all.asOf(now)).person(person.key()), now)
                .forEach(one -> access.add(ReasonsJson.write(one)));
        node.set("systems", json.valueToTree(deliveries.of(person.id())));
        var written = node.putArray("notes");
        notes.findByPersonIdAndAtLessThanEqualOrderByIdDesc(person.id(), now)
                .forEach(note -> written.addObject()
                        .put("at", note.at.toString())
                        .put("by", note.operator)
                        .put("text", note.text));
        return node;
    }
}
