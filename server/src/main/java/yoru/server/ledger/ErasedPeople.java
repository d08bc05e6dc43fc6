package yoru.server.ledger;

import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.springframework.context.event.EventListener;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.formats.FactReader;
import yoru.formats.Forgetting;
import yoru.server.ledger.Person.Erasure;
import yoru.server.platform.ProblemException;

/** Whoever is to be forgotten: what is still said of them, and how the facts that stay are told without them. */
@Service
public class ErasedPeople {

    private static final String NAME = "Erased person";

    private final FactTable facts;
    private final PersonTable people;
    private final SecureRandom random = new SecureRandom();

    ErasedPeople(FactTable facts, PersonTable people) {
        this.facts = facts;
        this.people = people;
    }

    /**
     * What is said about orders of people erased, as it is kept: about whom they are called now, whatever it calls them, for
     * a shop knows them still. Everything else is kept as it is.
     */
    List<JsonNode> retold(List<JsonNode> events, List<Fact> facts) {
        var things = facts.stream().flatMap(fact -> behind(fact).stream()).collect(Collectors.toSet());
        Map<String, String> erased = things.isEmpty()
                ? Map.of()
                : people.erasedBehind(things).stream()
                        .collect(Collectors.toMap(
                                PersonTable.Behind::getThing, PersonTable.Behind::getKey, (first, later) -> first));
        return IntStream.range(0, events.size())
                .mapToObj(at -> behind(facts.get(at))
                        .map(erased::get)
                        .filter(key -> !key.equals(facts.get(at).subject()))
                        .map(key -> new Forgetting(Map.of(facts.get(at).subject(), key)).event(events.get(at)))
                        .orElse(events.get(at)))
                .toList();
    }

    private static Optional<String> behind(Fact fact) {
        return fact.happening() instanceof Happening.GiftClaimed
                ? Optional.empty()
                : fact.happening().thing();
    }

    /** Refuses what is said too early, while somebody is being erased, or too late. */
    static void refuse(Person subject, Happening happening) {
        if (subject.erasure == Erasure.CLOSING) {
            throw tooEarly();
        }
        boolean forTheBooks = happening instanceof Happening.OfOrder || happening instanceof Happening.OfSubscription;
        if (subject.erasure == Erasure.DONE && !forTheBooks) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "They were erased",
                    "Nothing can be said any more of somebody who was erased.");
        }
    }

    /** Refuses facts about somebody who is being erased. */
    void refuseClosing(Collection<String> subjects) {
        if (people.findByKeyIn(subjects).stream().anyMatch(person -> person.erasure == Erasure.CLOSING)) {
            throw tooEarly();
        }
    }

    private static ProblemException tooEarly() {
        return new ProblemException(
                HttpStatus.SERVICE_UNAVAILABLE,
                "They are being erased",
                "Until everything of theirs is closed in all systems, nothing more is taken up about them. Send it again later.");
    }

    @EventListener
    void on(FactKept kept) {
        if (kept.fact().happening() instanceof Happening.PersonErased) {
            whole(kept.subject()).forEach(person -> person.erasure = Erasure.CLOSING);
        }
    }

    /** All records of the one person, this one first. */
    private List<Person> whole(long id) {
        var one = people.findById(id).orElseThrow();
        var ledger = Rows.ledger(facts.concerning(Rows.json(List.of(one.key))));
        var histories = Histories.of(ledger);
        var keys = new TreeSet<String>();
        ledger.facts().stream()
                .map(Fact::subject)
                .filter(key -> histories.isOnePerson(key, one.key))
                .forEach(keys::add);
        keys.remove(one.key);
        var all = new ArrayList<>(List.of(one));
        all.addAll(people.findByKeyIn(keys));
        return all;
    }

    /** The keys of all who are not erased and are not being erased. */
    @Transactional(readOnly = true)
    public Set<String> keysOfOthers() {
        return people.keysOfNotErased();
    }

    /** The ids of all records of a person who is being erased, locked until the transaction ends; none = nobody is. */
    @Transactional
    public List<Long> closing(long id) {
        facts.alone();
        return people.findById(id).filter(it -> it.erasure == Erasure.CLOSING).stream()
                .flatMap(it -> whole(id).stream())
                .map(Person::id)
                .sorted()
                .map(one -> people.lock(one).orElseThrow().id())
                .toList();
    }

    /**
     * Takes a person out of all facts; {@link #closing(long)} has locked them.
     *
     * @return how they are called now
     */
    @Transactional
    public Forgetting forget(List<Long> records) {
        var forgotten = people.findAllById(records);
        var forgetting = new Forgetting(
                forgotten.stream().collect(Collectors.toMap(Person::key, it -> pseudonym())),
                forgotten.stream().map(Person::name).toList());
        var rows = JsonNodeFactory.instance.arrayNode();
        for (FactTable.Body kept : facts.naming(Rows.json(forgetting.keys()))) {
            var event = forgetting.event(FactReader.parse(kept.getBody().getBytes(StandardCharsets.UTF_8)));
            var fact = FactReader.read(event);
            rows.addObject()
                    .put("seq", kept.getSeq())
                    .put("subject", fact.subject())
                    .put("eventId", fact.id().id())
                    .put("thing", fact.happening().thing().orElse(null))
                    .set("body", event);
        }
        facts.say(rows.toString());
        for (Person person : forgotten) {
            person.key = forgetting.text(person.key);
            person.name = NAME;
            person.erasure = Erasure.DONE;
        }
        people.flush();
        return forgetting;
    }

    /** RFC 2606 keeps ".invalid" free: no letter ever goes there. */
    private String pseudonym() {
        var bytes = new byte[8];
        random.nextBytes(bytes);
        return "erased-" + HexFormat.of().formatHex(bytes) + "@nobody.invalid";
    }
}
