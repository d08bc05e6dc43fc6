package yoru.core.followup;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;

/** Parts a ledger into people who have nothing to do with each other: no order, no subscription, no joining. */
final class Together {

    private final Map<String, String> leader = new HashMap<>();

    private Together() {}

    /** Each part in the ledger's order. */
    static Collection<List<Fact>> of(List<Fact> facts) {
        if (facts.stream().map(Fact::subject).distinct().limit(2).count() < 2) {
            return facts.isEmpty() ? List.of() : List.of(facts);
        }
        var together = new Together();
        for (Fact fact : facts) {
            var subject = "person " + fact.subject();
            fact.happening().thing().ifPresent(thing -> together.join(subject, thing));
            switch (fact.happening()) {
                case Happening.PersonMerged it -> together.join(subject, "person " + it.into());
                case Happening.PersonParted it -> together.join(subject, "person " + it.from());
                default -> {}
            }
        }
        Map<String, List<Fact>> parts = new LinkedHashMap<>();
        facts.forEach(
                fact -> parts.computeIfAbsent(together.leaderOf("person " + fact.subject()), key -> new ArrayList<>())
                        .add(fact));
        return parts.values();
    }

    private void join(String one, String other) {
        leader.put(leaderOf(one), leaderOf(other));
    }

    private String leaderOf(String one) {
        var at = one;
        for (var next = leader.get(at); next != null && !next.equals(at); next = leader.get(at)) {
            var beyond = leader.getOrDefault(next, next);
            leader.put(at, beyond);
            at = next;
        }
        return at;
    }
}
