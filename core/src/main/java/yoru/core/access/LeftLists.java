package yoru.core.access;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.rulebook.Target;

/** When a person was off a list because they had left it. */
public final class LeftLists {

    private final Map<Target, Windows> byList;

    private LeftLists(Map<Target, Windows> byList) {
        this.byList = byList;
    }

    /** The lists that somebody is off because they left them, and since when. */
    public static Map<String, Instant> still(List<Fact> facts) {
        Map<String, Instant> since = new TreeMap<>();
        for (Fact fact : facts) {
            if (fact.happening() instanceof Happening.ListLeft it) {
                since.putIfAbsent(it.list(), fact.time());
            } else if (fact.happening() instanceof Happening.ListJoined it) {
                since.remove(it.list());
            }
        }
        return since;
    }

    /** @param facts lists left and joined, in folding order */
    static LeftLists of(List<Fact> facts) {
        Map<Target, List<Window>> left = new HashMap<>();
        Map<Target, Instant> since = new HashMap<>();
        for (Fact fact : facts) {
            if (fact.happening() instanceof Happening.ListLeft it) {
                since.putIfAbsent(new Target.OfList(it.list()), fact.time());
            } else if (fact.happening() instanceof Happening.ListJoined it) {
                var list = new Target.OfList(it.list());
                var from = since.remove(list);
                if (from != null) {
                    left.computeIfAbsent(list, key -> new ArrayList<>()).add(new Window(from, fact.time()));
                }
            }
        }
        since.forEach((list, from) ->
                left.computeIfAbsent(list, key -> new ArrayList<>()).add(new Window(from, null)));
        Map<Target, Windows> byList = new HashMap<>();
        left.forEach((list, windows) -> byList.put(list, Windows.of(windows)));
        return new LeftLists(byList);
    }

    Optional<Windows> of(Target target) {
        return Optional.ofNullable(byList.get(target));
    }
}
