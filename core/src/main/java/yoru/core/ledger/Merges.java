package yoru.core.ledger;

import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import yoru.core.ledger.Happening.PersonMerged;
import yoru.core.ledger.Happening.PersonParted;

/**
 * Which person the facts of a subject count for. A merge counts from the first moment on, and so does its being taken
 * back: what was merged and parted again is as if it had never been merged.
 */
final class Merges {

    private final Map<String, String> into = new HashMap<>();
    private final boolean withPartings;

    /** @param facts in folding order */
    Merges(Collection<Fact> facts) {
        this.withPartings = facts.stream().anyMatch(fact -> fact.happening() instanceof PersonParted);
        for (Fact fact : facts) {
            if (fact.happening() instanceof PersonMerged merge) {
                String from = last(fact.subject());
                String to = last(merge.into());
                // one who was merged before takes along whom they were merged into; a circle is ignored
                if (!from.equals(to)) {
                    into.put(from, to);
                }
            } else if (fact.happening() instanceof PersonParted parted) {
                into.remove(fact.subject(), parted.from());
            }
        }
        into.replaceAll((subject, next) -> last(next));
    }

    String person(String subject) {
        return into.getOrDefault(subject, subject);
    }

    /**
     * Follows the merges, and keeps the way short, so that a long row of them is walked once. Where some are taken back
     * again each step of the way must stay known.
     */
    private String last(String subject) {
        String person = subject;
        for (String next = into.get(person); next != null; next = into.get(person)) {
            person = next;
        }
        for (String at = subject; !withPartings && !at.equals(person); ) {
            String next = into.replace(at, person);
            at = next == null ? person : next;
        }
        return person;
    }
}
