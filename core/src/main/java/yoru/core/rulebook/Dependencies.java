package yoru.core.rulebook;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;

/**
 * In which order levels and tags must be looked at: what a link opens comes after what the link starts from. All levels
 * of a ladder are one node, for a higher one can cover or include a lower one.
 */
public final class Dependencies {

    /** Something that people hold and that links lead to and start from. */
    public sealed interface Node {

        record Tag(String tag) implements Node {}

        /** All levels of a ladder. */
        record OnLadder(String ladder) implements Node {}

        /** A level on no ladder. */
        record Alone(String level) implements Node {}

        /** "the tag Member". */
        default String words(Rulebook rulebook) {
            return switch (this) {
                case Tag it -> "the tag " + rulebook.title(new Target.OfTag(it.tag));
                case OnLadder it -> "the ladder " + it.ladder;
                case Alone it -> "the level " + rulebook.title(new Target.OfLevel(it.level));
            };
        }
    }

    /**
     * Things that depend on themselves.
     *
     * @param members in the order in which one leads to the next, the last leading to the first again
     * @param links by which they do
     */
    public record Cycle(List<Node> members, List<String> links) {}

    private record Edge(Node from, Node to, String link) {}

    private final List<Node> order;
    private final List<Cycle> cycles;

    private Dependencies(List<Node> order, List<Cycle> cycles) {
        this.order = order;
        this.cycles = cycles;
    }

    /** Every tag and every level (or its ladder), those that others depend on first. Whole only without cycles. */
    public List<Node> order() {
        return order;
    }

    public List<Cycle> cycles() {
        return cycles;
    }

    public static Dependencies of(Rulebook rulebook) {
        Map<String, Node> nodeOfLevel = new HashMap<>();
        Set<Node> nodes = new LinkedHashSet<>();
        for (Level level : rulebook.levels()) {
            Node node = level.ladder().<Node>map(Node.OnLadder::new).orElseGet(() -> new Node.Alone(level.id()));
            nodeOfLevel.put(level.id(), node);
            nodes.add(node);
        }
        rulebook.all(Sort.TAG).forEach(tag -> nodes.add(new Node.Tag(tag.id())));
        var edges = new ArrayList<Edge>();
        for (Link link : rulebook.links()) {
            Optional<Node> from = switch (link.from()) {
                case Source.OfLevel it -> Optional.ofNullable(nodeOfLevel.get(it.level()));
                case Source.OfTag it -> Optional.of(new Node.Tag(it.tag()));
                case Source.OfProduct _, Source.OfOption _, Source.OfCategory _, Source.OfCompleted _ ->
                    Optional.empty();
            };
            for (Destination destination : link.to()) {
                if (from.isPresent() && destination instanceof Destination.Exactly it) {
                    Optional<Node> to = switch (it.target()) {
                        case Target.OfTag target -> Optional.of(new Node.Tag(target.tag()));
                        case Target.OfLevel target -> Optional.ofNullable(nodeOfLevel.get(target.level()));
                        case Target.OfCourse _,
                                Target.OfSection _,
                                Target.OfGroup _,
                                Target.OfArea _,
                                Target.OfDownload _,
                                Target.OfList _ -> Optional.empty();
                    };
                    to.ifPresent(node -> edges.add(new Edge(from.get(), node, link.id())));
                }
            }
        }
        var left = new LinkedHashSet<>(nodes);
        var order = takeFree(left, edges);
        var cycles = new ArrayList<Cycle>();
        while (!left.isEmpty()) {
            var cycle = cycleIn(left, edges);
            cycles.add(cycle);
            cycle.members().forEach(left::remove);
            takeFree(left, edges);
        }
        return new Dependencies(order, List.copyOf(cycles));
    }

    /** Takes out, again and again, what depends on nothing that is left. */
    private static List<Node> takeFree(Set<Node> left, List<Edge> edges) {
        Map<Node, Integer> waitsFor = new LinkedHashMap<>();
        Map<Node, List<Node>> leadsTo = new HashMap<>();
        left.forEach(node -> waitsFor.put(node, 0));
        for (Edge edge : edges) {
            if (left.contains(edge.from) && left.contains(edge.to)) {
                waitsFor.merge(edge.to, 1, Integer::sum);
                leadsTo.computeIfAbsent(edge.from, node -> new ArrayList<>()).add(edge.to);
            }
        }
        var free = new ArrayDeque<Node>();
        waitsFor.forEach((node, count) -> {
            if (count == 0) {
                free.add(node);
            }
        });
        var order = new ArrayList<Node>();
        while (!free.isEmpty()) {
            Node node = free.remove();
            order.add(node);
            left.remove(node);
            for (Node next : leadsTo.getOrDefault(node, List.of())) {
                if (waitsFor.merge(next, -1, Integer::sum) == 0) {
                    free.add(next);
                }
            }
        }
        return List.copyOf(order);
    }

    /** Everything left depends on something left, so walking backwards must come round. */
    private static Cycle cycleIn(Collection<Node> left, List<Edge> edges) {
        Map<Node, Edge> before = new HashMap<>();
        for (Edge edge : edges) {
            if (left.contains(edge.from) && left.contains(edge.to)) {
                before.putIfAbsent(edge.to, edge);
            }
        }
        Map<Node, Edge> walked = new LinkedHashMap<>();
        Node at = left.iterator().next();
        while (!walked.containsKey(at)) {
            Edge edge = Objects.requireNonNull(before.get(at));
            walked.put(at, edge);
            at = edge.from;
        }
        var members = new ArrayList<Node>();
        var links = new ArrayList<String>();
        Node end = at;
        do {
            Edge edge = Objects.requireNonNull(walked.get(at));
            members.addFirst(edge.from);
            links.addFirst(edge.link);
            at = edge.from;
        } while (!at.equals(end));
        return new Cycle(List.copyOf(members), List.copyOf(links));
    }
}
