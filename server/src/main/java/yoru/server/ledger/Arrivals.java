package yoru.server.ledger;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.SequencedMap;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import tools.jackson.databind.node.JsonNodeFactory;
import yoru.core.access.Words;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.SchoolSettings;

/** What follows at once from facts that were not known: who is known, the journal, and whoever is told of them. */
@Component
class Arrivals {

    private final FactTable facts;
    private final PersonTable people;
    private final Journal journal;
    private final ApplicationEventPublisher events;
    private final SchoolSettings settings;

    Arrivals(
            FactTable facts,
            PersonTable people,
            Journal journal,
            ApplicationEventPublisher events,
            SchoolSettings settings) {
        this.facts = facts;
        this.people = people;
        this.journal = journal;
        this.events = events;
        this.settings = settings;
    }

    /** @param kept with their numbers, in their order */
    void follow(SequencedMap<ComingFact, Long> kept) {
        var seen = new Seen();
        kept.keySet().forEach(one -> seen.in(one.fact(), one.event()));
        people.knowAll(seen.json());
        for (ComingFact one : kept.keySet()) {
            if (one.fact().happening() instanceof Happening.PersonMerged merged) {
                people.know(
                        merged.into(),
                        nameForWhoHasNone(merged.into(), one.fact().subject()),
                        one.fact().time());
            }
        }
        Map<String, Person> subjects =
                people.findByKeyIn(seen.keys()).stream().collect(Collectors.toMap(Person::key, Function.identity()));
        var asked = JsonNodeFactory.instance.arrayNode();
        var lines = new ArrayList<Journal.Line>();
        kept.forEach((one, seq) -> {
            var subject = Objects.requireNonNull(subjects.get(one.fact().subject()));
            ErasedPeople.refuse(subject, one.fact().happening());
            asked.addObject()
                    .put("n", lines.size())
                    .put("subject", subject.key())
                    .put("thing", one.thing().orElse(null));
            lines.add(new Journal.Line(
                    Kind.FACT,
                    FactWords.title(one.fact()),
                    said(one.fact(), subject),
                    one.origin().actor(),
                    subject.id(),
                    seq));
        });
        journal.writeAll(lines);
        Map<Integer, List<Long>> concerned = facts.concernedByEach(asked.toString()).stream()
                .collect(Collectors.groupingBy(
                        FactTable.Concerned::getN,
                        Collectors.mapping(FactTable.Concerned::getPerson, Collectors.toList())));
        int n = 0;
        for (var entry : kept.entrySet()) {
            var one = entry.getKey();
            var subject = Objects.requireNonNull(subjects.get(one.fact().subject()));
            events.publishEvent(new FactKept(
                    entry.getValue(), one.origin(), one.fact(), subject.id(), concerned.getOrDefault(n, List.of())));
            n++;
        }
    }

    private String said(Fact fact, Person subject) {
        return Stream.of(
                        subject.name(),
                        FactWords.text(fact, UnaryOperator.identity()),
                        new Words(settings.zone()).day(fact.time()))
                .filter(part -> !part.isEmpty())
                .collect(Collectors.joining(" · "));
    }

    /** Whoever another was joined into is called the same, where nobody told a name: an address that was changed. */
    private String nameForWhoHasNone(String into, String from) {
        boolean named = people.findByKey(into).filter(it -> !it.name.isEmpty()).isPresent();
        return named ? "" : people.findByKey(from).map(it -> it.name).orElse("");
    }
}
