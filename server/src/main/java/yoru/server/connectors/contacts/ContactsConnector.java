package yoru.server.connectors.contacts;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.policies.Policies.UnknownContacts;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.core.systems.Matter;
import yoru.server.connectors.Answers;
import yoru.server.systems.Connector;
import yoru.server.systems.Listed;
import yoru.server.systems.Listed.ItemKind;
import yoru.server.systems.Place;
import yoru.server.systems.Statement;
import yoru.server.systems.SystemClient;
import yoru.server.systems.SystemClient.Question;
import yoru.server.systems.SystemKind;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/** Speaks the contacts API (docs/formats/contacts-api.yaml). */
@Component
class ContactsConnector implements Connector {

    private static final int PAGE = 500;
    private static final int NOT_FOUND = 404;

    private final SystemClient client;
    private final JsonMapper json;

    ContactsConnector(SystemClient client, JsonMapper json) {
        this.client = client;
        this.json = json;
    }

    @Override
    public SystemKind kind() {
        return SystemKind.CONTACTS;
    }

    @Override
    public Set<Ability> abilities() {
        return Set.of(
                Ability.ACCOUNTS, Ability.TAGS, Ability.LISTS, Ability.FIELDS, Ability.CATALOGUE, Ability.LISTING);
    }

    record Contact(String name) {}

    record Value(String value) {}

    record State(String state, int revision) {}

    @Override
    public String tell(Place place, Statement statement) {
        return switch (statement.matter()) {
            case Matter.Account _ -> account(place, statement);
            case Matter.Access(Target.OfTag _) -> state(place, statement, "tagged", "tag taken off");
            case Matter.Access(Target.OfList _) -> state(place, statement, "on the list", "off the list");
            case Matter.Field _ -> {
                var reply = knowing(place, question(statement), statement);
                if (isLeftOut(place, reply, statement)) {
                    yield LEFT_OUT;
                }
                reply.orTrouble();
                yield "field set";
            }
            case Matter.Access _, Matter.Letter _, Matter.Event _, Matter.Code _ ->
                throw new IllegalArgumentException("contacts cannot be told about " + statement.matter());
        };
    }

    @Override
    public String preview(Place place, Statement statement) {
        return question(statement).inWords(place);
    }

    private Question question(Statement statement) {
        var person = statement.person();
        return switch (statement.matter()) {
            case Matter.Account _ -> account(statement);
            case Matter.Access(Target.OfTag it) ->
                Question.put(state(statement), "/api/contacts/{person}/tags/{tag}", person, it.tag());
            case Matter.Access(Target.OfList it) ->
                Question.put(state(statement), "/api/contacts/{person}/lists/{list}", person, it.list());
            case Matter.Field it -> {
                var value =
                        new Value(statement.content().map(JsonNode::asString).orElse(""));
                yield Question.put(
                        json.writeValueAsString(value), "/api/contacts/{person}/fields/{field}", person, it.name());
            }
            case Matter.Access _, Matter.Letter _, Matter.Event _, Matter.Code _ ->
                throw new IllegalArgumentException("contacts cannot be told about " + statement.matter());
        };
    }

    private Question account(Statement statement) {
        var body = json.writeValueAsString(new Contact(statement.name()));
        return Question.put(body, "/api/contacts/{person}", statement.person());
    }

    private String state(Statement statement) {
        return json.writeValueAsString(new State(onOrOff(statement), statement.revision()));
    }

    private static String onOrOff(Statement statement) {
        return statement.open() ? "on" : "off";
    }

    private void know(Place place, Statement statement) {
        ask(place, account(statement), statement).orTrouble();
    }

    /** By policy nobody is made a contact: whoever is one is called as they are called now. */
    private String account(Place place, Statement statement) {
        if (statement.unknown() != UnknownContacts.MAKE && isStranger(place, statement)) {
            return LEFT_OUT;
        }
        know(place, statement);
        return "known there";
    }

    /** Whether it is left out because nobody is known there, and not because there is no such list. */
    private boolean isLeftOut(Place place, SystemClient.Reply reply, Statement statement) {
        return reply.status() == NOT_FOUND
                && statement.unknown() != UnknownContacts.MAKE
                && isStranger(place, statement);
    }

    /** Whether nobody is known there, which is a trouble where it is to wait for that. */
    private boolean isStranger(Place place, Statement statement) {
        var known = client.ask(place, Question.get("/api/contacts/{person}", statement.person()));
        if (known.status() != NOT_FOUND) {
            known.orTrouble();
            return false;
        }
        if (statement.unknown() == UnknownContacts.HOLD) {
            throw new TroubleException(Trouble.STRANGER, "does not know them, and makes no contacts by itself");
        }
        return true;
    }

    private String state(Place place, Statement statement, String on, String off) {
        var reply = knowing(place, question(statement), statement);
        if (isLeftOut(place, reply, statement)) {
            return LEFT_OUT;
        }
        if (!onOrOff(statement).equals(reply.orTrouble().json().path("state").asString(""))) {
            throw new TroubleException(Trouble.NOT_CONFIRMED, "answered, but did not confirm that it was done");
        }
        return statement.open() ? on : off;
    }

    /** Somebody who was known and is no longer is made known anew. */
    private SystemClient.Reply knowing(Place place, Question question, Statement statement) {
        var reply = ask(place, question, statement);
        if (reply.status() == NOT_FOUND && statement.unknown() == UnknownContacts.MAKE) {
            know(place, statement);
            reply = ask(place, question, statement);
        }
        return reply;
    }

    private SystemClient.Reply ask(Place place, Question question, Statement statement) {
        return client.ask(place, question.with(Map.of("Idempotency-Key", statement.key())));
    }

    @Override
    public List<Listed> catalogue(Place place) {
        var answer = client.ask(place, Question.get("/catalogue")).orTrouble().json();
        var all = new ArrayList<>(Answers.each(answer, "tags", node -> listed(ItemKind.TAG, node)));
        all.addAll(Answers.each(answer, "lists", node -> listed(ItemKind.LIST, node)));
        return all;
    }

    private static Listed listed(ItemKind kind, JsonNode node) {
        return new Listed(kind, Answers.text(node, "id"), Answers.text(node, "title"), "", null);
    }

    @Override
    public Sample sample(Place place) {
        return Answers.first(page(place, "", 1), "contacts", "one contact");
    }

    @Override
    public Part list(Place place, @Nullable String from) {
        var answer = page(place, from == null ? "" : from, PAGE);
        var found = new ArrayList<Found>();
        for (JsonNode contact : Answers.each(answer, "contacts", it -> it)) {
            var person = Answers.text(contact, "email");
            Answers.each(contact, "tags", JsonNode::asString)
                    .forEach(tag -> found.add(new Found(person, new Target.OfTag(tag), null, false)));
            Answers.each(contact, "lists", JsonNode::asString)
                    .forEach(list -> found.add(new Found(person, new Target.OfList(list), null, false)));
        }
        var next = answer.path("next").asString("");
        return new Part(found, next.isEmpty() ? null : next);
    }

    private JsonNode page(Place place, String after, int limit) {
        return client.ask(place, Question.get("/api/contacts?after={after}&limit={limit}", after, limit))
                .orTrouble()
                .json();
    }
}
