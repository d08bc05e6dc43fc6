package yoru.core.impact;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.access.State;
import yoru.core.access.Window;
import yoru.core.impact.Change.Kind;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;

/** Compares two rulebooks over the same ledger. */
public final class Impact {

    private final Rulebook before;
    private final Rulebook after;

    public Impact(Rulebook before, Rulebook after) {
        this.before = before;
        this.after = after;
    }

    /** The products whose links differ; nobody who never ordered one of them can be touched. */
    public Set<String> products() {
        var old = before.linksById();
        var now = after.linksById();
        Set<String> touched = new HashSet<>();
        for (Link link : before.links()) {
            if (!link.equals(now.get(link.id()))) {
                touched.add(productOf(link));
            }
        }
        for (Link link : after.links()) {
            if (!link.equals(old.get(link.id()))) {
                touched.add(productOf(link));
            }
        }
        return touched;
    }

    /** What changes for whom, by person and target. */
    public List<Change> over(Ledger ledger, Instant asOf) {
        var concerned = concerned(ledger);
        var was = new Engine(before).evaluate(concerned, asOf).access();
        var is = new Engine(after).evaluate(concerned, asOf).access();
        Map<PersonAtTarget, List<Access>> old = remaining(was);
        Map<PersonAtTarget, List<Access>> now = remaining(is);
        Set<PersonAtTarget> all = new HashSet<>(old.keySet());
        all.addAll(now.keySet());
        return all.stream()
                .sorted()
                .flatMap(key ->
                        compare(key, old.getOrDefault(key, List.of()), now.getOrDefault(key, List.of()), asOf).stream())
                .toList();
    }

    /** All facts of the people who ordered a product that is touched. */
    private Ledger concerned(Ledger ledger) {
        var products = products();
        Set<String> people = new HashSet<>();
        for (Fact fact : ledger.facts()) {
            if (fact.happening() instanceof Happening.OrderPlaced placed
                    && placed.lines().stream().anyMatch(line -> products.contains(line.product()))) {
                people.add(fact.subject());
            }
        }
        Set<String> orders = ledger.facts().stream()
                .filter(fact -> people.contains(fact.subject()))
                .map(fact -> fact.happening().order())
                .collect(Collectors.toSet());
        return Ledger.of(ledger.facts().stream()
                .filter(fact -> orders.contains(fact.happening().order()))
                .toList());
    }

    private static Map<PersonAtTarget, List<Access>> remaining(List<Access> access) {
        Map<PersonAtTarget, List<Access>> byTarget = new TreeMap<>();
        for (Access one : access) {
            if (one.state() != State.ENDED) {
                byTarget.computeIfAbsent(new PersonAtTarget(one.person(), one.target()), key -> new ArrayList<>())
                        .add(one);
            }
        }
        return byTarget;
    }

    private static Optional<Change> compare(PersonAtTarget at, List<Access> was, List<Access> is, Instant asOf) {
        var old = Window.from(asOf, was.stream().map(Access::window).toList());
        var now = Window.from(asOf, is.stream().map(Access::window).toList());
        if (old.equals(now)) {
            return Optional.empty();
        }
        return Optional.of(new Change(at.person(), at.target(), kind(old, now), was, is));
    }

    private static Kind kind(List<Window> old, List<Window> now) {
        if (old.isEmpty()) {
            return Kind.GAINS;
        }
        if (now.isEmpty()) {
            return Kind.LOSES;
        }
        var oldEnd = old.getLast().end().orElse(Instant.MAX);
        var newEnd = now.getLast().end().orElse(Instant.MAX);
        int order = newEnd.compareTo(oldEnd);
        return order == 0 ? Kind.OTHERWISE : order > 0 ? Kind.LONGER : Kind.SHORTER;
    }

    private static String productOf(Link link) {
        return switch (link.from()) {
            case Source.OfProduct from -> from.product();
        };
    }

    private record PersonAtTarget(String person, Target target) implements Comparable<PersonAtTarget> {
        @Override
        public int compareTo(PersonAtTarget other) {
            int byPerson = person.compareTo(other.person);
            return byPerson != 0 ? byPerson : target.path().compareTo(other.target.path());
        }
    }
}
