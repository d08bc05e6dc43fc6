package yoru.server.erasure;

import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.access.Openings;
import yoru.server.deliveries.Deliveries;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.ErasedPeople;
import yoru.server.platform.PersonForgotten;

/** Erases people once nothing of theirs is open or on its way any more. */
@Service
public class Erasures {

    private final ErasedPeople erased;
    private final Openings openings;
    private final Deliveries deliveries;
    private final Journal journal;
    private final ApplicationEventPublisher events;

    Erasures(
            ErasedPeople erased,
            Openings openings,
            Deliveries deliveries,
            Journal journal,
            ApplicationEventPublisher events) {
        this.erased = erased;
        this.openings = openings;
        this.deliveries = deliveries;
        this.journal = journal;
        this.events = events;
    }

    /** @return whether there is nothing left to do; where a system has not answered yet there is */
    @Transactional
    public boolean erase(long person) {
        var records = erased.closing(person);
        if (records.isEmpty()) {
            return true;
        }
        if (records.stream().anyMatch(it -> openings.isAnythingOpen(it) || !deliveries.isAllAnswered(it))) {
            return false;
        }
        events.publishEvent(new PersonForgotten(records, erased.forget(records)));
        journal.write(new Journal.Line(Kind.OPERATOR, "Somebody was erased", "", null, person, null));
        return true;
    }
}
