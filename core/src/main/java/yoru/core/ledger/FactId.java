package yoru.core.ledger;

import java.util.Comparator;

/** Identifies a fact: the id under which a source reported it. */
public record FactId(String source, String id) implements Comparable<FactId> {

    private static final Comparator<FactId> BY_SOURCE_THEN_ID =
            Comparator.comparing(FactId::source, ByCodePoint.ORDER).thenComparing(FactId::id, ByCodePoint.ORDER);

    @Override
    public int compareTo(FactId other) {
        return BY_SOURCE_THEN_ID.compare(this, other);
    }

    /** "shop/f2". */
    public String words() {
        return source + "/" + id;
    }
}
