package yoru.server.ledger;

import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.access.Words;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.OrderLine;
import yoru.formats.FactReader;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.YoruSettings;
import yoru.server.systems.Connections;

/** Keeps facts, each once, and gives them back. */
@Service
public class LedgerService {

    private final FactTable facts;
    private final PersonTable people;
    private final Connections connections;
    private final Journal journal;
    private final ApplicationEventPublisher events;
    private final Clock clock;
    private final Words words;

    LedgerService(
            FactTable facts,
            PersonTable people,
            Connections connections,
            Journal journal,
            ApplicationEventPublisher events,
            Clock clock,
            YoruSettings settings) {
        this.facts = facts;
        this.people = people;
        this.connections = connections;
        this.journal = journal;
        this.events = events;
        this.clock = clock;
        this.words = new Words(settings.zone());
    }

    /** What became of an event. */
    public enum Fate {
        KEPT,
        KNOWN_ALREADY,
        /** Its id is known with other content; the first counts. */
        CONTRADICTS
    }

    /** How many people ordered a product. */
    public record Sold(String product, int buyers) {}

    /** What was sold and given back since a moment. */
    public record Count(long sold, long refunded) {}

    /** Keeps the fact and has everybody it can concern looked at, in one transaction. */
    @Transactional
    public Fate keep(String connection, JsonNode event) {
        var normal = withPlainSubject(event);
        Fact fact = FactReader.read(normal);
        var order = fact.happening().order();
        facts.oneAtATime(order);
        var seq = facts.insert(
                fact.id().source(),
                fact.id().id(),
                normal.get("type").stringValue(),
                fact.subject(),
                order,
                fact.time(),
                clock.instant(),
                connection,
                normal.toString());
        connections.heard(connection);
        if (seq.isEmpty()) {
            return again(fact, connection, normal);
        }
        people.know(fact.subject(), nameIn(normal), fact.time());
        Set<Long> concerned = new HashSet<>();
        var subject = people.findByKey(fact.subject()).orElseThrow();
        concerned.add(subject.id());
        facts.peopleOf(order).stream()
                .filter(person -> !person.equals(fact.subject()))
                .forEach(person -> concerned.add(idOf(person)));
        journal.write(
                new Journal.Line(Kind.FACT, title(fact), said(fact, subject), connection, subject.id(), seq.get()));
        events.publishEvent(new FactKept(seq.get(), List.copyOf(concerned)));
        return Fate.KEPT;
    }

    /** All that can matter for one person. */
    @Transactional(readOnly = true)
    public Ledger concerning(String person) {
        return ledger(facts.concerning(person));
    }

    /** All facts of everybody who ordered one of the products. */
    @Transactional(readOnly = true)
    public Ledger ofBuyers(Collection<String> products) {
        return products.isEmpty() ? Ledger.of(List.of()) : ledger(facts.ofBuyers(products));
    }

    @Transactional(readOnly = true)
    public List<Sold> sold() {
        return facts.sold().stream()
                .map(row -> new Sold(row.getProduct(), row.getBuyers()))
                .toList();
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

    @Transactional(readOnly = true)
    public Optional<Person> person(long id) {
        return people.findById(id);
    }

    @Transactional(readOnly = true)
    public Optional<Person> person(String key) {
        return people.findByKey(key);
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

    /** In a few words: "Order 2041 paid". */
    public static String title(Fact fact) {
        var order = "Order " + fact.happening().order();
        return switch (fact.happening()) {
            case Happening.OrderPlaced placed ->
                order + (placed.channel() == Channel.HAND ? " entered by hand" : " placed");
            case Happening.OrderPaid _ -> order + " paid";
            case Happening.OrderFulfilled _ -> order + " fulfilled";
            case Happening.OrderCancelled _ -> order + " cancelled";
            case Happening.OrderRefunded _ -> order + " refunded";
        };
    }

    /**
     * What more there is to say: "Queen Rearing EUR 180.00".
     *
     * @param titles how products are called, by id
     */
    public static String text(Fact fact, UnaryOperator<String> titles) {
        return switch (fact.happening()) {
            case Happening.OrderPlaced placed -> lines(placed, titles);
            case Happening.OrderRefunded refund ->
                refund.line().map(line -> "line " + line).orElse("the whole order")
                        + refund.amount()
                                .map(amount -> ", " + amount.toPlainString())
                                .orElse("");
            case Happening.OrderPaid _, Happening.OrderFulfilled _, Happening.OrderCancelled _ -> "";
        };
    }

    private static String lines(Happening.OrderPlaced placed, UnaryOperator<String> titles) {
        return String.join(
                ", ",
                placed.lines().stream()
                        .map((OrderLine line) ->
                                titles.apply(line.product()) + " " + Words.money(line.amount(), placed.currency()))
                        .toList());
    }

    private String said(Fact fact, Person subject) {
        return Stream.of(subject.name(), text(fact, UnaryOperator.identity()), words.day(fact.time()))
                .filter(part -> !part.isEmpty())
                .collect(Collectors.joining(" · "));
    }

    private Fate again(Fact fact, String connection, JsonNode event) {
        if (facts.saysTheSame(fact.id().source(), fact.id().id(), event.toString())) {
            return Fate.KNOWN_ALREADY;
        }
        journal.write(new Journal.Line(
                Kind.WARNING,
                "The same event with other content",
                "Event %s of %s arrived again and says something else; the first counts."
                        .formatted(fact.id().id(), fact.id().source()),
                connection,
                people.findByKey(fact.subject()).map(Person::id).orElse(null),
                null));
        return Fate.CONTRADICTS;
    }

    /** Addresses are compared without regard to case and stray spaces; anything else is a key as it is. */
    private static JsonNode withPlainSubject(JsonNode event) {
        if (!(event instanceof ObjectNode object) || !event.path("subject").isString()) {
            return event;
        }
        var subject = event.get("subject").stringValue().strip();
        return object.put("subject", subject.contains("@") ? subject.toLowerCase(Locale.ROOT) : subject);
    }

    private static String nameIn(JsonNode event) {
        var name = event.path("data").path("name");
        return name.isString() ? name.stringValue().strip() : "";
    }

    private long idOf(String key) {
        return people.findByKey(key).orElseThrow().id();
    }

    private static Ledger ledger(List<KeptFact> rows) {
        return Ledger.of(rows.stream()
                .map(row -> FactReader.read(row.body.getBytes(StandardCharsets.UTF_8)))
                .toList());
    }
}
