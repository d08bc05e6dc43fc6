package yoru.core.systems;

import java.util.Collection;
import java.util.EnumMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Target;

/**
 * What a mapping asks for and no connected system can do: people are given it in Yoru, and nowhere else.
 *
 * @param targets each once, in the order of the links
 */
public record Gap(Ability ability, List<Target> targets) {

    public Gap {
        targets = List.copyOf(targets);
    }

    /** All gaps of a rulebook, given what each connected system can do. */
    public static List<Gap> in(Rulebook rulebook, Collection<Set<Ability>> systems) {
        var index = new RulebookIndex(rulebook);
        Map<Ability, Set<Target>> asked = new EnumMap<>(Ability.class);
        for (Link link : rulebook.links()) {
            for (Target target : index.targets(link)) {
                Ability.neededFor(target)
                        .filter(ability -> systems.stream().noneMatch(can -> can.contains(ability)))
                        .ifPresent(ability -> asked.computeIfAbsent(ability, it -> new LinkedHashSet<>())
                                .add(target));
            }
        }
        return asked.entrySet().stream()
                .map(entry -> new Gap(entry.getKey(), List.copyOf(entry.getValue())))
                .toList();
    }
}
