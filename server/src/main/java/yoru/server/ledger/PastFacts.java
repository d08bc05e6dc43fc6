package yoru.server.ledger;

import java.time.Clock;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.node.JsonNodeFactory;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
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
        var coming = new Coming();
        var orders = new TreeSet<String>();
        for (ImportedFact one : past) {
            coming.add(new Origin.OfFile(), one.fact(), one.event());
            if (one.fact().happening() instanceof Happening.OfOrder it) {
                orders.add(it.order());
            }
        }
        facts.allAtATime(Rows.json(coming.things()));
        erased.refuseClosing(coming.seen().keys());
        var text = coming.rows();
        var kept = facts.insertAll(text, clock.instant());
        people.knowAll(coming.seen().json());
        if (!kept.isEmpty()) {
            events.publishEvent(new FactsKept(
                    kept.getLast().getSeq(),
                    orders,
                    facts.concernedByAll(Rows.json(coming.seen().keys()), Rows.json(coming.things()))));
        }
        return kept.size() == past.size() ? Set.of() : ids(facts.contradicted(text));
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
