package yoru.core.ledger;

import java.util.ArrayDeque;
import java.util.Collection;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Optional;
import java.util.SequencedSet;
import yoru.core.ledger.Happening.PersonMerged;
import yoru.core.ledger.Happening.PersonParted;

/**
 * Which person the facts of a subject count for. A merge counts from the first moment on, and so does its being taken
 * back: what was merged and parted again is as if it had never been merged, also for whoever was merged later.
 */
final class Merges {

    private final Map<String, String> into = new HashMap<>();
    private final Map<String, Deque<Merge>> bySubject = new HashMap<>();

    /** Told apart by its fact from another of the same two. */
    private record Merge(FactId fact, String subject, String into) {}

    /** @param facts in folding order */
    Merges(Collection<Fact> facts) {
        for (Merge merge : standing(facts)) {
            String from = last(merge.subject);
            String to = last(merge.into);
            // one who was merged before takes along whom they were merged into; a circle is ignored
            if (!from.equals(to)) {
                into.put(from, to);
            }
        }
        into.replaceAll((subject, next) -> last(next));
    }

    /** The merges that were not taken back. */
    private SequencedSet<Merge> standing(Collection<Fact> facts) {
        var standing = new LinkedHashSet<Merge>();
        for (Fact fact : facts) {
            if (fact.happening() instanceof PersonMerged merged) {
                var merge = new Merge(fact.id(), fact.subject(), merged.into());
                bySubject
                        .computeIfAbsent(merge.subject, it -> new ArrayDeque<>())
                        .addLast(merge);
                standing.add(merge);
            } else if (fact.happening() instanceof PersonParted parted) {
                var own = bySubject.getOrDefault(fact.subject(), new ArrayDeque<>());
                if (!own.isEmpty() && own.getLast().into.equals(parted.from())) {
                    standing.remove(own.removeLast());
                }
            }
        }
        return standing;
    }

    String person(String subject) {
        return into.getOrDefault(subject, subject);
    }

    /** Into whom a subject was merged last, as far as it was not taken back. */
    Optional<String> mergedInto(String subject) {
        return Optional.ofNullable(bySubject.get(subject)).map(Deque::peekLast).map(Merge::into);
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
