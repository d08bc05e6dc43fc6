package yoru.server.ledger;

import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.IntConsumer;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.access.Words;
import yoru.core.impact.Concern;
import yoru.core.ledger.ByCodePoint;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.Mention;
import yoru.core.ledger.Order;
import yoru.core.ledger.PersonKey;
import yoru.formats.FactReader;
import yoru.formats.FactWriter;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.YoruSettings;

/** Keeps facts, each once, and gives them back. */
@Service
public class LedgerService {

    private static final int AT_A_TIME = 1_000;

    private final FactTable facts;
    private final PersonTable people;
    private final Journal journal;
    private final ApplicationEventPublisher events;
    private final Echoes echoes;
    private final ErasedPeople erased;
    private final Clock clock;
    private final Words words;

    LedgerService(
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

    /** How many people ordered a product. */
    public record Sold(String product, int buyers) {}

    /** What was sold and given back since a moment. */
    public record Count(long sold, long refunded) {}

    /**
     * Keeps the fact and has everybody it can concern looked at, in one transaction. What cannot be read is refused before
     * anything is kept, so that a caller's transaction can go on.
     */
    @Transactional(noRollbackFor = UnreadableException.class)
    public Fate keep(String connection, JsonNode event) {
        return keep(connection, connection, event);
    }

    /** The same for what somebody enters at the desk. */
    @Transactional(noRollbackFor = UnreadableException.class)
    public Fate keepByHand(String operator, JsonNode event) {
        return keep(null, operator, event);
    }

    /** The same for what Yoru says itself. */
    @Transactional
    public Fate keepByHand(String operator, Fact fact) {
        return keepByHand(operator, event(fact));
    }

    /** A fact as the event that says it. */
    public static JsonNode event(Fact fact) {
        return FactReader.parse(FactWriter.write(fact).getBytes(StandardCharsets.UTF_8));
    }

    private Fate keep(@Nullable String connection, String actor, JsonNode said) {
        var read = read(said);
        var retold = erased.retold(said, read);
        var event = retold.orElse(said);
        var fact = retold.map(LedgerService::read).orElse(read);
        if (connection != null && fact.happening() instanceof Happening.PersonErased) {
            throw new UnreadableException(List.of(new Fault("type", "is only said at the desk")));
        }
        var thing = fact.happening().thing();
        waitFor(List.of(fact));
        if (connection != null && isEcho(connection, fact, event)) {
            return Fate.ECHO;
        }
        var seq = facts.insert(
                fact.id().source(),
                fact.id().id(),
                event.get("type").stringValue(),
                fact.subject(),
                thing.orElse(null),
                json(Mention.in(fact.happening()).stream().map(Mention::key).toList()),
                fact.time(),
                clock.instant(),
                connection,
                event.toString());
        if (seq.isEmpty()) {
            return again(fact, actor, event);
        }
        people.know(fact.subject(), nameIn(event), fact.time());
        if (fact.happening() instanceof Happening.PersonMerged it) {
            people.know(it.into(), nameForWhoHasNone(it.into(), fact.subject()), fact.time());
        }
        var subject = people.findByKey(fact.subject()).orElseThrow();
        ErasedPeople.refuse(subject, fact.happening());
        journal.write(new Journal.Line(
                Kind.FACT, FactWords.title(fact), said(fact, subject), actor, subject.id(), seq.get()));
        events.publishEvent(new FactKept(
                seq.get(), connection, fact, subject.id(), facts.concerned(subject.key(), thing.orElse(null))));
        return Fate.KEPT;
    }

    /** Tells of a fact again whose time has come. */
    @Transactional
    void isDue(long seq) {
        facts.findBySeq(seq).ifPresent(row -> {
            var fact = FactReader.read(row.body.getBytes(StandardCharsets.UTF_8));
            waitFor(List.of(fact));
            var subject = people.findByKey(fact.subject()).orElseThrow();
            events.publishEvent(new FactDue(new FactKept(
                    seq, row.connectionId, fact, subject.id(), facts.concerned(subject.key(), row.thing))));
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

    /** Whether it is known who a subject is: something was said that is not only about an order never heard of. */
    @Transactional(readOnly = true)
    public boolean isKnown(String subject) {
        return facts.isKnown(subject);
    }

    /** Whether somebody was ever joined with another or parted from them. */
    @Transactional(readOnly = true)
    public boolean wasJoined(String subject) {
        return facts.wasJoined(subject);
    }

    /** A key under which a system reports somebody, and the address that it says it has verified. */
    public record Verified(String subject, String address) {}

    /** Whom systems know by a verified address too, in the order in which they said so; none of them was joined or parted. */
    @Transactional(readOnly = true)
    public List<Verified> verified() {
        return verified("");
    }

    /** The same of one subject; empty = of all. */
    @Transactional(readOnly = true)
    public List<Verified> verified(String subject) {
        return facts.verified(subject).stream()
                .map(row -> new Verified(row.getSubject(), row.getAddress()))
                .toList();
    }

    /**
     * Until the transaction ends, nobody else keeps facts about the same things, or where people are joined or parted about
     * anything. Whoever keeps several facts asks for all at once, before anything else is locked: asked for one by one, two
     * could wait for each other.
     */
    @Transactional
    public void waitFor(Collection<Fact> coming) {
        if (coming.stream().map(Fact::happening).anyMatch(LedgerService::concernsAnybody)) {
            facts.alone();
        } else {
            coming.stream()
                    .map(fact -> fact.happening().thing().orElse(fact.subject()))
                    .distinct()
                    .sorted()
                    .forEach(facts::oneAtATime);
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

    /** The same for all facts: people are about to be joined or parted. */
    @Transactional
    public void holdBackAll() {
        facts.alone();
    }

    /** What is said about some orders, and about whom they belong to. */
    @Transactional(readOnly = true)
    public Ledger aboutOrders(Collection<String> orders) {
        return ledger(facts.aboutThings(
                json(orders.stream().map(order -> "order " + order).toList())));
    }

    /** One order as it was known at a time. */
    @Transactional(readOnly = true)
    public Optional<Order> order(String id, Instant asOf) {
        return Histories.of(aboutOrders(List.of(id)).asOf(asOf)).order(id);
    }

    /** The ids of the orders that some people, and those joined with them, placed. */
    @Transactional(readOnly = true)
    public List<String> ordersOf(Collection<String> persons) {
        return orderIds(facts.ordersOf(json(persons)));
    }

    /** The ids of the orders for which a change of the rulebook can matter. */
    @Transactional(readOnly = true)
    public List<String> ordersConcernedBy(Concern concern) {
        if (concern.isNothing()) {
            return List.of();
        }
        return concern.everybody()
                ? allOrders()
                : orderIds(facts.ordersMentioning(
                        json(concern.mentions().stream().map(Mention::key).toList())));
    }

    @Transactional(readOnly = true)
    public List<String> allOrders() {
        return orderIds(facts.allOrders());
    }

    private static List<String> orderIds(List<String> things) {
        return things.stream().map(thing -> thing.substring("order ".length())).toList();
    }

    /** Whether anything was ever said about an order. */
    @Transactional(readOnly = true)
    public boolean knowsOrder(String order) {
        return facts.knows("order " + order);
    }

    /** The keys of all whom a fact about an order can concern; they must be known. */
    @Transactional(readOnly = true)
    public List<String> concernedByOrder(String order, String placedBy) {
        return people.findAllById(facts.concerned(placedBy, "order " + order)).stream()
                .map(Person::key)
                .toList();
    }

    /** All that can matter for one person. */
    @Transactional(readOnly = true)
    public Ledger concerning(String person) {
        return concerning(List.of(person));
    }

    /** All that can matter for some people; of others there may be a part. */
    @Transactional(readOnly = true)
    public Ledger concerning(Collection<String> persons) {
        return ledger(facts.concerning(json(persons)));
    }

    /** The same over everybody who is known. */
    @Transactional(readOnly = true)
    public void walkEverybody(Instant asOf, Consumer<History> each) {
        walk(concernedBy(Concern.EVERYBODY), asOf, done -> {}, each);
    }

    /**
     * Walks over some people, so many at a time that any number of them fits into memory.
     *
     * @param progress is told how many are done before each step, and may throw to end the walk
     */
    @Transactional(readOnly = true)
    public void walk(List<String> persons, Instant asOf, IntConsumer progress, Consumer<History> each) {
        for (int from = 0; from < persons.size(); from += AT_A_TIME) {
            progress.accept(from);
            var some = persons.subList(from, Math.min(persons.size(), from + AT_A_TIME));
            var wanted = Set.copyOf(some);
            Histories.of(concerning(some).asOf(asOf)).all().stream()
                    .filter(history -> wanted.contains(history.person()))
                    .forEach(each);
        }
    }

    /** Everybody whom a change of the rulebook can concern, by code point. */
    @Transactional(readOnly = true)
    public List<String> concernedBy(Concern concern) {
        if (concern.isNothing()) {
            return List.of();
        }
        var subjects = concern.everybody()
                ? facts.everybody()
                : facts.mentioning(
                        json(concern.mentions().stream().map(Mention::key).toList()));
        return facts.same(json(subjects)).stream().sorted(ByCodePoint.ORDER).toList();
    }

    /** The people by their keys, as far as they are known. */
    @Transactional(readOnly = true)
    public Map<String, Person> people(Collection<String> keys) {
        return people.findByKeyIn(keys).stream().collect(Collectors.toMap(Person::key, Function.identity()));
    }

    @Transactional(readOnly = true)
    public List<Sold> sold() {
        return facts.sold().stream()
                .map(row -> new Sold(row.getProduct(), row.getBuyers()))
                .toList();
    }

    /** Somebody who did something, and when last. */
    public record Somebody(long person, String name, Instant at) {}

    /**
     * Who did something.
     *
     * @param count how many they are
     * @param latest the last of them, the latest first
     */
    public record Several(int count, List<Somebody> latest) {}

    public static final Several NOBODY = new Several(0, List.of());

    @Transactional(readOnly = true)
    public Several buyers(String product, int most) {
        return buyers(facts.buyers(new Mention.OfProduct(product).key(), most));
    }

    /** Who left a list and has not asked for it again, and when. */
    @Transactional(readOnly = true)
    public Several whoLeft(String list, int most) {
        return buyers(facts.whoLeft(list, clock.instant(), most));
    }

    private static Several buyers(List<FactTable.Somebody> rows) {
        return new Several(
                rows.isEmpty() ? 0 : rows.getFirst().getMany(),
                rows.stream()
                        .map(row -> new Somebody(
                                row.getPerson(), row.getName().isEmpty() ? row.getKey() : row.getName(), row.getAt()))
                        .toList());
    }

    @Transactional(readOnly = true)
    public Count since(Instant moment) {
        return new Count(
                facts.countSince("yoru.order.placed", moment), facts.countSince("yoru.order.refunded", moment));
    }

    @Transactional(readOnly = true)
    public Optional<Instant> lastSale() {
        return facts.lastSale();
    }

    /** How people are called, by key; whoever has no name is not among them. */
    @Transactional(readOnly = true)
    public Map<String, String> names() {
        return people.named().stream().collect(Collectors.toMap(PersonTable.Named::getKey, PersonTable.Named::getName));
    }

    @Transactional(readOnly = true)
    public Optional<Person> person(long id) {
        return people.findById(id);
    }

    @Transactional(readOnly = true)
    public Optional<Person> person(String key) {
        return people.findByKey(key);
    }

    /** Makes somebody known under a name; an empty one changes nothing. */
    @Transactional
    public void know(String key, String name) {
        people.know(key, name, clock.instant());
    }

    /** The person with a key, made known where there was none. */
    @Transactional
    public Person know(String key) {
        people.know(key, "", clock.instant());
        return people.findByKey(key).orElseThrow();
    }

    /** The person, for nobody else to change until the transaction ends. */
    @Transactional
    public Optional<Person> lock(long id) {
        return people.lock(id);
    }

    /** The ids of some people after the given one, in order; none when there are no more. */
    @Transactional(readOnly = true)
    public List<Long> peopleAfter(long id) {
        return people.idsAfter(id);
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

    static String json(Collection<String> texts) {
        var array = JsonNodeFactory.instance.arrayNode();
        texts.forEach(array::add);
        return array.toString();
    }

    static Ledger ledger(List<String> bodies) {
        return Ledger.of(bodies.stream()
                .map(body -> FactReader.read(body.getBytes(StandardCharsets.UTF_8)))
                .toList());
    }
}
