package yoru.core.ledger;

import java.util.HashMap;
import java.util.Map;
import yoru.core.ledger.Happening.PersonMerged;

/** Which person the facts of a subject count for. */
final class Merges {

    private final Map<String, String> into = new HashMap<>();

    /** @param facts in folding order */
    Merges(Iterable<Fact> facts) {
        for (Fact fact : facts) {
            if (fact.happening() instanceof PersonMerged merge) {
                String from = last(fact.subject());
                String to = last(merge.into());
                // one who was merged before takes along whom they were merged into; a circle is ignored
                if (!from.equals(to)) {
                    into.put(from, to);
                }
            }
        }
        into.replaceAll((subject, next) -> last(next));
    }

    String person(String subject) {
        return into.getOrDefault(subject, subject);
    }

    /** Follows the merges, and keeps the way short, so that a long row of them is walked once. */
    private String last(String subject) {
        String person = subject;
        for (String next = into.get(person); next != null; next = into.get(person)) {
            person = next;
        }
        for (String at = subject; !at.equals(person); ) {
            String next = into.replace(at, person);
            at = next == null ? person : next;
        }
        return person;
    }
}
