package yoru.core.followup;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Ledger;
import yoru.core.time.SchoolCalendar;

/**
 * What a ledger lacks to say by itself what follow-ups made. A ledger never takes anything back: where a report that came late
 * says that something should not have ended, it is given again, from now on.
 */
public final class Kept {

    private final SchoolCalendar calendar;
    private final Instant now;
    private final Map<FactId, Fact> known = new HashMap<>();
    private final List<Fact> lacking = new ArrayList<>();

    private Kept(SchoolCalendar calendar, Ledger ledger, Instant now) {
        this.calendar = calendar;
        this.now = now;
        ledger.facts().stream().filter(Followups::isOwn).forEach(fact -> known.put(fact.id(), fact));
    }

    /**
     * @param done what follow-ups made of the ledger until now
     * @param people the keys of those whose facts are wanted
     */
    public static List<Fact> lacking(
            Ledger ledger, Followups.Done done, Collection<String> people, SchoolCalendar calendar, Instant now) {
        return new Kept(calendar, ledger, now).of(done, Set.copyOf(people));
    }

    private List<Fact> of(Followups.Done done, Set<String> people) {
        var ends = new HashMap<String, Instant>();
        var given = new ArrayList<Fact>();
        Stream.concat(done.marks().stream(), done.facts().stream())
                .filter(fact -> people.contains(fact.subject()))
                .forEach(fact -> {
                    keep(fact);
                    switch (fact.happening()) {
                        case Happening.GrantGiven _ -> given.add(fact);
                        case Happening.GrantEnded it -> ends.put(it.grant(), fact.time());
                        default -> {}
                    }
                });
        var ended = new HashSet<String>();
        Stream.concat(known.values().stream(), lacking.stream()).forEach(fact -> {
            if (fact.happening() instanceof Happening.GrantEnded it) {
                ended.add(it.grant());
            }
        });
        for (Fact one : given) {
            var details = (Happening.GrantGiven) one.happening();
            var end = ends.get(details.grant());
            putRight(one, details, isOver(one, details) || end != null, ended);
        }
        return lacking;
    }

    private boolean isOver(Fact given, Happening.GrantGiven details) {
        return details.length()
                .filter(length -> !calendar.plus(given.time(), length).isAfter(now))
                .isPresent();
    }

    private void keep(Fact fact) {
        if (!known.containsKey(fact.id())) {
            lacking.add(fact);
        }
    }

    /** Has what the ledger says of something given be so: whether it is open now. */
    private void putRight(Fact given, Happening.GrantGiven details, boolean shouldBeOver, Set<String> ended) {
        int again = 1;
        boolean isOpen = !ended.contains(details.grant()) && !isOver(given, details);
        while (true) {
            var grant = details.grant() + "|again" + again;
            var id = new FactId(Followups.SOURCE, grant);
            if (!known.containsKey(id)) {
                if (!shouldBeOver && !isOpen) {
                    lacking.add(new Fact(
                            id,
                            given.subject(),
                            now,
                            new Happening.GrantGiven(grant, details.to(), null, details.reason())));
                }
                return;
            }
            if (!ended.contains(grant)) {
                if (shouldBeOver) {
                    lacking.add(new Fact(
                            new FactId(Followups.SOURCE, grant + "|end"),
                            given.subject(),
                            now,
                            new Happening.GrantEnded(grant)));
                } else {
                    isOpen = true;
                }
            }
            again++;
        }
    }
}
