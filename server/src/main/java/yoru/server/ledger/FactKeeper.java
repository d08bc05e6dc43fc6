package yoru.server.ledger;

import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.Collection;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.access.Words;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Mention;
import yoru.core.ledger.PersonKey;
import yoru.formats.FactReader;
import yoru.formats.FactWriter;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.YoruSettings;

/** Keeps facts, each once. */
@Service
public class FactKeeper {

    private final FactTable facts;
    private final PersonTable people;
    private final Journal journal;
    private final ApplicationEventPublisher events;
    private final Echoes echoes;
    private final ErasedPeople erased;
    private final Clock clock;
    private final Words words;

    FactKeeper(
            FactTable facts,
            PersonTable people,
            Journal journal,
            ApplicationEventPublisher events,
            Echoes echoes,
            ErasedPeople erased,
            Clock clock,
            YoruSettings settings) {
        this.facts = facts;
        this.people = people;
        this.journal = journal;
        this.events = events;
        this.echoes = echoes;
        this.erased = erased;
        this.clock = clock;
        this.words = new Words(settings.zone());
    }

    /** What became of an event. */
    public enum Fate {
        KEPT,
        KNOWN_ALREADY,
        /** Its id is known with other content; the first counts. */
        CONTRADICTS,
        /** It says back what Yoru told the system. */
        ECHO
    }

    /**
     * Keeps the fact and has everybody it can concern looked at, in one transaction. What cannot be read is refused before
     * anything is kept, so that a caller's transaction can go on.
     */
    @Transactional(noRollbackFor = UnreadableException.class)
    public Fate keep(Origin origin, JsonNode event) {
        return keepOnce(origin, event);
    }

    /** The same for what Yoru puts into words itself. */
    @Transactional
    public Fate keep(Origin origin, Fact fact) {
        return keepOnce(origin, event(fact));
    }

    /** A fact as the event that says it. */
    public static JsonNode event(Fact fact) {
        return FactReader.parse(FactWriter.write(fact).getBytes(StandardCharsets.UTF_8));
    }

    private Fate keepOnce(Origin origin, JsonNode said) {
        var read = read(said);
        var retold = erased.retold(said, read);
        var event = retold.orElse(said);
        var fact = retold.map(FactKeeper::read).orElse(read);
        if (!(origin instanceof Origin.OfOperator) && fact.happening() instanceof Happening.PersonErased) {
            throw new UnreadableException(List.of(new Fault("type", "is only said at the desk")));
        }
        var thing = fact.happening().thing();
        waitFor(List.of(fact));
        if (origin instanceof Origin.OfSystem it && isEcho(it.connection(), fact, event)) {
            return Fate.ECHO;
        }
        var seq = facts.insert(
                fact.id().source(),
                fact.id().id(),
                event.get("type").stringValue(),
                fact.subject(),
                thing.orElse(null),
                Rows.json(
                        Mention.in(fact.happening()).stream().map(Mention::key).toList()),
                fact.time(),
                clock.instant(),
                origin.sort().name(),
                origin instanceof Origin.OfSystem it ? it.connection() : null,
                event.toString());
        if (seq.isEmpty()) {
            return again(fact, origin.actor(), event);
        }
        people.know(fact.subject(), nameIn(event), fact.time());
        if (fact.happening() instanceof Happening.PersonMerged merged) {
            people.know(merged.into(), nameForWhoHasNone(merged.into(), fact.subject()), fact.time());
        }
        var subject = people.findByKey(fact.subject()).orElseThrow();
        ErasedPeople.refuse(subject, fact.happening());
        journal.write(new Journal.Line(
                Kind.FACT, FactWords.title(fact), said(fact, subject), origin.actor(), subject.id(), seq.get()));
        events.publishEvent(new FactKept(
                seq.get(), origin, fact, subject.id(), facts.concerned(subject.key(), thing.orElse(null))));
        return Fate.KEPT;
    }

    /** Tells of a fact again whose time has come. */
    @Transactional
    void isDue(long seq) {
        facts.findBySeq(seq).ifPresent(row -> {
            var fact = FactReader.read(row.body.getBytes(StandardCharsets.UTF_8));
            waitFor(List.of(fact));
            events.publishEvent(new FactDue(fact));
        });
    }

