package yoru.core.desk;

import java.time.Instant;
import java.util.List;
import yoru.core.access.Engine;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Course;

/** Decides about acts, knowing all facts that can matter for those whom they concern. */
public final class Desk {

    /** The source of the facts that come from here. */
    public static final String SOURCE = "/yoru/desk";

    private final Engine engine;
    private final Ledger known;
    private final Histories histories;
    private final Instant now;

    /** @param ledger facts with a later time than {@code now} are left out */
    public Desk(Engine engine, Ledger ledger, Instant now) {
        this.engine = engine;
        this.known = ledger.asOf(now);
        this.histories = Histories.of(known);
        this.now = now;
    }

    /** @param key tells this act from all others; the ids of its facts begin with it */
    public Decision decide(Act act, String key) {
        var deciding = new Deciding(key, now, engine.calendar().zone());
        switch (act) {
            case Act.AboutOrder it -> new OrderActs(engine, histories, deciding).decide(it);
            case Act.AboutPerson it -> new PersonActs(engine, known, histories, now, deciding).decide(it);
        }
        return deciding.decision();
    }

    /** The courses for which the person's allowance has a place left. */
    public List<String> choosable(String person) {
        return engine.choices(histories.person(person), now).left() <= 0
                ? List.of()
                : engine.index().rulebook().courses().stream()
                        .map(Course::id)
                        .filter(course ->
                                !decide(new Act.Choose(person, course), "asked").isRefused())
                        .toList();
    }
}
