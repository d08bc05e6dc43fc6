package yoru.core.ledger;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A set of facts in folding order (time, source, id), each counted once.
 *
 * <p>Of two facts with the same id the first to arrive counts; where their contents differ, a warning says so.
 */
public final class Ledger {

    private final List<Fact> facts;
    private final List<Warning> warnings;

    private Ledger(List<Fact> facts, List<Warning> warnings) {
        this.facts = facts;
        this.warnings = warnings;
    }

    /** @param arrived the facts in the order in which they arrived */
    public static Ledger of(Collection<Fact> arrived) {
        Map<FactId, Fact> first = new LinkedHashMap<>();
        var warnings = new ArrayList<Warning>();
        for (Fact fact : arrived) {
            Fact earlier = first.putIfAbsent(fact.id(), fact);
            if (earlier != null && !earlier.equals(fact)) {
                warnings.add(new Warning.SameIdOtherContent(fact.id()));
            }
        }
        return new Ledger(first.values().stream().sorted(Fact.FOLDING_ORDER).toList(), List.copyOf(warnings));
    }

    /** @param facts some of a ledger's, in its order */
    public static Ledger some(List<Fact> facts) {
        return new Ledger(facts, List.of());
    }

    /** The facts known at {@code asOf}: those whose own time is not later. */
    public Ledger asOf(Instant asOf) {
        return new Ledger(
                facts.stream().filter(fact -> !fact.time().isAfter(asOf)).toList(), warnings);
    }

    /** Its first facts, in folding order. */
    public Ledger first(int many) {
        return new Ledger(facts.subList(0, many), warnings);
    }

    public List<Fact> facts() {
        return facts;
    }

    public List<Warning> warnings() {
        return warnings;
    }
}
