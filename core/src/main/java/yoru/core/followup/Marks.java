package yoru.core.followup;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening.FollowupWent;
import yoru.core.ledger.Histories;
import yoru.core.rulebook.Followup;

/** What was decided before, as the ledger has it: it stands. */
final class Marks {

    private final Map<RunKey, List<Fact>> stretches = new HashMap<>();
    private final Set<RunKey> passed = new HashSet<>();
    private final List<Fact> adopted;
    private final Map<RunKey, Run> runs = new HashMap<>();
    private final List<Fact> facts;

    Marks(List<Fact> ledger) {
        var all = ledger.stream()
                .filter(fact -> fact.happening() instanceof FollowupWent && Followups.isOwn(fact))
                .toList();
        this.adopted = all.stream().filter(fact -> isByHand(went(fact))).toList();
        all.stream().filter(fact -> went(fact).passed()).forEach(fact -> passed.add(RunKey.of(fact)));
        this.facts = all.stream()
                .filter(fact -> !isByHand(went(fact)) && !went(fact).passed())
                .toList();
        facts.forEach(fact -> stretches
                .computeIfAbsent(RunKey.of(fact), key -> new ArrayList<>())
                .add(fact));
        stretches.values().forEach(list -> list.sort(Comparator.comparingInt(Marks::number)));
    }

    private static FollowupWent went(Fact fact) {
        return (FollowupWent) fact.happening();
    }

    private static boolean isByHand(FollowupWent went) {
        return went.occasion().equals(RunKey.BY_HAND) || went.occasion().startsWith(RunKey.BY_HAND + "/");
    }

    /** Which stretch it is, as its id ends. */
    private static int number(Fact fact) {
        var id = fact.id().id();
        try {
            return Integer.parseInt(id.substring(id.lastIndexOf('|') + 1));
        } catch (NumberFormatException e) {
            return Integer.MAX_VALUE;
        }
    }

    /** The follow-ups as they were served. */
    Stream<Followup> served() {
        return facts.stream().map(fact -> went(fact).as()).filter(Objects::nonNull);
    }

    /** Whether nothing was ever decided, passed by or adopted. */
    boolean areNone() {
        return isEmpty() && passed.isEmpty();
    }

    boolean isEmpty() {
        return facts.isEmpty() && adopted.isEmpty();
    }

    List<Fact> facts() {
        return facts;
    }

    /** Those of a round of an instant, in folding order. */
    Stream<Fact> of(Instant at, int round) {
        return isEmpty()
                ? Stream.empty()
                : facts.stream()
                        .filter(fact -> fact.time().equals(at) && went(fact).round() == round)
                        .toList()
                        .stream();
    }

    boolean hasRound(Instant at, int round) {
        return !isEmpty()
                && facts.stream()
                        .anyMatch(fact -> fact.time().equals(at) && went(fact).round() >= round);
    }

    /** Whether an occasion was asked before, under any of a person's keys. */
    boolean know(List<String> people, String followup, String occasion) {
        return people.stream()
                .map(person -> new RunKey(person, followup, occasion))
                .anyMatch(key -> stretches.containsKey(key) || passed.contains(key));
    }

    /** The follow-up as it was served. */
    @Nullable
    Followup as(RunKey run) {
        return stretches.getOrDefault(run, List.of()).stream()
                .map(fact -> went(fact).as())
                .filter(as -> as != null)
                .findFirst()
                .orElse(null);
    }

    Run run(Fact mark, Supplier<Run> first) {
        return runs.computeIfAbsent(RunKey.of(mark), key -> first.get());
    }

    boolean isLast(Fact mark) {
        return stretches.getOrDefault(RunKey.of(mark), List.of()).getLast().equals(mark);
    }

    /** What somebody was served before, whatever the time of its marks. */
    PersonState served(String person, Histories known) {
        var state = new PersonState();
        stretches.forEach((key, list) -> {
            var as = as(key);
            if (key.person().equals(person) && as != null) {
                var first = list.getFirst();
                state.served.add(Going.served(as, Occasions.read(as, key.occasion(), first.time(), known)));
            }
        });
        adopted.stream().filter(fact -> fact.subject().equals(person)).forEach(fact -> {
            var went = went(fact);
            var thing = went.occasion().substring(RunKey.BY_HAND.length());
            state.adopted.add(thing.isEmpty() ? went.followup() : went.followup() + "|" + thing.substring(1));
        });
        return state;
    }
}