    /**
     * Reads an event as it is kept: its addresses are put into their plain form.
     *
     * @throws UnreadableException when it says nothing that Yoru knows
     */
    public static Fact read(JsonNode event) {
        Fact fact = FactReader.read(withPlainSubject(event));
        if (fact.happening() instanceof Happening.Unknown unknown) {
            throw new UnreadableException(
                    List.of(new Fault("type", unknown.type() + " is not known; docs/formats lists what is")));
        }
        return fact;
    }

    /**
     * Until the transaction ends, nobody else keeps facts about the same things, or where people are joined or parted about
     * anything. Whoever keeps several facts asks for all at once, before anything else is locked: asked for one by one, two
     * could wait for each other.
     */
    @Transactional
    public void waitFor(Collection<Fact> coming) {
        if (coming.stream().map(Fact::happening).anyMatch(FactKeeper::concernsAnybody)) {
            facts.alone();
        } else {
            holdBack(coming.stream()
                    .map(fact -> fact.happening().thing().orElse(fact.subject()))
                    .collect(Collectors.toSet()));
        }
    }

    private static boolean concernsAnybody(Happening happening) {
        return happening instanceof Happening.PersonMerged || happening instanceof Happening.PersonParted;
    }

    /**
     * Holds back all other facts about a thing until the transaction ends, so that what is decided from those there are
     * stays right.
     *
     * @param thing as {@link Happening#thing()} has it, or a person's key
     */
    @Transactional
    public void holdBack(String thing) {
        facts.oneAtATime(thing);
    }

    /** The same for many things. */
    @Transactional
    public void holdBack(Collection<String> things) {
        facts.allAtATime(Rows.json(things));
    }

    /** The same for all facts: people are about to be joined or parted. */
    @Transactional
    public void holdBackAll() {
        facts.alone();
    }

    private String said(Fact fact, Person subject) {
        return Stream.of(subject.name(), FactWords.text(fact, UnaryOperator.identity()), words.day(fact.time()))
                .filter(part -> !part.isEmpty())
                .collect(Collectors.joining(" · "));
    }

    /** Whoever another was joined into is called the same, where nobody told a name: an address that was changed. */
    private String nameForWhoHasNone(String into, String from) {
        boolean named = people.findByKey(into).filter(it -> !it.name.isEmpty()).isPresent();
        return named ? "" : people.findByKey(from).map(it -> it.name).orElse("");
    }

    /** A system that can says itself that it did as Yoru told it; of the others the deliveries know. */
    private boolean isEcho(String connection, Fact fact, JsonNode event) {
        var cause = event.path("data").path("cause");
        return (cause.isString() && cause.stringValue().startsWith("yoru-")) || echoes.isEcho(connection, fact);
    }

    private Fate again(Fact fact, String actor, JsonNode event) {
        var subject = people.findByKey(fact.subject());
        boolean erased = subject.flatMap(Person::erasure).isPresent();
        if (erased || facts.saysTheSame(fact.id().source(), fact.id().id(), event.toString())) {
            return Fate.KNOWN_ALREADY;
        }
        journal.write(new Journal.Line(
                Kind.WARNING,
                "The same event with other content",
                "Event %s of %s arrived again and says something else; the first counts."
                        .formatted(fact.id().id(), fact.id().source()),
                actor,
                subject.map(Person::id).orElse(null),
                null));
        return Fate.CONTRADICTS;
    }

    private static JsonNode withPlainSubject(JsonNode event) {
        plain(event, "subject");
        plain(event.path("data"), "into");
        return event;
    }

    private static void plain(JsonNode node, String key) {
        if (node instanceof ObjectNode object && object.path(key).isString()) {
            object.put(key, PersonKey.plain(object.get(key).stringValue()));
        }
    }

    /** How a report calls its person; empty = it does not. */
    public static String nameIn(JsonNode event) {
        var name = event.path("data").path("name");
        return name.isString() ? name.stringValue().strip() : "";
    }
}
