package yoru.server.ledger;

import java.time.Clock;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.node.JsonNodeFactory;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Mention;
import yoru.formats.imports.ImportEntry.ImportedFact;

/** Keeps facts of the past, many at once. */
@Service
public class PastFacts {

    private final FactTable facts;
    private final PersonTable people;
    private final ErasedPeople erased;
    private final ApplicationEventPublisher events;
    private final Clock clock;

    PastFacts(FactTable facts, PersonTable people, ErasedPeople erased, ApplicationEventPublisher events, Clock clock) {
        this.erased = erased;
        this.facts = facts;
        this.people = people;
        this.events = events;
        this.clock = clock;
    }

    /**
     * Keeps facts of the past, many at once, each once. Nobody is told of each of them, and the journal has no line for each.
     *
     * @return those that were known already and say something else; the first counts
     */
    @Transactional
    public Set<FactId> keepAll(List<ImportedFact> past) {
        if (past.isEmpty()) {
            return Set.of();
        }
        var rows = JsonNodeFactory.instance.arrayNode();
        var things = new TreeSet<String>();
        var orders = new TreeSet<String>();
        Map<String, Seen> seen = new TreeMap<>();
        for (ImportedFact one : past) {
            var fact = one.fact();
            var event = one.event();
            var thing = fact.happening().thing();
            things.add(thing.orElse(fact.subject()));
            if (fact.happening() instanceof Happening.OfOrder it) {
                orders.add(it.order());
            }
            seen.merge(fact.subject(), new Seen(FactKeeper.nameIn(event), fact.time()), Seen::and);
            var row = rows.addObject()
                    .put("source", fact.id().source())
                    .put("eventId", fact.id().id())
                    .put("type", event.get("type").stringValue())
                    .put("subject", fact.subject())
                    .put("thing", thing.orElse(null))
                    .put("happenedAt", fact.time().toString());
            var mentions = row.putArray("mentions");
            Mention.in(fact.happening()).forEach(mention -> mentions.add(mention.key()));
            row.set("body", event);
        }
        facts.allAtATime(Rows.json(things));
        erased.refuseClosing(seen.keySet());
        var text = rows.toString();
        var kept = facts.insertAll(
                text, clock.instant(), new Origin.OfFile().sort().name());
        people.knowAll(Seen.json(seen));
        if (!kept.isEmpty()) {
            events.publishEvent(new FactsKept(
                    kept.getLast().getSeq(),
                    orders,
                    facts.concernedByAll(Rows.json(seen.keySet()), Rows.json(things))));
        }
        return kept.size() == past.size() ? Set.of() : ids(facts.contradicted(text));
    }

    /** Who was seen when first, and how they are called. */
    private record Seen(String name, Instant first) {

        Seen and(Seen other) {
            return new Seen(
                    other.name.isEmpty() ? name : other.name, other.first.isBefore(first) ? other.first : first);
        }

        static String json(Map<String, Seen> seen) {
            var people = JsonNodeFactory.instance.arrayNode();
            seen.forEach((key, it) ->
                    people.addObject().put("key", key).put("name", it.name).put("seen", it.first.toString()));
            return people.toString();
        }
    }

    /** Those of some facts that are known. */
    @Transactional(readOnly = true)
    public Set<FactId> known(Collection<FactId> ids) {
        var wanted = JsonNodeFactory.instance.arrayNode();
        ids.forEach(id -> wanted.addObject().put("source", id.source()).put("id", id.id()));
        return ids(facts.known(wanted.toString()));
    }

    /** Those of some things that are orders placed as another source has it. */
    @Transactional(readOnly = true)
    public Set<String> orderedElsewhere(Collection<String> things, String source) {
        return Set.copyOf(facts.orderedElsewhere(Rows.json(things), source));
    }

    private static Set<FactId> ids(List<FactTable.Inserted> rows) {
        return rows.stream()
                .map(row -> new FactId(row.getSource(), row.getEventId()))
                .collect(Collectors.toSet());
    }
}
