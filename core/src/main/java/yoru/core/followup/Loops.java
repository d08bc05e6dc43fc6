package yoru.core.followup;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Followup.When;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;

/** Finds follow-ups that would serve each other for ever. */
public final class Loops {

    private final RulebookIndex index;
    private final Rulebook rulebook;

    public Loops(RulebookIndex index) {
        this.index = index;
        this.rulebook = index.rulebook();
    }

    private record Edge(Followup from, Followup to, boolean gives) {}

    /** The members of each circle in which something is given, in the rulebook's order. */
    public List<List<Followup>> all() {
        var on = rulebook.followups().stream().filter(Followup::on).toList();
        var edges = new ArrayList<Edge>();
        for (Followup from : on) {
            var given = reached(Targets.given(from, rulebook));
            var taken = reached(Targets.taken(from, rulebook));
            for (Followup to : on) {
                boolean gives = waits(to, true).stream().anyMatch(given::contains);
                if (gives || waits(to, false).stream().anyMatch(taken::contains)) {
                    edges.add(new Edge(from, to, gives));
                }
            }
        }
        var circles = new LinkedHashSet<List<Followup>>();
        for (Edge edge : edges) {
            if (edge.gives && leads(edge.to, edge.from, edges)) {
                circles.add(on.stream()
                        .filter(one -> leads(edge.from, one, edges) && leads(one, edge.from, edges))
                        .toList());
            }
        }
        return List.copyOf(circles);
    }

    private static boolean leads(Followup from, Followup to, List<Edge> edges) {
        Set<Followup> seen = new HashSet<>(Set.of(from));
        var toDo = new ArrayList<>(List.of(from));
        while (!toDo.isEmpty()) {
            var one = toDo.removeLast();
            if (one.equals(to)) {
                return true;
            }
            edges.stream()
                    .filter(edge -> edge.from.equals(one))
                    .map(Edge::to)
                    .filter(seen::add)
                    .forEach(toDo::add);
        }
        return false;
    }

    /** What it waits for that something given, or something taken, can bring about. */
    private Set<Target> waits(Followup followup, boolean given) {
        return switch (followup.when()) {
            case When.Opened it -> given ? Targets.of(it.targets(), rulebook) : Set.of();
            case When.Ended it -> Targets.of(it.targets(), rulebook);
            case When.Ending it -> given ? Targets.of(it.targets(), rulebook) : Set.of();
            case When.OfOrder _, When.Claimed _, When.OfSubscription _, When.Completed _, When.Account _ -> Set.of();
        };
    }

    /** These, and whatever links open because of them. */
    private Set<Target> reached(Set<Target> first) {
        Set<Target> reached = new HashSet<>();
        var toDo = new ArrayList<>(first);
        while (!toDo.isEmpty()) {
            var target = toDo.removeLast();
            if (!reached.add(target)) {
                continue;
            }
            switch (target) {
                case Target.OfTag it ->
                    index.from(new Source.OfTag(it.tag())).forEach(link -> toDo.addAll(index.targets(link)));
                case Target.OfLevel it ->
                    index.level(it.level()).stream()
                            .flatMap(level -> index.includedIn(level).stream())
                            .flatMap(level -> index.from(new Source.OfLevel(level.id())).stream())
                            .forEach(link -> toDo.addAll(index.targets(link)));
                case Target.OfCourse it -> toDo.addAll(index.targets(Destination.whole(it.course())));
                case Target.OfSection _, Target.OfGroup _, Target.OfArea _, Target.OfDownload _, Target.OfList _ -> {}
            }
        }
        return reached;
    }
}
