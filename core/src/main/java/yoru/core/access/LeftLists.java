package yoru.core.access;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
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
    private final Map<String, Instant> still;

    private LeftLists(Map<Target, Windows> byList, Map<String, Instant> still) {
        this.byList = byList;
        this.still = still;
    }

    /** @param facts lists left and joined, in folding order */
    public static LeftLists of(List<Fact> facts) {
        Map<Target, List<Window>> left = new HashMap<>();
        Map<String, Instant> since = new TreeMap<>();
        for (Fact fact : facts) {
            if (fact.happening() instanceof Happening.ListLeft it) {
                since.putIfAbsent(it.list(), fact.time());
            } else if (fact.happening() instanceof Happening.ListJoined it) {
                var from = since.remove(it.list());
                if (from != null) {
                    add(left, it.list(), new Window(from, fact.time()));
                }
            }
        }
        since.forEach((list, from) -> add(left, list, new Window(from, null)));
        Map<Target, Windows> byList = new HashMap<>();
        left.forEach((list, windows) -> byList.put(list, Windows.of(windows)));
        return new LeftLists(byList, since);
    }

    private static void add(Map<Target, List<Window>> left, String list, Window window) {
        left.computeIfAbsent(new Target.OfList(list), key -> new ArrayList<>()).add(window);
    }

    /** The ids of the lists that they are still off, and since when. */
    public Map<String, Instant> still() {
        return Collections.unmodifiableMap(still);
    }

    Optional<Windows> of(Target target) {
        return Optional.ofNullable(byList.get(target));
    }
}
