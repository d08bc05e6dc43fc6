package yoru.server.ledger;

import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.PersonKey;
import yoru.formats.FactReader;
import yoru.formats.FactWriter;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.FactTable.Inserted;

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
    private final Arrivals arrivals;

    FactKeeper(
            FactTable facts,
            PersonTable people,
            Journal journal,
            ApplicationEventPublisher events,
            Echoes echoes,
            ErasedPeople erased,
            Clock clock,
            Arrivals arrivals) {
        this.facts = facts;
        this.people = people;
        this.journal = journal;
        this.events = events;
        this.echoes = echoes;
        this.erased = erased;
        this.clock = clock;
        this.arrivals = arrivals;
    }

    /** What became of an event. */
    public enum Keeping {
        KEPT,
        KNOWN_ALREADY,
        /** Its id is known with other content; the first counts. */
        CONTRADICTS,
        /** It says back what Yoru told the system. */
        ECHO
    }

    /** An event and who says it. */
    public record Said(Origin origin, JsonNode event) {}

    /**
     * Keeps the fact and has everybody it can concern looked at, in one transaction. What cannot be read is refused before
     * anything is kept, so that a caller's transaction can go on.
     */
    @Transactional(noRollbackFor = UnreadableException.class)
    public Keeping keep(Origin origin, JsonNode event) {
        return keepEach(List.of(new Said(origin, event))).getFirst();
    }

    /** The same for what Yoru puts into words itself. */
    @Transactional
    public Keeping keep(Origin origin, Fact fact) {
        return keepEach(List.of(new Said(origin, event(fact)))).getFirst();
    }

    /** The same for many, as if they were kept one after another. */
    @Transactional(noRollbackFor = UnreadableException.class)
    public List<Keeping> keepAll(List<Said> all) {
        return keepEach(all);
    }

    /**
     * Keeps what was computed from facts about people who are locked. What is kept so has ids of its own, and whoever computes
     * it again from the same facts comes to the same; so nobody else is held back.
     */
    @Transactional
    public void keepComputed(Origin origin, Collection<Fact> computed) {
        if (!computed.isEmpty()) {
            keepTogether(computed.stream()
                    .map(fact -> new ComingFact(origin, event(fact), fact))
                    .toList());
        }
    }

    /** A fact as the event that says it. */
    public static JsonNode event(Fact fact) {
        return FactReader.parse(FactWriter.write(fact).getBytes(StandardCharsets.UTF_8));
    }

    private List<Keeping> keepEach(List<Said> all) {
        var read = all.stream().map(said -> read(said.event)).toList();
        waitFor(read);
        var retold = erased.retold(all.stream().map(Said::event).toList(), read);
        var ones = new ArrayList<ComingFact>();
        for (int at = 0; at < all.size(); at++) {
            var said = all.get(at);
            var event = retold.get(at);
            ones.add(new ComingFact(said.origin, event, event.equals(said.event) ? read.get(at) : read(event)));
        }
        var fates = new ArrayList<Keeping>();
        var together = new ArrayList<ComingFact>();
        for (ComingFact one : ones) { // what is to be refused was refused before anything is kept
            if (one.countsOnThoseBefore()) {
                fates.addAll(keepTogether(together));
                together.clear();
                fates.addAll(keepTogether(List.of(one)));
            } else {
                together.add(one);
            }
        }
        fates.addAll(keepTogether(together));
        return fates;
    }

    private List<Keeping> keepTogether(List<ComingFact> all) {
        var echoed = all.stream().map(this::isEcho).toList();
        var coming = new Coming();
        for (int at = 0; at < all.size(); at++) {
            if (!echoed.get(at)) {
                coming.add(all.get(at).origin(), all.get(at).fact(), all.get(at).event());
            }
        }
        if (coming.seen().keys().isEmpty()) {
            return Collections.nCopies(all.size(), Keeping.ECHO);
        }
        Map<FactId, Long> seqs = facts.insertAll(coming.rows(), clock.instant()).stream()
                .collect(Collectors.toMap(row -> new FactId(row.getSource(), row.getEventId()), Inserted::getSeq));
        var kept = new LinkedHashMap<ComingFact, Long>();
        var fates = new ArrayList<Keeping>();
        for (int at = 0; at < all.size(); at++) {
            var one = all.get(at);
            Long seq = echoed.get(at) ? null : seqs.remove(one.fact().id());
            if (seq != null) {
                kept.put(one, seq);
                fates.add(Keeping.KEPT);
            } else {
                fates.add(
                        echoed.get(at)
                                ? Keeping.ECHO
                                : again(one.fact(), one.origin().actor(), one.event()));
            }
        }
        if (!kept.isEmpty()) {
            arrivals.follow(kept);
        }
        return fates;
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
        Fact fact = FactReader.readNew(withPlainSubject(event));
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

    /** A system that can says itself that it did as Yoru told it; of the others the deliveries know. */
    private boolean isEcho(ComingFact one) {
        var cause = one.event().path("data").path("cause");
        return one.origin() instanceof Origin.OfSystem it
                && ((cause.isString() && cause.stringValue().startsWith("yoru-"))
                        || echoes.isEcho(it.connection(), one.fact()));
    }

    private Keeping again(Fact fact, String actor, JsonNode event) {
        var subject = people.findByKey(fact.subject());
        boolean erased = subject.flatMap(Person::erasure).isPresent();
        if (erased || facts.saysTheSame(fact.id().source(), fact.id().id(), event.toString())) {
            return Keeping.KNOWN_ALREADY;
        }
        journal.write(new Journal.Line(
                Kind.WARNING,
                "The same event with other content",
                "Event %s of %s arrived again and says something else; the first counts."
                        .formatted(fact.id().id(), fact.id().source()),
                actor,
                subject.map(Person::id).orElse(null),
                null));
        return Keeping.CONTRADICTS;
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
